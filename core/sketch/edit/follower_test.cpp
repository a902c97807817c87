// Strokes that follow others: offsets of every kind of curve, and what is left of a curve that was cut.

#include "core/sketch/arcs.hpp"
#include "core/sketch/beside.hpp"
#include "core/sketch/edit/copy.hpp"
#include "core/sketch/edit/corner.hpp"
#include "core/sketch/edit/cut.hpp"
#include "core/sketch/edit/offset.hpp"
#include "core/sketch/region.hpp"
#include "core/sketch/trace.hpp"
#include "tests/support/followed.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

TEST_CASE("The offset of any curve follows it, exactly and settled, whatever becomes of the curve") {
    for (const Source& source : sources())
        for (const double distance : {3.0, -3.0}) {
            INFO(source.name << " by " << distance);
            Pen p;
            const int curve = source.draw(p);
            const int before = countFreedoms(p.d, {});
            const EditOutcome out = offsetStrokes(p.d, {curve}, by(distance));
            INFO(out.whyNot);
            REQUIRE(out.done());
            REQUIRE(out.made.size() == 1);
            CHECK(p.d.findStroke(out.made[0])->kind == S::Beside);
            CHECK(countFreedoms(p.d, {}) == before); // it brought none
            checkBeside(p.d, out.made, {curve}, 3);
            checkAtRest(p.d, 2 * kBesideFit);
            // Another wall.
            const int wall = wallOf(p.d);
            REQUIRE(wall);
            REQUIRE(settleTo(p.d, {{wall, 4.25}}).solved);
            checkBeside(p.d, out.made, {curve}, 4.25);
            // Another curve: one of its points elsewhere.
            Pen moved = p;
            const int point = moved.d.findStroke(curve)->points[source.end];
            Drawing target = moved.d;
            const int hold = target.relate(K::Distance, {kOrigin, point});
            const double now = length(target.at(point));
            const Settlement s = settleTo(target, {{wall, 4.25}, {hold, now + 2.5}});
            CHECK(s.solved);
            CHECK(length(target.at(point)) == Approx(now + 2.5).margin(1e-7));
            checkBeside(target, out.made, {curve}, 4.25);
        }
}

TEST_CASE(
    "An ellipse and its offsets obey Steiner's formula, and an offset of an offset follows the ellipse") {
    Pen p;
    const int oval = p.d.draw(S::Ellipse, {{40, 30}, {70, 40}}, {14});
    const EditOutcome one = offsetStrokes(p.d, {oval}, by(-3));
    REQUIRE(one.done());
    const EditOutcome two = offsetStrokes(p.d, {one.made[0]}, by(-2));
    REQUIRE(two.done());
    const auto steiner = [&](double t) {
        const Stroke& s = *p.d.findStroke(oval);
        const double a = length(p.at(s.points[1]) - p.at(s.points[0]));
        return kPi * a * s.sizes[0] + StrokeRun(p.d, s).length() * t + kPi * t * t;
    };
    CHECK(areaOf(p.d, one.made) == Approx(steiner(3)).epsilon(1e-7));
    CHECK(areaOf(p.d, two.made) == Approx(steiner(5)).epsilon(1e-7));
    CHECK(p.d.findStroke(two.made[0])->beside == oval);
    CHECK(countFreedoms(p.d, {}) == 5); // the ellipse's own
    const int wall = wallOf(p.d);
    REQUIRE(settleTo(p.d, {{wall, 4}}).solved); // the second stays 2 mm from the first
    CHECK(areaOf(p.d, two.made) == Approx(steiner(6)).epsilon(1e-7));
}

