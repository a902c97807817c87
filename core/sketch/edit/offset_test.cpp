#include "core/sketch/edit/offset.hpp"

#include "core/sketch/arcs.hpp"
#include "core/sketch/edit/corner.hpp"
#include "core/sketch/region.hpp"
#include "tests/support/offsets.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

DimensionValues allDistances(const Drawing& d, double value) {
    DimensionValues v;
    for (const Relation& r : d.relations)
        if (r.kind == K::Distance) v[r.id] = value;
    return v;
}

} // namespace

TEST_CASE("Offsets of a convex outline obey Steiner's formula") {
    const std::vector<Vec2> corners{{0, 0}, {40, 0}, {55, 25}, {20, 45}, {-5, 30}};
    Pen p;
    const auto ring = p.ring(corners);
    double outline = 0;
    for (const int l : ring) outline += length(p.along(l));
    const double inside = areaOf(p.d, ring);
    OffsetWish out = by(-3); // to the right of a counter-clockwise walk: outwards
    out.roundCorners = true;
    const EditOutcome outer = offsetStrokes(p.d, ring, out);
    REQUIRE(outer.whyNot.empty());
    CHECK(outer.made.size() == 10);
    CHECK(areaOf(p.d, outer.made) == Approx(inside + outline * 3 + kPi * 9).epsilon(1e-9));
    checkAtRest(p.d);
    const EditOutcome inner = offsetStrokes(p.d, ring, by(3));
    REQUIRE(inner.whyNot.empty());
    CHECK(inner.made.size() == 5);
    // Inwards with sharp corners: what is lost is outline times distance, less the tips counted twice.
    double tips = 0;
    for (std::size_t i = 0; i < 5; ++i) {
        const Vec2 u = corners[(i + 1) % 5] - corners[i], v = corners[(i + 2) % 5] - corners[(i + 1) % 5];
        tips += 9 * std::tan(turnBetween(u, v) / 2);
    }
    CHECK(areaOf(p.d, inner.made) == Approx(inside - outline * 3 + tips).epsilon(1e-9));
    checkAtRest(p.d);
}

TEST_CASE("The wall of an offset is one size for all of it") {
    Pen p;
    drawSlot(p.d, {10, 20}, {50, 20}, 8);
    std::vector<int> slot;
    for (const Stroke& s : p.d.strokes) slot.push_back(s.id);
    const double outer = areaOf(p.d, slot);
    CHECK(outer == Approx(40 * 16 + kPi * 64).epsilon(1e-9));
    const EditOutcome out = offsetStrokes(p.d, slot, by(2));
    REQUIRE(out.whyNot.empty());
    CHECK(areaOf(p.d, out.made) == Approx(40 * 12 + kPi * 36).epsilon(1e-9));
    checkAtRest(p.d);
    int leading = 0;
    for (const Relation& r : p.d.relations)
        if (r.kind == K::Distance) leading += r.expression != "offset1";
    CHECK(leading == 1);
    REQUIRE(settleTo(p.d, allDistances(p.d, 3.5)).solved);
    const double wall = 3.5;
    // The slot itself was free to move: its size is read off, and the wall is what was asked.
    const double r = p.radius(slot[2]), l = length(p.along(slot[0]));
    CHECK(areaOf(p.d, out.made) == Approx(l * 2 * (r - wall) + kPi * (r - wall) * (r - wall)).epsilon(1e-8));
}

TEST_CASE("What runs on smoothly is offset without a joint that could slide") {
    const auto check = [](Pen& p, const std::vector<int>& ring) {
        REQUIRE(p.settle().solved);
        for (const double distance : {1.5, -1.5}) {
            Drawing d = p.d;
            const int before = countFreedoms(d, p.v);
            const EditOutcome out = offsetStrokes(d, ring, by(distance));
            INFO(out.whyNot);
            REQUIRE(out.done());
            DimensionValues v = allDistances(d, 1.5);
            v.insert(p.v.begin(), p.v.end());
            for (const auto& [id, size] : p.v) v[id] = size;
            CHECK(countFreedoms(d, v) == before);
            REQUIRE(settleTo(d, v).solved);
            // The wall drives all of it: at any distance there is one closed ring, parallel to the first.
            DimensionValues wider = allDistances(d, 2.25);
            for (const auto& [id, size] : p.v) wider[id] = size;
            REQUIRE(settleTo(d, wider).solved);
            for (const int made : out.made) {
                const StrokeRun run(d, *d.findStroke(made));
                for (int k = 1; k < 8; ++k) {
                    double nearest = 1e9;
                    for (const int s : ring)
                        for (const Curve2& c : curvesOf(d, *d.findStroke(s)))
                            nearest = std::min(nearest, length(c.at(c.nearest(run.at(run.end() * k / 8))) -
                                                               run.at(run.end() * k / 8)));
                    CHECK(nearest == Approx(2.25).margin(1e-7));
                }
            }
        }
    };
    Pen plate;
    const auto rounded = drawRoundedRectangle(plate.d, {5, 5}, {45, 30}, 6);
    check(plate, rounded);
    Pen halves; // a side in two pieces is one beside them
    const auto split = halves.ring({{5, 5}, {20, 5}, {45, 5}, {45, 30}, {5, 30}});
    halves.d.relate(K::Collinear, {split[0], split[1]});
    halves.size(K::Distance, {split[0]}, 15);
    REQUIRE(halves.settle().solved);
    Drawing beside = halves.d;
    const EditOutcome four = offsetStrokes(beside, split, by(2));
    CHECK(four.made.size() == 4);
    CHECK(countFreedoms(beside, allDistances(beside, 2)) == countFreedoms(halves.d, halves.v));
    Pen slot;
    drawSlot(slot.d, {10, 20}, {50, 24}, 8);
    std::vector<int> all;
    for (const Stroke& s : slot.d.strokes) all.push_back(s.id);
    check(slot, all);
    Pen egg; // four arcs, each tangent to the next
    const int a = egg.arc({0, 0}, 20, -kPi, 0), b = egg.arc({-20, 0}, 40, 0, kPi / 4),
              c = egg.arc({0, 20}, 40 - 20 * std::sqrt(2.0), kPi / 4, 3 * kPi / 4),
              e = egg.arc({20, 0}, 40, 3 * kPi / 4, kPi);
    const std::vector<int> ring{a, b, c, e};
    for (std::size_t i = 0; i < 4; ++i) {
        egg.join(egg.to(ring[i]), egg.from(ring[(i + 1) % 4]));
        egg.d.relate(K::Tangent, {ring[i], ring[(i + 1) % 4]});
    }
    check(egg, ring);
}

