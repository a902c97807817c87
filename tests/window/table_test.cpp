/// \file The drawing table in the real window, drawn on by a scripted hand.

#include "tests/window/table_hand.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

TEST_CASE("A half profile of twelve segments is drawn, settled and turned by hand") {
    Table t;
    t.used = 0;
    // Roughly: a bowl with a stepped rim, from the origin along its underside, up its side, and back inside.
    const std::vector<Vec2> corners{{0, 0},   {30, 0},  {30, 5},  {44, 5}, {44, 24}, {41, 24}, {41, 20},
                                    {38, 20}, {38, 10}, {14, 10}, {14, 7}, {7, 9},   {0, 9}};
    t.at(corners[0]);
    for (std::size_t i = 1; i < corners.size(); ++i) {
        t.at(corners[i]);
        REQUIRE(Hand::wait([&] { return t.strokes() == i; }));
    }
    t.key("Escape");
    CHECK(t.strokes() == 12);
    // Level and upright were offered and taken with the clicks; both ends lie on the axis.
    CHECK(t.count(K::Horizontal) + t.count(K::Vertical) >= 10);
    CHECK(t.count(K::OnStroke) >= 1);
    CHECK(t.window.drawingModel()->closedness().regions.size() == 1);

    t.tool("dimension");
    const auto on = [&](std::size_t i) { return t.middle(i); };
    t.size({t.end(3, 1), {0, 32}}, {20, 32}, "96"); // the first size: the drawing is scaled to it
    CHECK(t.drawing().sized);
    REQUIRE(Hand::steady([&] { return t.window.table()->toScreen({0, 0}); }));
    t.size({on(3)}, on(3) + Vec2{3, 0}, "20");
    t.size({on(2)}, on(2) + Vec2{0, -2.4}, "15");
    t.size({on(1)}, on(1) + Vec2{3, 0}, "5");
    t.size({on(4)}, on(4) + Vec2{0, 4}, "3");
    t.size({on(5)}, on(5) + Vec2{-5, 0}, "4");
    t.size({on(6)}, on(6) + Vec2{-5, 2}, "3");
    t.size({on(7)}, on(7) + Vec2{-6, 0}, "11");
    CHECK(t.end(3, 1).x == Approx(48));
    CHECK(length(t.end(3, 1) - t.end(3, 0)) == Approx(20));
    // What is left is pinned with today's sizes, one click each.
    for (int left = t.window.drawingModel()->freedoms().count; left > 0; --left) {
        const auto& motions = t.window.drawingModel()->freedoms().motions;
        REQUIRE_FALSE(motions.empty());
        REQUIRE_FALSE(motions[0].pins.empty());
        const QString pin = QString::fromStdString(motions[0].pins[0].words);
        t.card(pin);
        REQUIRE(Hand::wait([&] { return t.window.drawingModel()->freedoms().count == left - 1; }));
    }
    CHECK(isSettled(t.window.drawingModel()->freedoms(), t.drawing().strokes[8]));
    const double area = t.window.drawingModel()->closedness().regions.at(0).area();
    CHECK(area > 100);
    t.tool("done");
    t.verb(QStringLiteral("revolve"));
    t.key("Return");
    REQUIRE(
        Hand::wait([&] { return !t.window.forge()->busy() && !t.window.forge()->meshes().empty(); }, 60000));
    for (const auto& [id, view] : t.window.forge()->steps()) CHECK(view.ok);
    INFO("clicks and key strokes: " << t.used);
    CHECK(t.used <= 60);
}

