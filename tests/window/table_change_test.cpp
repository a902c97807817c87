/// \file What is changed later on the table, and what lies over it making way.

#include "core/sketch/repeats.hpp"
#include "tests/window/table_hand.hpp"

using namespace gc;
using namespace gc::test;

namespace {

struct Changing : Editing {
    std::vector<Vec2> centres() {
        std::vector<Vec2> out;
        for (const Stroke& s : drawing().strokes)
            if (s.kind == StrokeKind::Circle) out.push_back(drawing().at(s.points[0]));
        return out;
    }
    bool hasCentre(Vec2 at) {
        const auto all = centres();
        return std::any_of(all.begin(), all.end(), [&](Vec2 c) { return length(c - at) < 1e-6; });
    }
    void circle(Vec2 c, double r) {
        tool("circle");
        at(c);
        at(c + Vec2{r, 0});
        key("Escape");
        key("Escape");
    }
    double radius() { return drawing().strokes.at(0).sizes.at(0); }
    Vec2 rim(std::size_t i) { return centres().at(i) + Vec2{0, radius()}; }
    void ask(const char* edit, Vec2 what) {
        at(what);
        REQUIRE(Hand::wait([&] { return table()->chosen().size() == 1; }));
        chip(edit);
        REQUIRE(Hand::wait([&] { return window.bar()->editing(); }));
    }
    void keep(std::size_t circles) {
        hand->press("Return");
        REQUIRE(Hand::wait([&] { return centres().size() == circles && !window.bar()->editing(); }));
        CHECK(window.drawingModel()->diagnosis().sound());
    }
};

} // namespace

TEST_CASE("Rows are changed by a click on one of them, and by their figure") {
    Changing t;
    t.circle({12, 12}, 2);
    t.ask("Rows", t.rim(0));
    t.slot("columns", "4");
    t.slot("across", "9 mm");
    t.keep(4);
    // Later, from a copy: how many and how far apart stand in the sentence as they are.
    t.hand->press("Escape");
    t.at(t.rim(2));
    t.chip("Change 4 in a row");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    CHECK(t.window.bar()->draft()->text("columns") == "4");
    CHECK(t.window.bar()->draft()->text("across") == "9 mm");
    t.slot("columns", "3");
    t.slot("rows", "2");
    t.slot("up", "7 mm");
    t.keep(6);
    for (int i = 0; i < 3; ++i)
        for (int j = 0; j < 2; ++j) {
            const Vec2 want = t.centres()[0] + Vec2{i * 9.0, j * 7.0};
            CHECK(t.hasCentre(want));
        }
    // In place: the figure says how many, and takes both.
    t.hand->press("Escape");
    const int pitch = t.drawing().repeats.at(0).firstPitch;
    CHECK(t.window.drawingModel()->shownFigure(*t.drawing().findRelation(pitch)) ==
          QString::fromUtf8("3 × 9 mm"));
    t.hand->click(t.table(), t.table()->figureAt(pitch));
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    t.hand->type(QStringLiteral("5 x 8 mm"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.centres().size() == 10; }));
    const Vec2 last = t.centres()[0] + Vec2{4 * 8.0, 7};
    CHECK(t.hasCentre(last));
    // A wrong number is told, and nothing is lost.
    t.hand->click(t.table(), t.table()->figureAt(pitch));
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    t.hand->type(QStringLiteral("900 x 8 mm"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.bar()->message().contains(QStringLiteral("400")); }));
    t.hand->press("Escape");
    CHECK(t.centres().size() == 10);
    t.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return t.centres().size() == 6; }));
}

TEST_CASE("Copies around a point are changed in number; one that is taken away leaves the others") {
    Changing t;
    t.circle({24, 6}, 2);
    t.ask("Around", t.rim(0));
    t.slot("count", "6");
    t.keep(6);
    t.hand->press("Escape");
    t.at(t.rim(1)); // the first copy, which carries the turn
    t.chip("Remove");
    REQUIRE(Hand::wait([&] { return t.centres().size() == 5; }));
    CHECK(t.window.drawingModel()->diagnosis().sound());
    t.at(t.rim(0));
    t.chip("Change 6 around");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.slot("count", "8");
    t.keep(7);
    const Vec2 first = t.centres()[0];
    for (const Vec2 c : t.centres()) CHECK(length(c) == Approx(length(first)));
}

