#include "core/sketch/edit/corner.hpp"

#include "core/sketch/region.hpp"
#include "tests/support/pen.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

double areaOf(const Drawing& d) {
    const Closedness c = findRegions(d);
    return c.regions.empty() ? 0 : c.regions.front().area();
}

} // namespace

TEST_CASE("A rounded square lacks what the four corners take") {
    Pen p;
    const auto ring = p.ring({{10, 0}, {50, 0}, {50, 30}, {10, 30}});
    for (const int side : ring) p.d.relate(p.along(side).x == 0 ? K::Vertical : K::Horizontal, {side});
    p.d.relate(K::Distance, {ring[0]}, "40 mm");
    p.d.relate(K::Distance, {ring[1]}, "30 mm");
    p.join(p.from(ring[0]), p.dot({10, 0}));
    const int freedoms = countFreedoms(p.d, {});
    for (const Vec2 at : {Vec2{10, 0}, {50, 0}, {50, 30}, {10, 30}}) {
        const auto corner = cornerAt(p.d, at, 1);
        REQUIRE(corner);
        const EditOutcome out = roundCorner(p.d, *corner, 5, "5 mm");
        CHECK(out.whyNot.empty());
        CHECK(out.lost.empty()); // lengths are measured to the corner that was
    }
    CHECK(areaOf(p.d) == Approx(40 * 30 - (4 - kPi) * 25).epsilon(1e-9));
    CHECK(countFreedoms(p.d, {}) == freedoms);
    REQUIRE(p.settle().solved);
    CHECK(areaOf(p.d) == Approx(40 * 30 - (4 - kPi) * 25).epsilon(1e-9));
    // The sizes still say how large the whole is.
    for (const Relation& r : p.d.relations)
        if (r.expression == "40 mm") p.v[r.id] = 60;
    REQUIRE(p.settle().solved);
    CHECK(areaOf(p.d) == Approx(60 * 30 - (4 - kPi) * 25).epsilon(1e-9));
}

TEST_CASE("A rounding touches both strokes, whatever they are") {
    auto random = test::seeded(3U);
    std::uniform_real_distribution<double> u(0.4, 2.6), where(15, 40);
    for (int k = 0; k < test::rounds(40); ++k) {
        Drawing d;
        const double turn = u(random);
        const Vec2 away{std::cos(turn) * 40, std::sin(turn) * 40};
        const int a = d.draw(S::Line, {{40, 0}, {0, 0}});
        int b = 0;
        if (k % 4 == 0) b = d.draw(S::Line, {{0, 0}, away});
        if (k % 4 == 1) { // an arc that begins at the corner, one radian long
            const Vec2 c{-away.y, away.x};
            const double r = length(c), to = std::atan2(-c.y, -c.x) + 1;
            b = d.draw(S::Arc, {{0, 0}, {c.x + r * std::cos(to), c.y + r * std::sin(to)}, c}, {r});
        }
        if (k % 4 == 2) b = d.draw(S::Conic, {{0, 0}, away + Vec2{10, 20}, away}, {0.45});
        if (k % 4 == 3) b = d.draw(S::Poles, {{0, 0}, away * 0.4, away * 0.7 + Vec2{0, 3}, away});
        d.relate(K::Coincident, {d.findStroke(a)->points[1], d.findStroke(b)->points[0]});
        const auto corner = cornerAt(d, {0, 0}, 0.1);
        REQUIRE(corner);
        INFO("turn " << turn << " kind " << k % 4);
        const EditOutcome out = roundCorner(d, *corner, 1.5, "1.5 mm");
        REQUIRE(out.whyNot.empty());
        const Stroke& arc = *d.findStroke(out.made.at(0));
        const Vec2 c = d.at(arc.points[2]);
        // Tangent: the nearest point of each stroke is the arc's end, at the radius.
        for (const int s : {a, b}) {
            double nearest = 1e9;
            for (const Curve2& curve : curvesOf(d, *d.findStroke(s)))
                nearest = std::min(nearest, length(curve.at(curve.nearest(c)) - c));
            CHECK(nearest == Approx(1.5).epsilon(1e-7));
        }
        CHECK(findRegions(d).troubles.size() == 2); // the two far ends only
        Drawing settled = d;
        REQUIRE(settleTo(settled, {}).solved);
        for (const DrawnPoint& p : d.points) CHECK(length(settled.at(p.id) - p.at) < 1e-6);
    }
}

TEST_CASE("A rounding that is too large says the largest that fits") {
    Pen p;
    const int a = p.line({20, 0}, {0, 0}), b = p.line({0, 0}, {0, 12});
    p.join(p.to(a), p.from(b));
    const Drawing before = p.d;
    const EditOutcome out = roundCorner(p.d, *cornerAt(p.d, {0, 0}, 1), 15, "15 mm");
    CHECK(out.whyNot.find("15 mm does not fit") != std::string::npos);
    // At a right angle the arc takes its radius of each leg.
    const bool nearly =
        out.whyNot.find("11.99 mm") != std::string::npos || out.whyNot.find("12 mm") != std::string::npos;
    CHECK(nearly);
    CHECK(p.d == before);
    CHECK(!roundCorner(p.d, *cornerAt(p.d, {0, 0}, 1), 0, "").done());
    CHECK(!cornerAt(p.d, {20, 0}, 1)); // one stroke ends there
}

TEST_CASE("A chamfer takes its triangle and keeps both lengths as sizes") {
    Pen p;
    p.ring({{10, 0}, {50, 0}, {50, 30}, {10, 30}});
    const EditOutcome out = chamferCorner(p.d, *cornerAt(p.d, {50, 30}, 1), 4, 7, "4 mm", "7 mm");
    REQUIRE(out.done());
    CHECK(areaOf(p.d) == Approx(1200 - 14).epsilon(1e-9));
    REQUIRE(p.settle().solved);
    CHECK(areaOf(p.d) == Approx(1200 - 14).epsilon(1e-9));
    for (const Relation& r : p.d.relations)
        if (r.expression == "4 mm")
            p.v[r.id] = 6;
        else if (r.expression == "7 mm")
            p.v[r.id] = 7;
    const double sides = areaOf(p.d);
    REQUIRE(p.settle().solved);
    CHECK(areaOf(p.d) != Approx(sides));
    for (const Relation& r : p.d.relations) // both lengths are what was asked, along their sides
        if (const auto it = p.v.find(r.id); it != p.v.end())
            CHECK(measured(p.d, r) == Approx(it->second).epsilon(1e-9));
    const Vec2 cut = p.along(out.made.at(0));
    CHECK(length(cut) == Approx(std::hypot(6, 7)).epsilon(0.2));
    CHECK(chamferCorner(p.d, *cornerAt(p.d, {10, 0}, 1), 400, 7, "", "").whyNot.find("as long as all of") !=
          std::string::npos);
}
