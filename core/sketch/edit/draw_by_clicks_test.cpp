#include "core/sketch/edit/draw_by_clicks.hpp"

#include "core/sketch/curve2.hpp"
#include "tests/support/pen.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const std::vector<Clicked> kAll{
    Clicked::Point,          Clicked::CircleAbout, Clicked::CircleThrough, Clicked::ArcThrough,
    Clicked::ArcAbout,       Clicked::ArcOnFrom,   Clicked::Rectangle,     Clicked::RectangleAbout,
    Clicked::RectangleRound, Clicked::Polygon,     Clicked::Ellipse,       Clicked::Slot,
    Clicked::Conic,          Clicked::Spline,      Clicked::Poles,         Clicked::Fair,
};

/// How far a place is from the nearest stroke.
double away(const Drawing& d, Vec2 p) {
    double least = 1e9;
    for (const Stroke& s : d.strokes)
        for (const Curve2& c : curvesOf(d, s)) least = std::min(least, length(c.at(c.nearest(p)) - p));
    return least;
}

} // namespace

TEST_CASE("What is clicked stands where it was clicked, and nothing pulls it away") {
    const std::vector<Vec2> places{{10, 10}, {30, 14}, {18, 25}, {40, 30}};
    for (const Clicked what : kAll) {
        INFO(static_cast<int>(what));
        Drawing d;
        if (what == Clicked::ArcOnFrom) d.draw(S::Line, {{2, 2}, {10, 10}});
        const std::vector<Vec2> at(places.begin(), places.begin() + placesFor(what));
        const DrawnByClicks drawn = drawByClicks(d, what, at);
        REQUIRE(!drawn.strokes.empty());
        for (std::size_t i = 0; i < drawn.points.size(); ++i) {
            if (!drawn.points[i]) continue;
            const bool onRay = what == Clicked::ArcAbout && i == 2; // its end lies that way, on the arc
            CHECK(length(d.at(drawn.points[i]) - at[i]) < (onRay ? 30 : 1e-9));
        }
        if (drawn.rim) CHECK(away(d, at.back()) < 1e-9);
        Drawing rest = d;
        REQUIRE(settleTo(rest, {}).solved);
        for (const DrawnPoint& p : d.points) CHECK(length(rest.at(p.id) - p.at) < 1e-8);
        // One place fewer makes nothing, and leaves the drawing as it was.
        Drawing less;
        CHECK(drawByClicks(less, what, {at.begin(), at.end() - 1}).strokes.empty());
        CHECK(less.strokes.empty());
    }
}

TEST_CASE("Circles and arcs go through their places; an arc goes on in the direction of its stroke") {
    Drawing d;
    const std::vector<Vec2> three{{10, 0}, {0, 10}, {-10, 0}};
    drawByClicks(d, Clicked::CircleThrough, three);
    CHECK(d.strokes[0].sizes[0] == Approx(10));
    CHECK(length(d.at(d.strokes[0].points[0])) < 1e-9);
    Drawing arc;
    drawByClicks(arc, Clicked::ArcAbout, {{0, 0}, {7, 0}, {0, -20}}); // clockwise, the short way
    CHECK(curvesOf(arc, arc.strokes[0])[0].length() == Approx(7 * kPi / 2));
    Drawing on;
    for (int k = 0; k < 40; ++k)
        on.draw(S::Line, {{100.0 + k, 0}, {100.0 + k, 5}}); // the list grows while it is looked through
    const int line = on.draw(S::Line, {{0, 0}, {10, 0}});
    const DrawnByClicks drawn = drawByClicks(on, Clicked::ArcOnFrom, {{10, 0}, {20, 10}});
    REQUIRE(drawn.strokes.size() == 1);
    CHECK(on.findStroke(drawn.strokes[0])->sizes[0] == Approx(10));
    REQUIRE(on.relations.size() == 2);
    CHECK(on.relations[1].of == std::vector<int>{line, drawn.strokes[0]});
    CHECK(drawByClicks(on, Clicked::ArcOnFrom, {{50, 50}, {60, 60}}).strokes.empty()); // no end there
}

TEST_CASE("Places on one line or on one spot make nothing") {
    for (const Clicked what :
         {Clicked::CircleThrough, Clicked::ArcThrough, Clicked::Ellipse, Clicked::Slot, Clicked::Conic}) {
        Drawing d;
        CHECK(drawByClicks(d, what, {{0, 0}, {10, 10}, {20, 20}}).strokes.empty());
        CHECK(d.strokes.empty());
    }
    for (const Clicked what :
         {Clicked::CircleAbout, Clicked::Rectangle, Clicked::RectangleAbout, Clicked::Polygon}) {
        Drawing d;
        CHECK(drawByClicks(d, what, {{3, 3}, {3, 3}}).strokes.empty());
        CHECK(d.strokes.empty());
    }
}