TEST_CASE("The table says what is loose, pins it by a click, and takes it back") {
    Table t;
    t.tool("rectangle");
    t.at({20, 10});
    t.at({50, 30});
    REQUIRE(Hand::wait([&] { return t.strokes() == 4; }));
    t.key("Escape");
    const int loose = t.window.drawingModel()->freedoms().count;
    CHECK(loose == 4);
    REQUIRE_FALSE(t.window.drawingModel()->freedoms().motions.empty());
    const QString pin =
        QString::fromStdString(t.window.drawingModel()->freedoms().motions[0].pins.at(0).words);
    t.card(pin);
    REQUIRE(Hand::wait([&] { return t.window.drawingModel()->freedoms().count == loose - 1; }));
    // It opens for typing, its value chosen whole, and the other pins stay where they can be clicked.
    REQUIRE(t.window.table()->editor()->isVisible());
    CHECK(t.window.table()->editor()->hasFocus());
    CHECK(t.window.table()->editor()->selectedText() == t.window.table()->editor()->text());
    CHECK_FALSE(t.window.table()
                    ->cardRect(QString::fromStdString(
                        t.window.drawingModel()->freedoms().motions[0].pins.at(0).words))
                    .isEmpty());
    t.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return t.window.drawingModel()->freedoms().count == loose; }));
}

TEST_CASE("A corner is dragged, relations are chosen from what can be said, a clash is told and taken away") {
    Table t;
    t.at({10, 10});
    t.at({40, 14});
    t.at({48, 40});
    t.key("Escape");
    REQUIRE(t.strokes() == 2);
    t.key("Escape"); // from the line tool to choosing
    const Vec2 before = t.end(1, 1);
    t.hand->drag(t.window.table(), t.window.table()->toScreen(before), t.window.table()->toScreen({60, 45}));
    REQUIRE(Hand::wait([&] { return length(t.end(1, 1) - Vec2{60, 45}) < 1; }));
    CHECK(length(t.end(0, 0) - Vec2{10, 10}) < 1e-6); // what is not held by it stays
    // Two lines chosen: what can be said of them stands below.
    t.at(t.middle(0));
    t.at(t.middle(1));
    REQUIRE(Hand::wait([&] { return !t.window.table()->chipRect("Equal").isEmpty(); }));
    CHECK(t.window.table()->chipRect("Level").isEmpty());
    t.hand->click(t.window.table(), t.window.table()->chipRect("Equal").center());
    REQUIRE(Hand::wait([&] { return t.count(K::Equal) == 1; }));
    CHECK(length(t.end(0, 1) - t.end(0, 0)) == Approx(length(t.end(1, 1) - t.end(1, 0))));
    // Lengths that contradict the equality: one sentence each, and a way out.
    t.tool("dimension");
    t.size({t.middle(0)}, t.middle(0) + Vec2{2, -7}, "30");
    t.size({t.middle(1)}, t.middle(1) + Vec2{9, -2}, "35");
    REQUIRE(Hand::wait([&] { return !t.window.drawingModel()->diagnosis().sound(); }));
    CHECK(t.window.drawingModel()->diagnosis().clashes.at(0).relations.size() == 3);
    t.card(QStringLiteral("take away"));
    REQUIRE(Hand::wait([&] { return t.window.drawingModel()->diagnosis().sound(); }));
}

TEST_CASE("A relation is taken away by its sign, a dimension by emptying its figure") {
    Table t;
    t.at({12, 10});
    t.at({44, 10.4}); // offered level
    t.key("Escape");
    t.key("Escape");
    REQUIRE(t.count(K::Horizontal) == 1);
    const int level = t.drawing().relations.back().id;
    REQUIRE(Hand::wait([&] { return !t.window.table()->markOf(level).isNull(); }));
    t.hand->click(t.window.table(), t.window.table()->markOf(level));
    REQUIRE(Hand::wait([&] { return !t.window.table()->chipRect("Remove").isEmpty(); }));
    t.hand->click(t.window.table(), t.window.table()->chipRect("Remove").center());
    REQUIRE(Hand::wait([&] { return t.count(K::Horizontal) == 0; }));
    t.tool("dimension");
    t.size({t.middle(0)}, t.middle(0) + Vec2{0, 6}, "30");
    t.tool("choose");
    const int size = t.drawing().relations.back().id;
    t.hand->click(t.window.table(), t.window.table()->figureAt(size));
    REQUIRE(Hand::wait([&] { return t.window.table()->editor()->isVisible(); }));
    t.key("BackSpace"); // the text is chosen as a whole
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.sized() == 0; }));
}

