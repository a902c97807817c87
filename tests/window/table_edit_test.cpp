/// \file Changing what is drawn on the table: by pointer, by sentences and by keys alone.

#include "tests/window/table_hand.hpp"

using namespace gc;
using namespace gc::test;

TEST_CASE("A box chooses; Offset is a sentence with a figure, seen before it is kept") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    const double whole = t.area();
    t.box({6, 2}, {56, 34});
    CHECK(t.table()->chosen().size() == 4);
    t.chip("Offset");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    CHECK(t.strokes() == 4); // not yet
    t.slot("distance", "3 mm");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 8; }));
    const Vec2 wide = t.end(0, 1) - t.end(0, 0), high = t.end(1, 1) - t.end(1, 0);
    const double inner = (length(wide) - 6) * (length(high) - 6);
    CHECK(t.area() == Approx(whole - inner).epsilon(1e-6));
    // The wall is one size: a click on its figure changes all four sides.
    int shown = 0, wall = 0;
    for (const Relation& r : t.drawing().relations)
        if (wordsOf(r.kind).sized && !r.quiet) ++shown, wall = r.id;
    CHECK(shown == 1);
    t.key("Escape");
    t.hand->click(t.table(), t.table()->figureAt(wall));
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    t.hand->type(QStringLiteral("5 mm"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.table()->editor()->isVisible(); }));
    const Relation* r = t.drawing().findRelation(wall);
    REQUIRE(r);
    CHECK(measured(t.drawing(), *r) == Approx(5));
}

TEST_CASE("Esc drops a sentence and leaves the drawing as it was; a loop chooses too") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    std::vector<QPointF> loop; // about the lower side and the right one, not about the others
    for (const Vec2 p : {Vec2{6, 2}, {56, 1}, {54, 34}, {47, 33}, {46, 9}, {7, 8}})
        loop.push_back(t.table()->toScreen(p));
    t.hand->drag(t.table(), loop, true);
    REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 2; }));
    t.hand->press("Escape");
    t.box({6, 2}, {56, 34});
    const Drawing before = t.drawing();
    t.chip("Round");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.hand->press("Escape");
    REQUIRE(Hand::wait([&] { return !t.window.bar()->editing(); }));
    CHECK(t.drawing() == before);
    CHECK(t.table()->chosen().size() == 4);
    t.chip("Round");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.slot("radius", "40 mm"); // more than fits
    t.hand->press("Return");
    Hand::settle();
    CHECK(t.window.bar()->editing()); // it says why, and waits
    CHECK(t.drawing() == before);
    t.slot("radius", "4 mm");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.count(K::Radius) == 1; }));
    CHECK(t.count(K::Equal) == 3);
    t.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return t.drawing() == before; }));
}

TEST_CASE("Trim, extend and split by the pointer") {
    Editing t;
    t.tool("circle");
    t.at({30, 20});
    t.at({40, 20});
    t.key("Escape");
    t.tool("line");
    t.at({12, 24});
    t.at({26, 24.1});
    t.key("Escape");
    REQUIRE(t.strokes() == 2);
    t.tool("extend");
    t.at({24, 24}); // in the circle already: on to its far side
    REQUIRE(Hand::wait([&] { return t.end(1, 1).x > 35; }));
    CHECK(length(t.end(1, 1) - Vec2{30, 20}) == Approx(t.drawing().strokes[0].sizes[0]));
    t.tool("trim");
    t.at({16, 24}); // outside the circle, between the axis and its rim
    REQUIRE(Hand::wait([&] { return t.end(1, 0).x > 18; }));
    CHECK(t.strokes() == 2);
    t.at({30, 30}); // the upper cap
    REQUIRE(Hand::wait([&] { return t.drawing().strokes[0].kind == StrokeKind::Arc; }));
    CHECK(t.window.drawingModel()->closedness().regions.size() == 1);
    t.tool("split");
    t.at({30, 10});
    REQUIRE(Hand::wait([&] { return t.strokes() == 3; }));
    CHECK(t.window.drawingModel()->closedness().regions.size() == 1);
    CHECK(t.window.drawingModel()->diagnosis().sound());
}

