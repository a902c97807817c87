#include "core/sketch/offer.hpp"

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