TEST_CASE("A gap is shown with its size and joined by a click") {
    Table t;
    for (const Vec2 p : {Vec2{15, 10}, Vec2{45, 10}, Vec2{45, 30}, Vec2{15, 30}}) t.at(p);
    t.key("Escape");
    REQUIRE(t.strokes() == 3);
    t.at({15, 30});
    t.hand->moveTo(t.window.table(), t.window.table()->toScreen({15.6, 11.25}));
    t.at({15.6, 11.25}); // beside the corner
    t.key("Escape");
    REQUIRE(Hand::wait([&] { return t.strokes() == 4; }));
    const auto& troubles = t.window.drawingModel()->closedness().troubles;
    REQUIRE(troubles.size() == 1);
    CHECK(troubles[0].size == Approx(length(troubles[0].at - troubles[0].to)));
    REQUIRE(Hand::wait([&] { return !t.window.table()->cardRect("Join them").isEmpty(); }));
    t.hand->click(t.window.table(), t.window.table()->cardRect("Join them").center());
    REQUIRE(Hand::wait([&] { return t.window.drawingModel()->closedness().regions.size() == 1; }));
}

TEST_CASE("Every tool makes its stroke, and Esc never leaves the table") {
    Table t;
    const auto made = [&](const char* tool, const std::vector<Vec2>& clicks, StrokeKind kind,
                          std::size_t strokes) {
        INFO(tool);
        const std::size_t before = t.strokes();
        t.tool(tool);
        for (const Vec2 p : clicks) t.at(p);
        if (kind == StrokeKind::Spline) t.key("Return");
        REQUIRE(Hand::wait([&] { return t.strokes() == before + strokes; }));
        CHECK(t.drawing().strokes.back().kind == kind);
        t.key("Escape");
    };
    made("circle", {{12, 50}, {18, 50}}, StrokeKind::Circle, 1);
    made("ellipse", {{34, 50}, {44, 52}, {34, 55}}, StrokeKind::Ellipse, 1);
    made("slot", {{10, 34}, {24, 36}, {18, 38}}, StrokeKind::Arc, 4);
    made("conic", {{30, 34}, {44, 36}, {36, 43}}, StrokeKind::Conic, 1);
    made("spline", {{8, 20}, {16, 28}, {24, 20}, {30, 26}}, StrokeKind::Spline, 1);
    made("arc", {{36, 20}, {48, 20}, {42, 26}}, StrokeKind::Arc, 1);
    made("point", {{44, 8}}, StrokeKind::Point, 1);
    CHECK(t.window.drawingModel()->diagnosis().sound());
    CHECK(t.window.drawingModel()->closedness().regions.size() == 3);
    for (int i = 0; i < 3; ++i) t.key("Escape");
    CHECK(t.window.table()->isVisible());
    const std::size_t all = t.strokes();
    t.at({18, 50}); // the rim of the circle, and away with it
    t.key("Delete");
    REQUIRE(Hand::wait([&] { return t.strokes() == all - 1; }));
}

TEST_CASE("A typed length keeps the way that was offered, and both hold") {
    Table t;
    t.tool("line");
    t.at({0, 0});
    t.hand->moveTo(t.window.table(), t.window.table()->toScreen({40, 0.4})); // about level
    t.hand->type(QStringLiteral("33.3"));
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
    CHECK(t.count(K::Horizontal) == 1);
    CHECK(t.count(K::Distance) == 1);
    t.key("Escape");
    const Stroke& s = t.drawing().strokes.front();
    const Vec2 a = t.drawing().at(s.points[0]), b = t.drawing().at(s.points[1]);
    CHECK(std::fabs(a.y - b.y) < 1e-9);
    CHECK(length(b - a) == Approx(33.3).epsilon(1e-12));
}