TEST_CASE("Places are typed: the sizes that were typed hold") {
    Editing t;
    t.hand->press("Escape");
    t.tool("line");
    t.hand->type(QStringLiteral("10, 5"));
    t.hand->press("Return");
    t.hand->moveTo(t.table(), t.table()->toScreen({40, 5}));
    t.hand->type(QStringLiteral("32"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
    CHECK(length(t.end(0, 0) - Vec2{10, 5}) < 1e-9);
    CHECK(length(t.end(0, 1) - t.end(0, 0)) == Approx(32));
    CHECK(t.count(K::Distance) == 1);
    t.hand->type(QStringLiteral("20 at 90 deg"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 2; }));
    CHECK(length(t.end(1, 1) - t.end(1, 0) - Vec2{0, 20}) < 1e-6);
    t.hand->type(QStringLiteral("3 elephants"));
    t.hand->press("Return");
    Hand::settle();
    CHECK(t.table()->editor()->isVisible()); // what was typed stays, to be mended
    t.hand->press("Escape");
    CHECK(t.strokes() == 2);
}

TEST_CASE("All by keys: tools by name, the pointer by arrows, things by Tab") {
    Editing t;
    t.hand->press("Escape");
    t.hand->press("Escape");
    t.hand->type(QStringLiteral("circ"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.table()->tool() == QLatin1String("circle"); }));
    for (int i = 0; i < 3; ++i) t.hand->press("Right");
    t.hand->press("space");
    for (int i = 0; i < 2; ++i) t.hand->press("Right");
    t.hand->press("space");
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
    CHECK(t.drawing().strokes[0].sizes[0] > 1);
    t.hand->press("Tab"); // the other way to make a circle
    CHECK(t.table()->way() == 1);
    t.hand->press("Escape");
    t.hand->press("Tab");
    t.hand->press("space");
    REQUIRE(t.table()->chosen().size() == 1);
    t.hand->type(QStringLiteral("rows"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 3; }));
    CHECK(t.table()->chosen().size() == 2);
    t.hand->press("Delete");
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
}

TEST_CASE("Every way of every tool makes its stroke") {
    Editing t;
    const auto made = [&](const char* tool, const char* way, const std::vector<Vec2>& clicks,
                          std::size_t strokes, bool enter = false) {
        INFO(tool << " " << way);
        const std::size_t before = t.strokes();
        t.tool(tool);
        t.chip(way);
        for (const Vec2 p : clicks) t.at(p);
        if (enter) t.key("Return");
        REQUIRE(Hand::wait([&] { return t.strokes() == before + strokes; }));
        t.key("Escape");
    };
    made("circle", "through three points", {{6, 50}, {12, 56}, {18, 50}}, 1);
    made("arc", "about a centre", {{32, 48}, {40, 48}, {32, 56}}, 1);
    const Vec2 end = t.end(1, 0);
    made("arc", "on from an end", {end, end + Vec2{6, -8}}, 1);
    CHECK(t.count(K::Tangent) == 1);
    made("rectangle", "about a centre", {{14, 34}, {22, 40}}, 6);
    made("rectangle", "with round corners", {{30, 26}, {48, 38}, {46, 38}}, 8);
    made("spline", "led by poles", {{6, 16}, {12, 24}, {20, 10}, {28, 18}, {34, 12}}, 1, true);
    t.tool("polygon");
    t.chip("fewer sides");
    t.at({44, 14});
    t.at({50, 14});
    REQUIRE(Hand::wait([&] { return t.drawing().strokes.back().kind == StrokeKind::Circle; }));
    CHECK(t.count(K::OnStroke) >= 5);
    CHECK(t.window.drawingModel()->diagnosis().sound());
    // A spline's handle is held by a click and can then be dragged.
    t.tool("spline");
    t.chip("through points");
    for (const Vec2 p : {Vec2{6, 2}, {16, 6}, {26, 2}}) t.at(p);
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.drawing().strokes.back().kind == StrokeKind::Spline; }));
    t.key("Escape");
    const Vec2 node = t.drawing().at(t.drawing().strokes.back().points[2]);
    t.at(node);
    t.chip("Hold its handle");
    REQUIRE(Hand::wait([&] { return t.drawing().strokes.back().held.size() == 3; }));
    const Vec2 handle = t.drawing().at(t.drawing().strokes.back().points[3]);
    t.hand->drag(t.table(), t.table()->toScreen(handle), t.table()->toScreen(handle + Vec2{0, -4}));
    REQUIRE(Hand::wait(
        [&] { return length(t.drawing().at(t.drawing().strokes.back().points[3]) - handle) > 2; }));
}

