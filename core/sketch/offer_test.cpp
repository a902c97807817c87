#include "core/sketch/arcs.hpp"
#include "core/sketch/curve2.hpp"
#include "core/sketch/offer.hpp"
#include "core/sketch/size_figure.hpp"
#include "core/sketch/solve/freedom.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using K = RelationKind;
using S = StrokeKind;

namespace {

std::vector<K> kinds(const Offer& o) {
    std::vector<K> out;
    for (const Relation& r : o.relations) out.push_back(r.kind);
    return out;
}

OfferQuestion at(Vec2 pointer) {
    OfferQuestion q;
    q.pointer = pointer;
    return q;
}

} // namespace

TEST_CASE("A click near a point joins it, near a line lands on it, elsewhere is free") {
    Drawing d;
    const int l = d.draw(S::Line, {{10, 10}, {40, 10}});
    Offer o = offerFor(d, at({10.3, 10.4}));
    CHECK(kinds(o) == std::vector{K::Coincident});
    CHECK(o.at == Vec2{10, 10});
    o = offerFor(d, at({25, 10.6}));
    CHECK(kinds(o) == std::vector{K::OnStroke});
    CHECK(o.relations[0].of == std::vector{kNewPoint, l});
    CHECK(length(o.at - Vec2{25, 10}) < 1e-12);
    CHECK(offerFor(d, at({25, 20})).relations.empty());
    CHECK(kinds(offerFor(d, at({0.4, 30}))) == std::vector{K::OnStroke});
    OfferQuestion held = at({10.3, 10.4});
    held.free = true;
    CHECK(offerFor(d, held).relations.empty());
    CHECK(offerFor(d, held).at == Vec2{10.3, 10.4});
}

TEST_CASE("A nearly level line is offered level, and lands where it meets the axis") {
    Drawing d;
    OfferQuestion q = at({30, 20.5});
    q.from = Vec2{5, 20};
    Offer o = offerFor(d, q);
    CHECK(kinds(o) == std::vector{K::Horizontal});
    CHECK(o.at.y == Approx(20));
    q.pointer = {0.3, 20.4};
    q.from = Vec2{35, 20};
    o = offerFor(d, q);
    CHECK(kinds(o) == std::vector{K::OnStroke, K::Horizontal});
    CHECK(length(o.at - Vec2{0, 20}) < 1e-12);
    CHECK(o.words == "level, on the axis");
    q.pointer = {20, 30};
    CHECK(offerFor(d, q).relations.empty());
}

TEST_CASE("A line square to the one before is offered") {
    Drawing d;
    const int l = d.draw(S::Line, {{10, 10}, {30, 20}});
    OfferQuestion q = at(Vec2{30, 20} + Vec2{-5, 10.2});
    q.from = Vec2{30, 20};
    q.lastLine = l;
    q.notPoints = {d.findStroke(l)->points[1]};
    const Offer o = offerFor(d, q);
    CHECK(kinds(o) == std::vector{K::Perpendicular});
    CHECK(std::fabs(dot(o.at - Vec2{30, 20}, Vec2{20, 10})) < 1e-9);
}

TEST_CASE("Things are found where they lie, points first") {
    Drawing d;
    const int round = d.draw(S::Circle, {{30, 30}}, {10});
    CHECK(thingAt(d, {40.2, 30}, 1) == round);
    CHECK(thingAt(d, {30.2, 30}, 1) == d.findStroke(round)->points[0]);
    CHECK(thingAt(d, {0.2, 55}, 1) == kAxisLine);
    CHECK(thingAt(d, {20, 55}, 1) == 0);
}

