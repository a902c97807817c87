// The pages beside the stand, by real mouse and key events.

#include "app/look/words.hpp"
#include "tests/window/open_pot.hpp"

#include <QApplication>
#include <QClipboard>
#include <QPushButton>
#include <QTranslator>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::OpenPot;

namespace {

QPushButton* buttonOf(QWidget* parent, const QString& text) {
    for (QPushButton* b : parent->findChildren<QPushButton*>())
        if (b->text() == text) return b;
    FAIL("no button " << text.toStdString());
    return nullptr;
}

} // namespace

TEST_CASE("Stations are added, deleted and pasted, and undone one by one") {
    OpenPot pot;
    const auto rows = [&] { return pot.step(1).stations("stations"); };
    const auto original = rows();
    pot.clickSlot(1, "stations");
    REQUIRE(pot.window.stages()->stage() == "Outline");
    StationsPage* page = pot.window.outline()->stationsPage();
    const auto push = [&](const QString& text) {
        QPushButton* b = buttonOf(page, text);
        REQUIRE(Hand::steady([&] { return QPointF(b->mapToGlobal(QPoint())); }));
        pot.hand->click(b, QPointF(b->rect().center()));
    };
    push(QStringLiteral("Add row"));
    REQUIRE(Hand::wait([&] { return rows().size() == original.size() + 1; }, 5000));
    QTableWidget* table = page->table();
    pot.hand->click(table->viewport(), table->visualItemRect(table->item(1, 0)).center());
    REQUIRE(Hand::wait([&] { return table->currentRow() == 1; }, 5000));
    push(QStringLiteral("Delete row"));
    REQUIRE(Hand::wait([&] { return rows().size() == original.size(); }, 5000));
    QApplication::clipboard()->setText(QStringLiteral("0 mm; 60 mm\n45 mm; 71 mm\n90 mm; 80 mm\n"));
    push(QStringLiteral("Paste"));
    REQUIRE(Hand::wait([&] { return rows().size() == 3; }, 5000));
    REQUIRE(pot.measured());
    CHECK(pot.window.forge()->steps().at(1).ok);
    CHECK(*pot.target("height").value == Approx(90).margin(1e-6));
    QApplication::clipboard()->setText(QStringLiteral("nothing that could be a measurement"));
    push(QStringLiteral("Paste"));
    CHECK(rows().size() == 3);
    for (int k = 0; k < 3; ++k) pot.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return !pot.window.session()->history().canUndo(); }, 5000));
    CHECK(rows() == original);
}

TEST_CASE("A step is switched off, on and deleted by keys, and comes back") {
    OpenPot pot;
    const double mass = *pot.target("mass").value;
    pot.hand->click(pot.window.sheet()->row(6), QPointF(10, 12));
    pot.hand->press("space");
    REQUIRE(Hand::wait([&] { return pot.step(6).off; }, 5000));
    REQUIRE(pot.measured());
    CHECK(pot.window.forge()->steps().at(6).off);
    // Six bores of 9 mm that widen by 2 degrees through 2.4 mm of floor.
    const double r0 = 4.5, r1 = 4.5 + 2.4 * std::tan(2 * M_PI / 180);
    const double bores = 6 * M_PI * 2.4 / 3 * (r0 * r0 + r0 * r1 + r1 * r1) * 0.905e-3;
    CHECK(*pot.target("mass").value - mass == Approx(bores).epsilon(1e-6));
    pot.hand->click(pot.window.sheet()->row(6), QPointF(10, 12));
    pot.hand->press("Delete");
    REQUIRE(Hand::wait([&] { return pot.window.session()->part().steps.size() == 5; }, 5000));
    pot.hand->press("z", true);
    pot.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return !pot.window.session()->history().canUndo(); }, 5000));
    REQUIRE(pot.measured());
    CHECK(*pot.target("mass").value == Approx(mass));
}

TEST_CASE("A target typed over in the brief is judged anew") {
    OpenPot pot;
    pot.window.setStage(QStringLiteral("Brief"));
    auto* page = pot.window.brief()->brief();
    REQUIRE(page);
    QTableWidget* targets = page->targets();
    REQUIRE(Hand::steady([&] { return QPointF(targets->viewport()->mapToGlobal(QPoint())); }));
    const auto typeOver = [&](const QString& text) {
        pot.hand->click(targets->viewport(), targets->visualItemRect(targets->item(0, 1)).center());
        pot.hand->press("F2");
        pot.hand->press("a", true);
        pot.hand->type(text);
        pot.hand->press("Return");
    };
    typeOver(QStringLiteral("<= 70 g"));
    REQUIRE(Hand::wait(
        [&] { return pot.window.session()->part().brief.targets[0].allowed.find("70") != std::string::npos; },
        5000));
    REQUIRE(pot.measured());
    CHECK(pot.target("mass").verdict == "fails");
    const std::string good = pot.window.session()->part().brief.targets[0].allowed;
    typeOver(QStringLiteral("about right"));
    Hand::settle();
    REQUIRE(pot.measured());
    CHECK(pot.window.session()->part().brief.targets[0].allowed == good); // what cannot be read is refused
    CHECK(targets->item(0, 1)->text().toStdString() == good);
}