TEST_CASE("A size is named, another made equal to it by a click, and one only measures") {
    Editing t;
    t.rectangle({10, 5}, {50, 30});
    t.tool("dimension");
    t.size({t.middle(0)}, t.middle(0) + Vec2{4, -7}, "span = 40 mm");
    t.tool("choose");
    const int first = t.drawing().relations.back().id;
    CHECK(t.drawing().findRelation(first)->name == "span");
    REQUIRE(Hand::steady([&] { return t.table()->toScreen({0, 0}); }));
    t.tool("dimension");
    t.at(t.middle(1));
    t.at(t.middle(1) + Vec2{5, 4});
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    const int second = t.drawing().relations.back().id;
    t.hand->click(t.table(), t.table()->figureAt(first));
    REQUIRE(Hand::wait([&] { return t.table()->editor()->text() == QLatin1String("span"); }));
    t.hand->type(QStringLiteral(" / 2"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.table()->editor()->isVisible(); }));
    CHECK(measured(t.drawing(), *t.drawing().findRelation(second)) == Approx(20));
    // The name is changed at the figure: what uses it follows.
    t.tool("choose");
    const auto open = [&](int id) {
        t.hand->click(t.table(), t.table()->figureAt(id));
        REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    };
    open(first);
    t.hand->press("a", true);
    t.hand->type(QStringLiteral("reach = 50 mm"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.drawing().findRelation(first)->name == "reach"; }));
    CHECK(t.drawing().findRelation(second)->expression == "reach / 2");
    CHECK(measured(t.drawing(), *t.drawing().findRelation(second)) == Approx(25));
    open(second);
    t.chip("Only measure");
    REQUIRE(Hand::wait([&] { return t.drawing().findRelation(second)->readOnly; }));
    CHECK(t.window.drawingModel()->freedoms().count > 0);
}

