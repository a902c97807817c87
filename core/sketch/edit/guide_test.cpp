// What is left of a curve that was cut stays on it; corners that follow a body go with it.

#include "core/sketch/arcs.hpp"
#include "core/sketch/edit/corner.hpp"
#include "core/sketch/edit/cut.hpp"
#include "core/sketch/edit/offset.hpp"
#include "core/sketch/stroke_run.hpp"
#include "core/sketch/trace.hpp"
#include "tests/support/offsets.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// The distance of a place from a stroke.
double away(const Drawing& d, int stroke, Vec2 p) {
    const StrokeRun run(d, *d.findStroke(stroke));
    return length(run.at(run.nearest(p)) - p);
}

} // namespace

TEST_CASE("What is cut off a curve leaves the rest on it: nothing comes loose, nothing changes its shape") {
    Pen p;
    const int base = p.line({0, 0}, {40, 0});
    const int curve = drawSpline(p.d, {{40, 0}, {50, 20}, {35, 40}, {20, 45}});
    const auto points = p.d.findStroke(curve)->points;
    p.join(p.to(base), points.front());
    p.join(p.from(base), kOrigin);
    p.d.relate(K::Horizontal, {base});
    p.size(K::Distance, {base}, 40);
    for (const std::size_t node : {2u, 4u, 6u}) {
        p.size(K::Across, {kOrigin, points[node]}, p.at(points[node]).x);
        p.size(K::Along, {kOrigin, points[node]}, p.at(points[node]).y);
    }
    REQUIRE(p.settle().solved);
    REQUIRE(countFreedoms(p.d, p.v) == 0);
    const std::vector<Curve2> whole = curvesOf(p.d, *p.d.findStroke(curve));
    const auto onIt = [&](const Drawing& d, int stroke) {
        const StrokeRun run(d, *d.findStroke(stroke));
        for (int k = 0; k <= 30; ++k) {
            double least = 1e300;
            for (const Curve2& c : whole)
                least = std::min(least, length(c.at(c.nearest(run.at(run.end() * k / 30.0))) -
                                               run.at(run.end() * k / 30.0)));
            CHECK(least < 3e-6);
        }
    };
    SECTION("a rounded corner") {
        const auto corner = cornerAt(p.d, {40, 0}, 1);
        REQUIRE(corner);
        const EditOutcome out = roundCorner(p.d, *corner, 4, "4 mm");
        INFO(out.whyNot);
        REQUIRE(out.done());
        CHECK(out.lost.empty());
        p.v[p.d.relations.back().id] = 4;
        CHECK(countFreedoms(p.d, p.v) == 0);
        onIt(p.d, curve);
        REQUIRE(p.settle().solved);
        onIt(p.d, curve);
        p.v[p.d.relations.back().id] = 7;
        REQUIRE(p.settle().solved);
        onIt(p.d, curve);
        const Stroke& arc = *p.d.findStroke(out.made[0]);
        CHECK(away(p.d, curve, p.at(arc.points[2])) == Approx(7).margin(1e-5));
    }
    SECTION("rounded, then offset by a box around all of it: the guide is not offset, too") {
        const auto corner = cornerAt(p.d, {40, 0}, 1);
        REQUIRE(corner);
        REQUIRE(roundCorner(p.d, *corner, 4, "4 mm").done());
        p.v[p.d.relations.back().id] = 4;
        std::vector<int> all;
        for (const Stroke& s : p.d.strokes) all.push_back(s.id);
        const auto chains = chainsOf(p.d, all);
        REQUIRE(chains.size() == 1);
        CHECK(chains[0].strokes.size() == 3);
        const EditOutcome out = offsetStrokes(p.d, all, by(2));
        INFO(out.whyNot);
        REQUIRE(out.done());
        CHECK(out.made.size() == 3);
        for (const Relation& r : p.d.relations)
            if (r.kind == K::Distance && !p.v.count(r.id)) p.v[r.id] = 2;
        CHECK(countFreedoms(p.d, p.v) <= 1); // the line's open end slides along it
        REQUIRE(p.settle().solved);
    }
    SECTION("trimmed by a line, and split") {
        const int knife = p.line({20, 20}, {60, 20.5});
        p.d.relate(K::Fixed, {knife});
        REQUIRE(countFreedoms(p.d, p.v) == 0);
        const EditOutcome out = trim(p.d, curve, {24, 44});
        INFO(out.whyNot);
        REQUIRE(out.done());
        CHECK(out.lost.empty());
        CHECK(countFreedoms(p.d, p.v) == 0);
        onIt(p.d, curve);
        REQUIRE(p.settle().solved);
        // What is left is cut once more: its own guide, which runs along it, is no knife.
        Drawing twice = p.d;
        const int second = twice.draw(S::Line, {{30, 8}, {60, 8.5}});
        REQUIRE(trimPiece(twice, curve, {48, 15})->cutterFrom != 0);
        REQUIRE(trim(twice, curve, {43, 3}).done());
        CHECK(twice.findStroke(second));
        onIt(twice, curve);
        for (const int end : endPoints(*twice.findStroke(curve))) CHECK(twice.at(end).y > 8);
        const EditOutcome halves = split(p.d, curve, {47, 8});
        REQUIRE(halves.done());
        CHECK(countFreedoms(p.d, p.v) == 1); // where it is split
        onIt(p.d, curve);
        onIt(p.d, halves.made[0]);
    }
    SECTION("its source taken away it stays as it is") {
        const EditOutcome out = offsetStrokes(p.d, {curve}, by(2));
        REQUIRE(out.done());
        const Drawing before = p.d;
        p.d.erase({curve});
        const Stroke& alone = *p.d.findStroke(out.made[0]);
        CHECK(alone.kind == S::Spline);
        const StrokeRun was(before, *before.findStroke(out.made[0])), now(p.d, alone);
        REQUIRE(was.end() == now.end());
        for (int k = 0; k <= 50; ++k)
            CHECK(length(was.at(was.end() * k / 50.0) - now.at(now.end() * k / 50.0)) < 1e-9);
    }
}

