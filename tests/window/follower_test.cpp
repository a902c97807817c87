// Offsets of curves in the real window: they follow, they settle, and rounding beside a curve loosens
// nothing.

#include "core/sketch/beside.hpp"
#include "core/sketch/stroke_run.hpp"
#include "tests/window/table_hand.hpp"

using namespace gc;
using namespace gc::test;

namespace {

/// Every place of a stroke lies at the distance from another.
void checkBeside(const Drawing& d, int follower, int source, double distance) {
    const StrokeRun run(d, *d.findStroke(follower)), of(d, *d.findStroke(source));
    REQUIRE_FALSE(run.empty());
    for (int k = 0; k <= 40; ++k) {
        const Vec2 p = run.at(run.end() * k / 40.0);
        CHECK(length(of.at(of.nearest(p)) - p) == Approx(distance).margin(1e-4));
    }
}

/// A spline drawn by clicks.
int drawCurve(Editing& t, const std::vector<Vec2>& nodes) {
    t.tool("spline");
    for (const Vec2 p : nodes) t.at(p);
    t.key("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
    t.key("Escape");
    return t.drawing().strokes[0].id;
}

} // namespace

TEST_CASE("The offset of a drawn spline is one stroke that follows when the spline is dragged or the wall "
          "typed over") {
    Editing t;
    const int curve = drawCurve(t, {{12, 5}, {20, 20}, {16, 36}, {22, 50}});
    const int loose = t.window.drawingModel()->freedoms().count;
    const StrokeRun run(t.drawing(), *t.drawing().findStroke(curve));
    t.at(run.at(0.5));
    t.chip("Offset");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.slot("distance", "4 mm");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() == 2; }));
    CHECK(t.window.drawingModel()->freedoms().count == loose); // it brought none
    const int wall = t.drawing().strokes[1].id;
    checkBeside(t.drawing(), wall, curve, 4);
    t.key("Escape");
    // A node is dragged: the wall goes with it.
    const Vec2 node = t.end(0, 2);
    t.hand->drag(t.table(), t.table()->toScreen(node), t.table()->toScreen(node + Vec2{5, 2}));
    REQUIRE(Hand::wait([&] { return length(t.end(0, 2) - node) > 3; }));
    Hand::settle();
    checkBeside(t.drawing(), wall, curve, 4);
    // Its figure is typed over.
    int figure = 0;
    for (const Relation& r : t.drawing().relations)
        if (r.kind == K::Distance) figure = r.id;
    REQUIRE(figure);
    t.hand->click(t.table(), t.table()->figureAt(figure));
    REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
    t.hand->type(QStringLiteral("2.5 mm"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.table()->editor()->isVisible(); }));
    checkBeside(t.drawing(), wall, curve, 2.5);
    // Undone and redone it is as it was.
    t.hand->press("z", true);
    Hand::settle();
    checkBeside(t.drawing(), wall, curve, 4);
    // The curve is removed: the wall keeps its shape.
    const Vec2 middle = StrokeRun(t.drawing(), *t.drawing().findStroke(wall)).at(1.5);
    t.at(StrokeRun(t.drawing(), *t.drawing().findStroke(curve)).at(0.5));
    t.key("Delete");
    REQUIRE(Hand::wait([&] { return t.strokes() == 1; }));
    const StrokeRun left(t.drawing(), t.drawing().strokes[0]);
    CHECK(length(left.at(left.nearest(middle)) - middle) < 1e-6);
}

TEST_CASE("A corner between a line and a spline is rounded in the window, and nothing comes loose") {
    Editing t;
    drawCurve(t, {{30, 5}, {36, 20}, {30, 36}, {38, 50}});
    t.tool("line");
    t.at({8, 5});
    t.at({30, 5});
    t.key("Escape");
    REQUIRE(Hand::wait([&] { return t.strokes() == 2; }));
    t.key("Escape");
    const int loose = t.window.drawingModel()->freedoms().count;
    t.at({30, 5});
    t.chip("Round");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.slot("radius", "3 mm");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.strokes() >= 4; })); // the arc, and the whole spline as a helper
    CHECK(t.window.drawingModel()->freedoms().count == loose);
    CHECK(t.count(K::Radius) == 1);
}

TEST_CASE("A curve and the axis, in either order, give the width at the height that is clicked") {
    for (const bool axisFirst : {false, true}) {
        Editing t;
        const int curve = drawCurve(t, {{12, 5}, {20, 20}, {16, 36}, {22, 50}});
        const Vec2 onCurve = StrokeRun(t.drawing(), *t.drawing().findStroke(curve)).at(0.5);
        t.tool("dimension");
        const Vec2 onAxis{0, 42};
        t.at(axisFirst ? onAxis : onCurve);
        t.at(axisFirst ? onCurve : onAxis);
        t.at({32, 30});
        REQUIRE(Hand::wait([&] { return t.table()->editor()->isVisible(); }));
        t.hand->type(QStringLiteral("40 mm"));
        t.key("Return");
        REQUIRE(Hand::wait([&] { return !t.table()->editor()->isVisible(); }));
        INFO((axisFirst ? "axis first" : "curve first"));
        CHECK(t.count(K::DiameterAboutAxis) == 1);
        // Twice 20 mm from the axis, and on the curve; the first size scales the whole.
        const StrokeRun run(t.drawing(), *t.drawing().findStroke(curve));
        for (const Relation& r : t.drawing().relations) {
            if (r.kind != K::DiameterAboutAxis) continue;
            const Vec2 p = t.drawing().at(r.of[0]);
            CHECK(std::fabs(p.x) == Approx(20).epsilon(1e-9));
            CHECK(length(run.at(run.nearest(p)) - p) < 1e-6);
        }
    }
}