TEST_CASE("Every other edit is a sentence that Enter keeps") {
    Editing t;
    t.rectangle({10, 5}, {22, 11});
    const Vec2 low{6, 2}, high{26, 14};
    const auto begin = [&](const char* edit) {
        t.box(low, high);
        REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 4; }));
        t.chip(edit);
        REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    };
    const auto keep = [&](std::size_t strokes) {
        t.hand->press("Return");
        REQUIRE(Hand::wait([&] { return t.strokes() == strokes && !t.window.bar()->editing(); }));
        CHECK(t.window.drawingModel()->diagnosis().sound());
    };
    const double side = length(t.end(0, 1) - t.end(0, 0)), other = length(t.end(1, 1) - t.end(1, 0));
    SECTION("a mirror image lies across the axis, and follows") {
        begin("Mirror");
        keep(8);
        CHECK(t.area() == Approx(2 * side * other));
        double sum = 0;
        for (const Stroke& s : t.drawing().strokes)
            for (const int p : s.points) sum += t.drawing().at(p).x;
        CHECK(sum == Approx(0).margin(1e-6));
    }
    SECTION("copies stand around the origin") {
        begin("Around");
        t.slot("count", "4");
        keep(16);
        CHECK(t.area() == Approx(4 * side * other));
    }
    SECTION("a move goes as far as it says") {
        const Vec2 before = t.end(0, 0);
        begin("Move");
        t.slot("across", "7 mm");
        t.slot("up", "3 mm");
        t.hand->press("Return");
        REQUIRE(Hand::wait([&] { return length(t.end(0, 0) - before) > 1; }));
        CHECK(length(t.end(0, 0) - before - Vec2{7, 3}) < 1e-6);
    }
    SECTION("a turn keeps sizes and changes directions") {
        begin("Turn");
        t.slot("angle", "30°");
        t.hand->press("Return");
        REQUIRE(Hand::wait([&] { return std::fabs((t.end(0, 1) - t.end(0, 0)).y) > 1; }));
        const Vec2 u = t.end(0, 1) - t.end(0, 0);
        CHECK(length(u) == Approx(side));
        CHECK(std::fabs(u.y) == Approx(side / 2));
    }
    SECTION("a scale makes everything that much larger") {
        begin("Scale");
        t.slot("factor", "3/2");
        t.hand->press("Return");
        REQUIRE(Hand::wait([&] { return t.area() > 1.2 * side * other; }));
        CHECK(t.area() == Approx(2.25 * side * other));
    }
    SECTION("a chamfer takes its triangle from the corner") {
        t.at(t.end(0, 1)); // a corner
        t.chip("Chamfer");
        REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
        t.slot("first", "2 mm");
        t.slot("second", "1 mm");
        keep(6); // the corner stays as a point: both lengths are measured from it
        CHECK(t.area() == Approx(side * other - 1));
    }
    SECTION("copies follow a curve, and two lines that end on one spot are joined") {
        t.tool("line");
        t.at({10, 30});
        t.at({50, 30});
        t.key("Escape");
        t.key("Escape");
        t.box(low, high);
        REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 4; }));
        t.at(t.middle(4)); // chosen last: what is repeated along
        REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 5; }));
        t.chip("Along");
        REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
        t.slot("count", "3");
        keep(5 + 2 * 4);
        CHECK(t.area() == Approx(3 * side * other));
    }
}

TEST_CASE("Two strokes in one line are joined into one") {
    Editing t;
    t.tool("line");
    for (const auto& [a, b] : {std::pair{Vec2{10, 20}, Vec2{25, 20}}, {Vec2{25, 20}, Vec2{45, 20}}}) {
        t.at(a);
        t.at(b);
        t.key("Escape");
    }
    t.key("Escape");
    REQUIRE(t.strokes() == 2);
    t.box({6, 16}, {50, 24});
    REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 2; }));
    t.chip("Join");
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
    CHECK(length(t.end(0, 1) - t.end(0, 0)) == Approx(35).epsilon(0.02));
}

TEST_CASE("A named dimension is taken by a sentence of an edit, typed or by a click on its figure") {
    Editing t;
    t.rectangle({5, 5}, {65, 45});
    t.tool("dimension");
    t.size({{35, 5}}, {35, -6}, "60");
    t.key("Escape");
    t.key("Escape");
    const int id = t.drawing().relations.back().id;
    t.window.drawingModel()->nameOfDimension(id);
    const std::string name = t.drawing().findRelation(id)->name;
    REQUIRE_FALSE(name.empty());
    t.at({35, 45});
    t.chip("Offset");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.slot("distance", (name + " / 10").c_str());
    CHECK(t.window.bar()->message().isEmpty()); // it is known
    t.hand->click(t.window.bar()->sentence(),
                  QRectF(t.window.bar()->sentence()->slotRect(QStringLiteral("distance"))).center());
    t.hand->press("Escape");
    t.window.bar()->sentence()->setActiveSlot(QStringLiteral("distance"));
    t.hand->click(t.table(), t.table()->figures().at(id));
    REQUIRE(Hand::wait([&] { return t.window.bar()->draft()->text("distance") == name; }, 5000));
    t.slot("distance", (name + " / 10").c_str());
    const std::size_t before = t.strokes();
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() > before; }));
}