TEST_CASE("The wall of an outline with a spline is closed, settled, and follows when either changes") {
    // A mug's half section: floor, a spline up, the rim, the axis.
    Pen p;
    const int floor = p.line({0, 0}, {30, 0});
    const int side = drawSpline(p.d, {{30, 0}, {38, 30}, {34, 70}, {40, 95}});
    const int rim = p.line({40, 95}, {0, 95}), axis = p.line({0, 95}, {0, 0});
    const auto& nodes = p.d.findStroke(side)->points;
    const std::vector<int> points(nodes.begin(), nodes.end());
    p.join(p.to(floor), points.front());
    p.join(points[points.size() - 2], p.from(rim));
    p.join(p.to(rim), p.from(axis));
    p.join(p.to(axis), p.from(floor));
    p.join(p.from(floor), kOrigin);
    p.d.relate(K::Horizontal, {floor});
    p.d.relate(K::Horizontal, {rim});
    p.d.relate(K::Vertical, {axis});
    p.size(K::Distance, {floor}, 30);
    const int mouth = p.d.nextId;
    p.size(K::Distance, {rim}, 40);
    p.size(K::Distance, {axis}, 95);
    for (const std::size_t node : {2u, 4u}) {
        p.size(K::Along, {kOrigin, points[node]}, p.at(points[node]).y);
        p.size(K::DiameterAboutAxis, {points[node], kAxisLine}, 2 * p.at(points[node]).x);
    }
    REQUIRE(p.settle().solved);
    REQUIRE(countFreedoms(p.d, p.v) == 0);
    const EditOutcome out = offsetStrokes(p.d, {floor, side}, by(5));
    INFO(out.whyNot);
    REQUIRE(out.done());
    REQUIRE(out.made.size() == 2);
    const int wall = wallOf(p.d);
    p.v[wall] = 5;
    for (const Relation& r : p.d.relations)
        if (r.quiet) p.v[r.id] = 5;
    // Open ends slide along: the line's on the axis, the spline's with its source.
    CHECK(countFreedoms(p.d, p.v) <= 1);
    const auto check = [&](const Drawing& d, double distance) {
        checkBeside(d, out.made, {side}, distance);
        const Stroke &inner = *d.findStroke(out.made[0]), &up = *d.findStroke(out.made[1]);
        CHECK(heightOver({d, {}}, floor, d.at(inner.points[0])) == Approx(distance).margin(1e-8));
        CHECK(length(d.at(inner.points[1]) - d.at(up.points[0])) < 1e-8);
    };
    check(p.d, 5);
    checkAtRest(p.d, 2 * kBesideFit);
    Drawing wider = p.d;
    DimensionValues v = p.v;
    v[mouth] = 46;
    REQUIRE(settleTo(wider, v).solved);
    check(wider, 5);
    for (auto& [id, value] : v)
        if (value == 5) value = 3.5;
    REQUIRE(settleTo(wider, v).solved);
    check(wider, 3.5);
}

TEST_CASE("Lines that run on smoothly into a spline are offset in one piece that stays smooth") {
    Pen p;
    const int first = p.line({-30, 0}, {0, 0});
    const int curve = drawSpline(p.d, {{0, 0}, {20, 8}, {45, 30}});
    const auto points = p.d.findStroke(curve)->points;
    p.join(p.to(first), points.front());
    p.d.relate(K::Tangent, {first, curve});
    REQUIRE(p.settle().solved);
    for (const double distance : {2.0, -2.0}) {
        Drawing d = p.d;
        const int before = countFreedoms(d, {});
        const EditOutcome out = offsetStrokes(d, {first, curve}, by(distance));
        INFO(distance << " " << out.whyNot);
        REQUIRE(out.done());
        REQUIRE(out.made.size() == 2);
        CHECK(countFreedoms(d, {}) <= before + 1); // the line's open end slides along it
        const int wall = wallOf(d);
        DimensionValues v;
        for (const Relation& r : d.relations)
            if (r.kind == K::Distance) v[r.id] = 3;
        REQUIRE(wall);
        REQUIRE(settleTo(d, v).solved);
        checkBeside(d, out.made, {curve}, 3);
        const Stroke &line = *d.findStroke(out.made[0]), &up = *d.findStroke(out.made[1]);
        CHECK(length(d.at(line.points[1]) - d.at(up.points[0])) < 1e-8);
        const Vec2 along = unit(d.at(line.points[1]) - d.at(line.points[0]));
        CHECK(std::fabs(cross(along, unit(StrokeRun(d, up).slope(0)))) < 1e-7);
    }
}