TEST_CASE("What is chosen and where the figure goes say which dimension is meant") {
    Drawing d;
    const int low = d.draw(S::Line, {{5, 0}, {30, 0}}), wall = d.draw(S::Line, {{30, 0}, {34, 40}});
    const int round = d.draw(S::Circle, {{60, 20}}, {8});
    const auto kind = [&](const std::vector<int>& of, Vec2 place) {
        const auto r = dimensionFor(d, of, place);
        return r ? wordsOf(r->kind).key : "none";
    };
    const int p = d.findStroke(wall)->points[0], q = d.findStroke(wall)->points[1];
    CHECK(kind({low}, {15, -5}) == "distance");
    CHECK(kind({round}, {70, 30}) == "diameter");
    CHECK(kind({low, wall}, {20, 10}) == "angle");
    CHECK(kind({q, kAxisLine}, {15, 45}) == "about-axis");
    CHECK(kind({kAxisLine, q}, {15, 45}) == "about-axis");
    CHECK(kind({q}, {15, 45}) == "about-axis");
    CHECK(kind({p, q}, {32, 50}) == "across");
    CHECK(kind({p, q}, {50, 20}) == "up");
    CHECK(kind({p, q}, {50, 50}) == "distance");
    CHECK(kind({q, kLevelLine}, {50, 20}) == "up");
    CHECK(kind({kOrigin}, {50, 20}) == "none");
}

TEST_CASE("The figure of a dimension stands where it was put, on lines of the right length") {
    Drawing d;
    const int wall = d.draw(S::Line, {{30, 0}, {34, 40}});
    const auto r = dimensionFor(d, {wall}, {50, 10});
    REQUIRE(r);
    const DimensionShape s = dimensionShape(d, *r, 5);
    CHECK(length(s.figure - Vec2{50, 10}) < 1e-9);
    REQUIRE(s.ticks.size() == 2);
    CHECK(length(s.ticks[0].first - s.ticks[1].first) == Approx(std::hypot(4, 40)));
}

TEST_CASE("Arcs go through what was clicked, and tangent arcs go on in the direction of what they leave") {
    Drawing d;
    const int arc = drawArcThrough(d, {0, 0}, {3, 4}, {10, 0});
    REQUIRE(arc);
    const Stroke& s = *d.findStroke(arc);
    for (const Vec2 p : {Vec2{0, 0}, Vec2{3, 4}, Vec2{10, 0}})
        CHECK(length(p - d.at(s.points[2])) == Approx(s.sizes[0]));
    const Curve2 c = curvesOf(d, s).front();
    CHECK(length(c.at(c.nearest({3, 4})) - Vec2{3, 4}) < 1e-9); // the middle one lies on it, not opposite
    CHECK(drawArcThrough(d, {0, 0}, {5, 0}, {10, 0}) == 0);
    for (const Vec2 to : {Vec2{25, 8}, Vec2{25, -8}, Vec2{12, 20}}) {
        Drawing e;
        const int line = e.draw(S::Line, {{0, 0}, {20, 0}});
        const int end = e.findStroke(line)->points[1];
        const int next = drawTangentArc(e, line, end, to);
        REQUIRE(next);
        const Curve2 t = curvesOf(e, *e.findStroke(next)).front();
        const bool forward = length(t.at(0) - Vec2{20, 0}) < 1e-9;
        const Vec2 out = forward ? t.slope(0) : t.slope(1) * -1;
        CHECK(std::fabs(out.y) < 1e-9 * length(out));
        CHECK(out.x > 0);
        CHECK(length(t.at(forward ? 1 : 0) - to) < 1e-9);
    }
}

TEST_CASE("A slot needs a place, a direction, a length and a width; a conic its shoulder ratio") {
    Drawing d;
    const auto centres = drawSlot(d, {10, 10}, {30, 14}, 4);
    REQUIRE(centres.size() == 2);
    CHECK(countFreedoms(d, {}) == 5);
    Settler settler(d);
    CHECK(settler.settle().solved);
    Drawing c;
    const int conic = c.draw(S::Conic, {{0, 0}, {20, 0}, {8, 15}}, {0.5});
    for (const int p : c.findStroke(conic)->points) c.relate(K::Fixed, {p});
    const Freedoms f = findFreedoms(c, {}, {});
    REQUIRE(f.count == 1);
    REQUIRE(f.motions[0].pins.size() == 1);
    CHECK(f.motions[0].pins[0].words == "shoulder ratio 0.5");
    Drawing s;
    CHECK(drawSpline(s, {{0, 0}, {10, 5}, {20, 0}}));
    CHECK(countFreedoms(s, {}) == 6); // its nodes; handles follow
}