TEST_CASE("A corner that follows the body goes with it, further than its neighbours are long") {
    // A flange on a round wall: its foot lies on the wall at two heights, its flanks are short.
    for (const double radius : {20.0, 22.5, 31.0, 60.0, 12.0}) {
        INFO("radius " << radius);
        Pen p;
        const auto ring = p.ring({{20, 10}, {22, 10}, {22, 13}, {20, 13}});
        for (const std::size_t side : {0u, 2u}) p.d.relate(K::Horizontal, {ring[side]});
        p.d.relate(K::Vertical, {ring[1]});
        p.size(K::Distance, {ring[0]}, 2);
        const int low = p.from(ring[0]), high = p.to(ring[2]);
        for (const int corner : {low, high}) {
            Trace t;
            t.kind = S::Point;
            t.source = corner == low ? "low" : "high";
            t.at = {p.at(corner)};
            holdPoint(p.d, corner, t);
        }
        REQUIRE(p.settle().solved);
        Drawing moved = p.d;
        Trace low_, high_;
        low_.kind = high_.kind = S::Point;
        low_.source = "low", high_.source = "high";
        low_.at = {{radius, 10}}, high_.at = {{radius, 13}};
        REQUIRE(renewTraces(moved, {low_, high_}).lost.empty());
        const Settlement s = settleTraces(moved, p.d, p.v);
        REQUIRE(s.solved);
        CHECK(s.senseKept);
        CHECK(length(moved.at(low) - Vec2{radius, 10}) < 1e-8);
        CHECK(length(moved.at(high) - Vec2{radius, 13}) < 1e-8);
        CHECK(length(moved.at(p.to(ring[0])) - Vec2{radius + 2, 10}) <
              1e-8); // the flank is as long as before
    }
}