TEST_CASE("Outside a corner of a curve, sharp is sharp, and round is an arc about the corner") {
    Pen p;
    const int curve = drawSpline(p.d, {{0, 0}, {20, 12}, {45, 6}, {60, 20}});
    const int drop = p.line({60, 20}, {60, -20}), back = p.line({60, -20}, {0, 0});
    const auto points = p.d.findStroke(curve)->points;
    p.join(points[points.size() - 2], p.from(drop));
    p.join(p.to(drop), p.from(back));
    p.join(p.to(back), points.front());
    for (const bool rounded : {false, true}) {
        Drawing d = p.d;
        OffsetWish wish = by(2); // the ring runs clockwise: left is outside
        wish.roundCorners = rounded;
        const int before = countFreedoms(d, {});
        const EditOutcome out = offsetStrokes(d, {curve, drop, back}, wish);
        INFO(out.whyNot);
        REQUIRE(out.done());
        int arcs = 0, lines = 0;
        for (const int made : out.made) {
            arcs += d.findStroke(made)->kind == S::Arc;
            lines += d.findStroke(made)->kind == S::Line;
        }
        CHECK(arcs == (rounded ? 3 : 0));
        CHECK(lines == (rounded ? 2 : 4)); // two run on from the ends of the curve
        CHECK(countFreedoms(d, {}) == before);
        CHECK(areaOf(d, out.made) > 0);
        checkAtRest(d, 2 * kBesideFit);
        DimensionValues v;
        for (const Relation& r : d.relations)
            if (r.kind == K::Distance || r.kind == K::Radius) v[r.id] = 2.6;
        REQUIRE(settleTo(d, v).solved);
        checkBeside(d, out.made, {curve}, 2.6);
        CHECK(areaOf(d, out.made) > 0);
    }
}

TEST_CASE("The ends of an offset on one side are closed, flat or round, and what is enclosed is one area") {
    for (const bool curved : {false, true})
        for (const double distance : {3.0, -3.0})
            for (const CapKind cap : {CapKind::Flat, CapKind::Round}) {
                Pen p;
                std::vector<int> chain;
                if (curved) {
                    chain = {drawSpline(p.d, {{0, 0}, {20, 12}, {45, 6}, {60, 20}})};
                } else {
                    chain = {p.line({0, 0}, {30, 0}), p.arc({30, 15}, 15, -kPi / 2, 0)};
                    p.join(p.to(chain[0]), p.from(chain[1]));
                    p.d.relate(K::Tangent, {chain[0], chain[1]});
                }
                OffsetWish wish = by(distance);
                wish.cap = cap;
                const int before = countFreedoms(p.d, {});
                const EditOutcome out = offsetStrokes(p.d, chain, wish);
                INFO((curved ? "curve" : "lines")
                     << " by " << distance << (cap == CapKind::Flat ? " flat" : " round"));
                INFO(out.whyNot);
                REQUIRE(out.done());
                CHECK(countFreedoms(p.d, {}) == before);
                double along = 0; // of the middle line, by Pappus: the band is as wide as the distance
                std::vector<int> all = chain;
                all.insert(all.end(), out.made.begin(), out.made.end());
                for (const int s : chain) along += StrokeRun(p.d, *p.d.findStroke(s)).length();
                for (std::size_t i = 0; i < chain.size(); ++i)
                    along += StrokeRun(p.d, *p.d.findStroke(out.made[i])).length();
                CHECK(areaOf(p.d, all) ==
                      Approx(along / 2 * 3 + (cap == CapKind::Round ? kPi * 2.25 : 0)).epsilon(1e-7));
                checkAtRest(p.d, 2 * kBesideFit);
            }
}

