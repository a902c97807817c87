/// \file Sentences in the bar: their changes are taken back one by one, their faults are told while they are
/// typed.

#include "core/document/part_file.hpp"
#include "tests/window/open_pot.hpp"
#include "tests/window/sight.hpp"

#include <QApplication>
#include <algorithm>
#include <cmath>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::look;
using gc::test::OpenPot;

namespace {

struct Draft : OpenPot {
    /// Begins a sentence by typing its verb.
    void begin(const char* verb) {
        hand->type(QString::fromLatin1(verb));
        hand->press("Return");
        REQUIRE(Hand::wait([&] { return window.bar()->active(); }, 5000));
        Hand::settle();
    }
    void slot(const char* key, const char* text) {
        SentenceFlow* flow = window.bar()->sentence();
        const QString slot = QString::fromLatin1(key);
        hand->click(flow, QRectF(flow->slotRect(slot)).center());
        hand->press("a", true);
        hand->type(QString::fromLatin1(text));
        hand->press("Return");
        REQUIRE(Hand::wait([&] { return said(key) == text; }, 5000));
    }
    std::string said(const char* key) {
        return window.bar()->active() ? window.bar()->draft()->text(key) : std::string();
    }
    void undo() {
        hand->press("z", true);
        Hand::settle();
    }
};

} // namespace

TEST_CASE("Ctrl+Z takes back one thing: the sentence's last change, then the sentence, then what was kept") {
    Draft pot;
    Part p = pot.window.session()->part();
    p.values[0].expression = "2.5 mm";
    REQUIRE(pot.window.session()->commit(p, QStringLiteral("wall")));
    pot.begin("shell");
    const std::string fallback = pot.said("wall");
    pot.slot("wall", "3 mm");
    pot.slot("wall", "4 mm");
    const auto says = [&](const std::string& text) {
        return Hand::wait([&] { return pot.said("wall") == text; }, 5000);
    };
    pot.undo();
    CHECK(says("3 mm"));
    pot.hand->press("y", true);
    CHECK(says("4 mm"));
    pot.undo();
    CHECK(says("3 mm"));
    pot.undo();
    CHECK(says(fallback));
    REQUIRE(pot.window.bar()->active());
    CHECK(pot.window.session()->part().values[0].expression == "2.5 mm");
    pot.undo();
    CHECK(Hand::wait([&] { return !pot.window.bar()->active(); }, 5000)); // the sentence, and nothing else
    CHECK(pot.window.session()->part().values[0].expression == "2.5 mm");
    pot.undo();
    CHECK(pot.window.session()->part().values[0].expression != "2.5 mm");
}

TEST_CASE("A sentence that cannot be built says why while it is typed, and stops when it can") {
    Draft pot;
    pot.begin("shell");
    pot.slot("wall", "500 mm");
    REQUIRE(Hand::wait([&] { return pot.window.bar()->fault().startsWith(QStringLiteral("■ ")); }, 60000));
    CHECK(pot.window.bar()->active());
    pot.slot("wall", "5000000 mm"); // out of its range already while it is typed
    CHECK(pot.window.bar()->message().startsWith(QStringLiteral("■ ")));
    pot.undo();
    pot.undo();
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }, 40000));
    CHECK(pot.window.bar()->message().isEmpty());
    pot.hand->press("Escape");
    REQUIRE(pot.measured());
    CHECK(pot.window.bar()->fault().isEmpty());
}

TEST_CASE("A pick is taken back by Ctrl+Z, and a click on its slot lets nothing go") {
    Draft pot;
    pot.hand->moveTo(pot.window.stand(), QPointF(pot.window.stand()->rect().center()));
    look(*pot.hand, pot.window.stand(), 1);
    look(*pot.hand, pot.window.stand(), 6); // from below: the mouths of the drain holes
    pot.begin("fil");
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }));
    const auto picks = [&] { return pot.window.bar()->draft()->references("edges").size(); };
    const auto pick = [&](QVector3D at) {
        const QPointF edge = pot.window.stand()->screenOf(at);
        pot.hand->moveTo(pot.window.stand(), edge);
        pot.hand->click(pot.window.stand(), edge);
    };
    pick({28.5f, 0, 0});
    REQUIRE(Hand::wait([&] { return picks() == 1; }, 5000)); // how it can be called may have to be asked
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }));
    // All mouths are meant by that, and rounded already: of another no edge is left to pick. The foot has
    // one.
    pick({-28.5f, 0, 0});
    REQUIRE(Hand::wait(
        [&] {
            return pot.window.stand()->reading() ==
                   QStringLiteral("this step makes it: pick what was there before");
        },
        5000));
    CHECK(picks() == 1);
    const auto& lines = pot.window.forge()->meshes().begin()->second.lines;
    const auto foot = std::find_if(lines.begin(), lines.end(), [](const QVector3D& p) {
        return std::fabs(p.z()) < 0.01f && std::hypot(p.x(), p.y()) > 30 && p.x() < 0 && std::fabs(p.y()) > 5;
    });
    REQUIRE(foot != lines.end());
    pick(*foot);
    REQUIRE(Hand::wait([&] { return picks() == 2; }, 5000));
    SentenceFlow* flow = pot.window.bar()->sentence();
    pot.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("edges"))).center());
    Hand::settle();
    CHECK(picks() == 2);
    pot.undo();
    CHECK(Hand::wait([&] { return picks() == 1; }, 5000));
    pot.undo();
    CHECK(Hand::wait([&] { return picks() == 0; }, 5000));
    REQUIRE(pot.window.bar()->active());
    pot.undo();
    CHECK(Hand::wait([&] { return !pot.window.bar()->active(); }, 5000));
}

TEST_CASE("Edges and faces are picked by keys alone: arrows go from one to the next, Space picks") {
    Draft pot;
    look(*pot.hand, pot.window.stand(), 1);
    pot.begin("fil");
    REQUIRE(Hand::wait([&] { return pot.window.stand()->picking() == Picking::Edges; }, 5000));
    const auto picked = [&] { return pot.window.bar()->draft()->references("edges").size(); };
    const auto walk = [&](const char* way) {
        const QPoint before = pot.window.stand()->keyPlace();
        pot.hand->press(way);
        Hand::settle();
        const QPoint by = pot.window.stand()->keyPlace() - before;
        return before.isNull() || QString::fromLatin1(way) == QLatin1String("Up")
                   ? by.y() < 0 || before.isNull()
                   : by.y() > 0;
    };
    CHECK(walk("Down"));
    REQUIRE(!pot.window.stand()->keyPlace().isNull());
    pot.hand->press("space");
    REQUIRE(Hand::wait([&] { return picked() == 1; }, 10000));
    REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }, 60000));
    CHECK(walk("Up"));
    pot.hand->press("space");
    REQUIRE(Hand::wait([&] { return picked() == 2; }, 10000));
    pot.hand->press("Escape");
    REQUIRE(Hand::wait([&] { return !pot.window.bar()->active(); }, 5000));
    // Faces, too.
    look(*pot.hand, pot.window.stand(), 5);
    pot.begin("shell");
    REQUIRE(Hand::wait([&] { return pot.window.stand()->picking() == Picking::Faces; }, 5000));
    pot.hand->press("Right");
    REQUIRE(!pot.window.stand()->keyPlace().isNull());
    pot.hand->press("space");
    CHECK(Hand::wait([&] { return pot.window.bar()->draft()->references("open").size() == 1; }, 10000));
    pot.hand->press("Escape");
}