TEST_CASE("Sides that an offset swallows are left out") {
    Pen p; // a long roof with a short flat ridge
    const auto ring = p.ring({{0, 0}, {60, 0}, {32, 28}, {28, 28}});
    const EditOutcome out = offsetStrokes(p.d, ring, by(6));
    REQUIRE(out.whyNot.empty());
    CHECK(out.made.size() == 3);
    // Every corner of it is at the distance from two sides and no nearer to any.
    for (const int s : out.made)
        for (const int l : ring) {
            const LineEnds side = lineEnds(p.d, l);
            Curve2 c;
            c.p = {side.from, side.to};
            const Vec2 q = p.at(p.from(s));
            CHECK(length(c.at(c.nearest(q)) - q) > 6 - 1e-9);
        }
    checkAtRest(p.d);
    const EditOutcome no = offsetStrokes(p.d, ring, by(40));
    CHECK(no.whyNot.find("largest distance that works") != std::string::npos);
}

TEST_CASE("Both sides with caps close a band of that width") {
    for (const CapKind cap : {CapKind::Flat, CapKind::Round}) {
        Pen p;
        const int a = p.line({0, 0}, {40, 0}), b = p.arc({40, 20}, 20, -kPi / 2, 0);
        p.join(p.to(a), p.from(b));
        p.d.relate(K::Tangent, {a, b});
        OffsetWish w = by(3);
        w.bothSides = true;
        w.cap = cap;
        const EditOutcome out = offsetStrokes(p.d, {a, b}, w);
        REQUIRE(out.whyNot.empty());
        const double middle = 40 + 10 * kPi; // Pappus: the band is its middle line times its width
        CHECK(areaOf(p.d, out.made) ==
              Approx(middle * 6 + (cap == CapKind::Round ? kPi * 9 : 0)).epsilon(1e-9));
        checkAtRest(p.d);
    }
}

TEST_CASE("Offsets of curves lie at the distance, and the corners between them close") {
    Pen p;
    const int curve = drawSpline(p.d, {{0, 0}, {20, 12}, {45, 6}, {60, 20}});
    const int drop = p.line({60, 20}, {60, -20}), back = p.line({60, -20}, {0, 0});
    const std::vector<int> all{curve, drop, back};
    for (const double distance : {2.0, -2.0}) {
        Drawing d = p.d;
        const EditOutcome out = offsetStrokes(d, all, by(distance));
        INFO(distance << " " << out.whyNot);
        REQUIRE(out.done());
        for (const int made : out.made) {
            const StrokeRun run(d, *d.findStroke(made));
            for (int k = 1; k < 40; ++k) {
                const Vec2 q = run.at(run.end() * k / 40.0);
                double nearest = 1e9;
                for (const int s : all)
                    for (const Curve2& c : curvesOf(d, *d.findStroke(s)))
                        nearest = std::min(nearest, length(c.at(c.nearest(q)) - q));
                // Sharp outer corners of two lines stand further out; nothing is nearer.
                CHECK(nearest > 2 - 0.004);
            }
        }
        CHECK(areaOf(d, out.made) > 0); // one closed outline
        checkAtRest(d);
    }
}

TEST_CASE("Chains are found however the strokes run, and the first one leads") {
    Pen p;
    const int a = p.line({0, 0}, {10, 0}), b = p.line({10, 10}, {10, 0}), c = p.line({10, 10}, {0, 10});
    const auto chains = chainsOf(p.d, {a, b, c});
    REQUIRE(chains.size() == 1);
    CHECK(chains[0].strokes == std::vector<int>{a, b, c});
    CHECK(chains[0].forward == std::vector<bool>{true, false, true});
    CHECK(!chains[0].closed);
    const int closing = p.line({0, 0}, {0, 10});
    CHECK(chainsOf(p.d, {a, b, c, closing}).at(0).closed);
    CHECK(chainsOf(p.d, {p.circle({3, 3}, 1), a}).size() == 2);
    CHECK(!offsetStrokes(p.d, {}, by(2)).done());
    CHECK(!offsetStrokes(p.d, {a}, by(0)).done());
}