TEST_CASE("What is loose is said of points that a person placed, never of handles that are not shown") {
    Pen p;
    const int curve = drawSpline(p.d, {{0, 0}, {20, 12}, {45, 6}, {60, 20}});
    OffsetWish bare; // without a figure
    bare.distance = 3;
    const EditOutcome out = offsetStrokes(p.d, {curve}, bare);
    REQUIRE(out.done());
    const Freedoms loose = findFreedoms(p.d, {}, UnitSystem(), 40);
    CHECK(loose.count == 9); // four nodes, and the distance that has no figure
    for (const FreeMotion& m : loose.motions) {
        const std::string text = m.sentence.text();
        INFO(text);
        CHECK(text.find("andle") == std::string::npos);
    }
    // Once the curve is held, the distance is what is left.
    p.d.relate(K::Fixed, {curve});
    const Freedoms rest = findFreedoms(p.d, {}, UnitSystem(), 40);
    REQUIRE(rest.count == 1);
    REQUIRE(rest.motions.size() == 1);
    CHECK(rest.motions[0].sentence.text() == "Offset 1 can come nearer and go further away.");
    REQUIRE_FALSE(rest.motions[0].pins.empty());
    CHECK(rest.motions[0].pins[0].relation.kind == K::Distance);
    CHECK(rest.motions[0].pins[0].words == "distance 3 mm");
}

TEST_CASE("While a curve is dragged its offset goes with it, at every move of the pointer") {
    for (const Source& source : sources()) {
        if (source.name == std::string("fair curve")) continue; // fitted anew when it is let go
        INFO(source.name);
        Pen p;
        const int curve = source.draw(p);
        const EditOutcome out = offsetStrokes(p.d, {curve}, by(3));
        REQUIRE(out.done());
        p.v[wallOf(p.d)] = 3;
        const int point = p.d.findStroke(curve)->points[source.end];
        Settler settler(p.d, p.v);
        settler.grab({point});
        const Vec2 from = p.at(point);
        for (int k = 1; k <= 12; ++k) {
            const Vec2 by{0.4 * k, 0.25 * k};
            REQUIRE(settler.drag(by).solved);
            Drawing now = p.d;
            settler.writeTo(now);
            CHECK(length(now.at(point) - from - by) < 0.05);
            checkBeside(now, out.made, {curve}, 3);
        }
    }
}

TEST_CASE("Random outlines of lines and splines are offset, settled and given another wall") {
    auto random = seeded(61U);
    std::uniform_real_distribution<double> share(0, 1);
    int made = 0;
    for (int trial = 0; trial < rounds(40); ++trial) {
        INFO("trial " << trial);
        // A chain upwards, to and fro, of lines and splines in turn; nothing of it has a size.
        Pen p;
        std::vector<int> chain;
        Vec2 at{30 + 10 * share(random), 0};
        int last = 0;
        for (int k = 0; k < 2 + trial % 3; ++k) {
            std::vector<Vec2> nodes{at};
            for (int i = 0; i < 1 + (k % 2) * 2; ++i) {
                at = at + Vec2{16 * share(random) - 8, 14 + 10 * share(random)};
                nodes.push_back(at);
            }
            const bool line = (k + trial) % 2 == 0 || nodes.size() < 3;
            const int s = line ? p.line(nodes.front(), at) : drawSpline(p.d, nodes);
            const auto ends = endPoints(*p.d.findStroke(s));
            if (last) p.join(last, ends[0]);
            last = ends[1];
            chain.push_back(s);
        }
        const double distance = (trial % 2 ? 1 : -1) * (1 + 2 * share(random));
        const int before = countFreedoms(p.d, {});
        const EditOutcome out = offsetStrokes(p.d, chain, by(distance));
        if (!out.done()) continue; // it would run into itself, and says so
        ++made;
        CHECK(countFreedoms(p.d, {}) <= before + 2); // open ends of lines slide
        for (const double wall : {std::fabs(distance), std::fabs(distance) * 0.8}) {
            DimensionValues v;
            for (const Relation& r : p.d.relations)
                if (r.kind == K::Distance) v[r.id] = wall;
            REQUIRE(settleTo(p.d, v).solved);
            checkBeside(p.d, out.made, chain, wall);
        }
    }
    CHECK(made > rounds(40) / 2);
}