TEST_CASE("Circles are measured over all by a chip, and from their centres again") {
    Changing t;
    t.circle({14, 14}, 3);
    t.circle({44, 20}, 4);
    t.tool("dimension");
    t.at(t.centres()[0] + Vec2{0, 3});
    t.at(t.centres()[1] + Vec2{0, 4});
    t.chip("Over all");
    t.at({29, -4}); // below both: across
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    t.hand->type(QStringLiteral("40 mm"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.table()->editor()->isVisible(); }));
    const auto over = [&] {
        const auto& s = t.drawing().strokes;
        const Vec2 by = t.centres()[1] - t.centres()[0];
        return by.x + s[0].sizes[0] + s[1].sizes[0];
    };
    CHECK(over() == Approx(40).epsilon(1e-9));
    const int figure = t.drawing().relations.back().id;
    t.key("Escape");
    REQUIRE(Hand::steady([&] { return t.table()->figureAt(figure); }));
    t.hand->click(t.table(), t.table()->figureAt(figure));
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    t.chip("From the centres");
    REQUIRE(Hand::wait([&] { return !t.drawing().findRelation(figure)->overAll; }));
    CHECK(measured(t.drawing(), *t.drawing().findRelation(figure)) ==
          Approx(t.centres()[1].x - t.centres()[0].x));
}

TEST_CASE("What lies over the table makes way for the drawing, and comes back when it is pointed at") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    t.key("Escape");
    t.hand->press("Home");
    REQUIRE(Hand::wait([&] { return !t.table()->cardFolded() && !t.table()->stripFolded(); }));
    const QRectF open = t.table()->cardRect();
    // A line drawn towards where the card is: it is out of the way before the click is made.
    t.tool("line");
    t.at({12, 8});
    REQUIRE(Hand::wait([&] { return t.table()->cardFolded(); }));
    const QPointF under = open.center();
    t.hand->click(t.table(), under);
    REQUIRE(Hand::wait([&] { return t.strokes() == 5; }));
    const QPointF end = t.table()->toScreen(t.end(4, 1));
    CHECK((end - under).manhattanLength() < 12);
    t.key("Escape");
    t.key("Escape");
    t.hand->moveTo(t.table(), t.table()->toScreen({14, 2}));
    REQUIRE(Hand::wait([&] { return t.table()->cardFolded(); })); // it would hide that line
    t.hand->click(t.table(), end - QPointF(0, 0));                // the end can be chosen
    REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 1; }));
    t.hand->press("Escape");
    t.hand->moveTo(t.table(), t.table()->cardRect().center());
    REQUIRE(Hand::wait([&] { return !t.table()->cardFolded(); })); // asked for
    t.hand->moveTo(t.table(), t.table()->toScreen({14, 2}));
    REQUIRE(Hand::wait([&] { return t.table()->cardFolded(); }));
    t.hand->press("Home"); // fitted, there is room beside it
    REQUIRE(Hand::wait([&] { return !t.table()->cardFolded(); }));
    // Folded by hand it stays so, and opens by a click.
    t.hand->click(t.table(), t.table()->cardRect(QStringLiteral("fold away")).center());
    REQUIRE(Hand::wait([&] { return t.table()->cardFolded(); }));
    t.hand->moveTo(t.table(), t.table()->toScreen({14, 2}));
    Hand::settle();
    CHECK(t.table()->cardFolded());
    t.hand->click(t.table(), t.table()->cardRect().center());
    REQUIRE(Hand::wait([&] { return !t.table()->cardFolded(); }));
}

TEST_CASE("Figures that were put on one spot stand apart, and each answers its own click") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    t.tool("dimension");
    t.size({t.middle(0)}, {30, 42}, "40");
    REQUIRE(Hand::steady([&] { return t.table()->toScreen({0, 0}); }));
    const int first = t.drawing().relations.back().id;
    const QPointF spot = t.table()->figureAt(first);
    t.at(t.middle(1));
    t.hand->click(t.table(), spot + QPointF(0, 3)); // on the very same spot
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.table()->editor()->isVisible(); }));
    const int second = t.drawing().relations.back().id;
    REQUIRE(first != second);
    const QPointF by = t.table()->figureAt(first) - t.table()->figureAt(second);
    CHECK((std::fabs(by.y()) >= 20 || std::fabs(by.x()) >= 40));
    for (const int figure : {first, second}) {
        t.hand->click(t.table(), t.table()->figureAt(figure));
        REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
        CHECK(t.table()->editor()->text().toStdString() == t.drawing().findRelation(figure)->expression);
        t.hand->press("Escape");
        REQUIRE(Hand::wait([&] { return !t.table()->editor()->isVisible(); }));
    }
}

TEST_CASE("A double click on a figure takes it whole") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    t.tool("dimension");
    t.size({t.middle(0)}, {30, 42}, "40 mm");
    t.key("Escape");
    t.key("Escape");
    const int figure = t.drawing().relations.back().id;
    REQUIRE(Hand::steady([&] { return t.table()->figureAt(figure); }));
    t.hand->doubleClick(t.table(), t.table()->figureAt(figure));
    QLineEdit* editor = t.table()->editor();
    REQUIRE(Hand::wait([&] { return editor->isVisible(); }));
    Hand::settle();
    CHECK(editor->selectedText() == QStringLiteral("40 mm"));
    t.hand->type(QStringLiteral("44"));
    CHECK(editor->text() == QStringLiteral("44"));
    t.hand->press("Escape");
}