namespace {

/// Puts every sentence of core into brackets: what is not in brackets in the window cannot be translated.
class Brackets : public QTranslator {
  public:
    QString translate(const char* context, const char* source, const char*, int) const override {
        return QLatin1String(context) == QLatin1String("core")
                   ? QStringLiteral("[%1]").arg(QLatin1String(source))
                   : QString();
    }
    bool isEmpty() const override { return false; }
};

} // namespace

TEST_CASE(
    "Sentences of core are put into the person's language, and what stands in them is put in afterwards") {
    Brackets brackets;
    QCoreApplication::installTranslator(&brackets);
    CHECK(inWords(phrase("There is no %1. The cause: %2.", "rim", phrase("%1 took it", "step 4"))) ==
          "[There is no [rim]. The cause: [[step 4] took it].]");
    {
        OpenPot pot;
        pot.clickSlot(5, "radius");
        pot.hand->press("a", true);
        pot.hand->type("1.6 mm");
        pot.hand->press("Return");
        REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }, 60000));
        const auto& step = pot.window.forge()->steps().at(5);
        REQUIRE_FALSE(step.ok);
        CHECK(step.error.startsWith(QLatin1String("[A radius of [1.6 mm] does not fit")));
    }
    QCoreApplication::removeTranslator(&brackets);
}

TEST_CASE("Rows of the sheet stay where they are while the part is built again") {
    OpenPot pot;
    const auto places = [&] {
        std::vector<int> out;
        for (const Step& s : pot.window.session()->part().steps)
            out.push_back(pot.window.sheet()->row(s.id)->mapTo(pot.window.sheet(), QPoint(0, 0)).y());
        return out;
    };
    const auto before = places();
    pot.clickSlot(4, "wall");
    pot.hand->press("a", true);
    pot.hand->type("2.5");
    bool moved = false;
    int looks = 0;
    QObject::connect(pot.window.forge(), &ForgeLink::stepsChanged, &pot.window, [&] {
        QTimer::singleShot(0, &pot.window, [&] {
            ++looks;
            moved = moved || places() != before;
        });
    });
    pot.hand->press("Return");
    REQUIRE(pot.measured());
    CHECK(looks > 2);
    CHECK_FALSE(moved);
}

TEST_CASE(
    "Lengths in another unit: the part keeps its size, and reading figures anew is seen before it is taken") {
    OpenPot pot;
    Part p = pot.window.session()->part();
    p.values[0].expression = "2.4"; // without a unit
    REQUIRE(pot.window.session()->commit(p, QStringLiteral("wall")));
    REQUIRE(pot.measured());
    const double mass = *pot.target("mass").value;
    pot.window.setStage(QStringLiteral("Brief"));
    BriefPage* brief = pot.window.brief()->brief();
    Hand::settle();
    const auto choose = [&](int down) {
        pot.hand->click(brief->lengths(), QPointF(brief->lengths()->rect().center()));
        Hand::settle();
        for (int k = 0; k < down; ++k) pot.hand->press("Down");
        pot.hand->press("Return");
    };
    choose(2);
    REQUIRE(Hand::wait([&] { return pot.window.session()->part().brief.units.length == "in"; }, 5000));
    CHECK(pot.window.session()->part().values[0].expression == "2.4 mm");
    REQUIRE(pot.measured());
    CHECK(*pot.target("mass").value == Approx(mass).epsilon(1e-9));
    const auto button = [&](const char* text) {
        QPushButton* b = buttonOf(brief->unitsChoice(), QString::fromUtf8(text));
        REQUIRE(Hand::wait([&] { return b->isVisible(); }, 5000));
        REQUIRE(Hand::steady([&] { return QPointF(b->mapToGlobal(QPoint())); }));
        pot.hand->click(b, QPointF(b->rect().center()));
    };
    SECTION("seen, and left") {
        button("Or read as inches …");
        REQUIRE(Hand::wait([&] { return !pot.window.forge()->busy(); }, 60000));
        CHECK(pot.window.session()->part().values[0].expression == "2.4 mm"); // only seen
        button("Keep the size");
        REQUIRE(pot.measured());
        CHECK(*pot.target("mass").value == Approx(mass).epsilon(1e-9));
        CHECK_FALSE(brief->unitsChoice()->isVisible());
    }
    SECTION("seen, and taken") {
        button("Or read as inches …");
        button("Read them so");
        REQUIRE(Hand::wait([&] { return pot.window.session()->part().values[0].expression == "2.4"; }, 5000));
        const Part& now = pot.window.session()->part();
        CHECK(valuesOf(now).at("wall").value == Approx(2.4 * 25.4));
        pot.window.session()->undo();
        CHECK(valuesOf(pot.window.session()->part()).at("wall").value == Approx(2.4));
    }
}