TEST_CASE(
    "A line that goes on from a tangent arc is tangent to it, and upright as well where both are meant") {
    Table t;
    t.tool("line");
    t.at({0, 0});
    t.at({30, 0});
    t.key("Tab");
    t.at({45, 15.5}); // about a quarter
    t.at({45.3, 40});
    t.key("Escape");
    REQUIRE(t.strokes() == 3);
    CHECK(t.count(K::Tangent) == 2);
    CHECK(t.count(K::Vertical) == 1);
    const Stroke& last = t.drawing().strokes.back();
    const Vec2 a = t.drawing().at(last.points[0]), b = t.drawing().at(last.points[1]);
    CHECK(std::fabs(a.x - b.x) < 1e-6);
    const Stroke& arc = t.drawing().strokes[1];
    CHECK(t.drawing().at(arc.points[2]).y == Approx(a.y).margin(1e-6)); // so the arc is a whole quarter
}

TEST_CASE(
    "What can be done with what is chosen keeps its place while more is chosen, and removing stands apart") {
    Table t;
    t.tool("line");
    t.line({5, 10}, {45, 10});
    t.line({5, 30}, {45, 34});
    t.key("Escape");
    DrawingTable* table = t.window.table();
    t.at({20, 10});
    REQUIRE(Hand::wait([&] { return !table->chipRect(QStringLiteral("Offset")).isEmpty(); }));
    Hand::settle();
    const auto places = [&] {
        std::map<QString, QRectF> out;
        for (const char* label : {"Offset", "Mirror", "Helper", "Remove"}) {
            const QString l = QString::fromLatin1(label);
            out[l] = table->chipPlace(l);
        }
        return out;
    };
    const auto before = places();
    t.at({25, 32});
    REQUIRE(table->chosen().size() == 2);
    Hand::settle();
    CHECK(places() == before);
    CHECK(before.at(QStringLiteral("Remove")).right() > table->width() - 20);
    CHECK(before.at(QStringLiteral("Offset")).left() < 20 + table->width() / 2.0);
}

TEST_CASE("The Dimension tool opens a figure that is there, and what is typed stays in sight") {
    Table t;
    t.tool("line");
    t.line({5, 10}, {45, 10});
    t.tool("dimension");
    t.size({{20, 10}}, {20, 22}, "40");
    const int id = t.drawing().relations.back().id;
    CHECK(t.drawing().relations.back().expression == "40");
    t.hand->click(t.window.table(), t.window.table()->figures().at(id));
    REQUIRE(Hand::wait([&] { return t.window.table()->editor()->isVisible(); }));
    CHECK(t.window.table()->editor()->selectedText() == QStringLiteral("40"));
    const int wide = t.window.table()->editor()->width();
    t.hand->type(QStringLiteral("12.5 mm + 3 * 2.25 mm + 1 in")); // replaces it
    CHECK(t.window.table()->editor()->width() > wide);
    CHECK(t.window.table()->editor()->fontMetrics().horizontalAdvance(t.window.table()->editor()->text()) <
          t.window.table()->editor()->width());
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.drawing().findRelation(id)->expression != "40"; }));
    CHECK(measured(t.drawing(), *t.drawing().findRelation(id)) == Approx(12.5 + 6.75 + 25.4));
}

TEST_CASE("A digit turns the view over the stand alone; over the table it is meant for figures") {
    Table t;
    t.tool("line");
    t.at({5, 10});
    t.at({45, 13});
    t.key("Escape");
    t.key("Escape");
    const auto view = [&] { return t.window.stand()->camera().view(); };
    const auto before = view();
    t.hand->moveTo(t.window.table(), QPointF(300, 300));
    t.hand->press("6");
    Hand::settle();
    CHECK(view() == before);
}
