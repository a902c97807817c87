#include "core/base/angles.hpp"
#include "core/sketch/region.hpp"
#include "core/sketch/solve/settle.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using S = StrokeKind;

namespace {

void ring(Drawing& d, const std::vector<Vec2>& at) {
    for (std::size_t i = 0; i < at.size(); ++i) d.draw(S::Line, {at[i], at[(i + 1) % at.size()]});
}

Curve2 ellipse(Vec2 c, double a, double b, double from, double turn) {
    Curve2 e;
    e.kind = Curve2::Kind::Ellipse;
    e.p = {c, {a, 0}, {0, b}};
    e.from = from, e.turn = turn;
    return e;
}

} // namespace

TEST_CASE("Lengths and areas of curves agree with closed forms") {
    CHECK(ellipse({3, 4}, 5, 5, 0.3, 1.7).length() == Approx(5 * 1.7).epsilon(1e-12));
    CHECK(ellipse({3, 4}, 7, 2, 0, 2 * kPi).areaShare() == Approx(kPi * 14).epsilon(1e-10));
    // Ramanujan's second approximation of the perimeter is good to 1e-9 at this flatness.
    const double h = std::pow((7.0 - 6) / (7 + 6), 2);
    CHECK(ellipse({}, 7, 6, 0, 2 * kPi).length() ==
          Approx(kPi * 13 * (1 + 3 * h / (10 + std::sqrt(4 - 3 * h)))).epsilon(1e-9));
    Curve2 quarter; // a conic that is a quarter of a circle of radius 10
    quarter.kind = Curve2::Kind::Conic;
    quarter.p = {Vec2{10, 0}, {10, 10}, {0, 10}};
    quarter.weight = std::sqrt(0.5);
    CHECK(quarter.length() == Approx(5 * kPi).epsilon(1e-10));
    CHECK(quarter.part(0.2, 0.7).length() + quarter.part(0, 0.2).length() + quarter.part(1, 0.7).length() ==
          Approx(5 * kPi).epsilon(1e-10));
    for (const double t : {0.1, 0.5, 0.8}) CHECK(length(quarter.part(0.2, 0.9).at(t)) == Approx(10));
    Curve2 cubic;
    cubic.kind = Curve2::Kind::Cubic;
    cubic.p = {Vec2{0, 0}, {1, 2}, {2, 4}, {3, 6}}; // a straight one
    CHECK(cubic.length() == Approx(std::sqrt(45.0)).epsilon(1e-12));
    CHECK(cubic.nearest({1.5, 3}) == Approx(0.5));
}

TEST_CASE("Curves meet where both are, however they are made") {
    auto random = test::seeded(4U);
    std::uniform_real_distribution<double> u(-20, 20), angle(0.3, 6);
    const auto any = [&](int kind) {
        Curve2 c;
        if (kind == 0) c.p = {Vec2{u(random), u(random)}, {u(random), u(random)}};
        if (kind == 1) c = ellipse({u(random), u(random)}, 12, 12, angle(random), angle(random));
        if (kind == 2) c = ellipse({u(random), u(random)}, 15, 6, angle(random), angle(random));
        if (kind == 3)
            c.kind = Curve2::Kind::Cubic, c.p = {Vec2{u(random), u(random)},
                                                 {u(random), u(random)},
                                                 {u(random), u(random)},
                                                 {u(random), u(random)}};
        if (kind == 4)
            c.kind = Curve2::Kind::Conic,
            c.p = {Vec2{u(random), u(random)}, {u(random), u(random)}, {u(random), u(random)}},
            c.weight = 0.8;
        return c;
    };
    int found = 0;
    for (int i = 0; i < 5; ++i)
        for (int j = 0; j < 5; ++j)
            for (int trial = 0; trial < 25; ++trial) {
                const Curve2 a = any(i), b = any(j);
                const auto all = meetings(a, b);
                for (const Meeting& m : all) CHECK(length(a.at(m.onFirst) - b.at(m.onSecond)) < 1e-6);
                // An independent count: sign changes of fine polygons against each other.
                int crossings = 0;
                const auto p = a.sampled(0.004), q = b.sampled(0.004);
                for (std::size_t k = 1; k < p.size(); ++k)
                    for (std::size_t l = 1; l < q.size(); ++l) {
                        const auto side = [](Vec2 x, Vec2 y, Vec2 z) { return cross(y - x, z - x); };
                        crossings += side(p[k - 1], p[k], q[l - 1]) * side(p[k - 1], p[k], q[l]) < 0 &&
                                     side(q[l - 1], q[l], p[k - 1]) * side(q[l - 1], q[l], p[k]) < 0;
                    }
                INFO("kinds " << i << " and " << j);
                CHECK(std::abs(static_cast<int>(all.size()) - crossings) <=
                      (crossings > 2 ? 1 : 0) + (i > 1 || j > 1 ? 1 : 0));
                found += crossings;
            }
    CHECK(found > 200);
}

TEST_CASE("A rectangle with a round hole and an island is three faces") {
    Drawing d;
    ring(d, {{0, 0}, {50, 0}, {50, 30}, {0, 30}});
    d.draw(S::Circle, {{25, 15}}, {10});
    ring(d, {{22, 12}, {28, 12}, {28, 18}, {22, 18}});
    const Closedness c = findRegions(d);
    REQUIRE(c.regions.size() == 3);
    CHECK(c.troubles.empty());
    CHECK(c.regions[0].area() == Approx(1500 - 100 * kPi).epsilon(1e-9));
    CHECK(c.regions[1].area() == Approx(100 * kPi - 36).epsilon(1e-9));
    CHECK(c.regions[2].area() == Approx(36).epsilon(1e-9));
    for (std::size_t i = 0; i < 3; ++i) CHECK(c.regions[i].depth == static_cast<int>(i));
    CHECK(c.regions[0].contains({2, 2}));
    CHECK_FALSE(c.regions[0].contains({25, 15}));
    CHECK(c.regions[2].contains({25, 15}));
}

TEST_CASE("Strokes that cross make the faces between them") {
    Drawing d;
    d.draw(S::Circle, {{0, 0}}, {10});
    d.draw(S::Circle, {{10, 0}}, {10});
    const Closedness c = findRegions(d);
    REQUIRE(c.regions.size() == 3); // two crescents and a lens
    const double lens = 2 * 100 * std::acos(0.5) - 0.5 * 10 * std::sqrt(300.0);
    double all = 0;
    for (const Region& r : c.regions) all += r.area();
    CHECK(c.regions[2].area() == Approx(lens).epsilon(1e-9));
    CHECK(all == Approx(200 * kPi - lens).epsilon(1e-9));
}

TEST_CASE("A half profile closes along the axis") {
    Drawing d;
    d.draw(S::Line, {{0, 0}, {30, 0}});
    d.draw(S::Line, {{30, 0}, {35, 40}});
    d.draw(S::Line, {{35, 40}, {0, 40}});
    const Closedness c = findRegions(d);
    REQUIRE(c.regions.size() == 1);
    CHECK(c.regions[0].area() == Approx((30 + 35) / 2.0 * 40));
    CHECK(c.troubles.empty());
    ClosednessOptions open;
    open.closeAlongAxis = false;
    CHECK(findRegions(d, open).regions.empty());
}

TEST_CASE("A gap is told with its size, and one click closes it") {
    Drawing d;
    ring(d, {{10, 0}, {40, 0}, {40, 20}, {10, 20}});
    d.points[1].at.x -= 0.12; // the end of line 1
    Closedness c = findRegions(d);
    CHECK(c.regions.empty());
    REQUIRE(c.troubles.size() == 1);
    CHECK(c.troubles[0].kind == TroubleKind::Gap);
    CHECK(c.troubles[0].size == Approx(0.12));
    CHECK(c.troubles[0].sentence.text().find("0.12 mm apart") != std::string::npos);
    REQUIRE(mend(d, c.troubles[0]));
    Settler settler(d);
    REQUIRE(settler.settle().solved);
    c = findRegions(settler.drawing());
    CHECK(c.regions.size() == 1);
    CHECK(c.troubles.empty());
}

TEST_CASE("A line that runs past its corner is told to stick out") {
    Drawing d;
    ring(d, {{10, 0}, {40, 0}, {40, 20}, {10, 20}});
    d.points[1].at.x += 0.12;
    const Closedness c = findRegions(d);
    CHECK(c.regions.size() == 1);
    REQUIRE(c.troubles.size() == 1);
    CHECK(c.troubles[0].size == Approx(0.12));
    CHECK(c.troubles[0].sentence.text().find("sticks out by 0.12 mm") != std::string::npos);
}

TEST_CASE("Overlaps, doubled lines, crossings and loose ends are told apart") {
    Drawing d;
    const int a = d.draw(S::Line, {{5, 0}, {25, 0}});
    d.draw(S::Line, {{20, 0}, {45, 0}});
    Closedness c = findRegions(d);
    const auto has = [&](TroubleKind kind) {
        return std::count_if(c.troubles.begin(), c.troubles.end(),
                             [&](const Trouble& t) { return t.kind == kind; });
    };
    REQUIRE(has(TroubleKind::Overlap) == 1);
    CHECK(c.troubles[0].size == Approx(5));
    CHECK(has(TroubleKind::LooseEnd) == 2);
    const int twice = d.draw(S::Line, {{25, 0}, {5, 0}});
    d.draw(S::Line, {{30, -5}, {31, 5}});
    c = findRegions(d);
    CHECK(has(TroubleKind::Doubled) == 1);
    CHECK(has(TroubleKind::Crossing) == 1);
    for (const Trouble& t : c.troubles)
        if (t.kind == TroubleKind::Doubled) CHECK(mend(d, t));
    CHECK(d.findStroke(a));
    CHECK_FALSE(d.findStroke(twice));
}

TEST_CASE("Areas of random star shapes agree with the polygon, holes taken off") {
    auto random = test::seeded(9U);
    std::uniform_real_distribution<double> r(8, 30);
    for (int trial = 0; trial < test::rounds(40); ++trial) {
        Drawing d;
        const int n = 5 + trial % 9;
        std::vector<Vec2> at;
        double area = 0;
        for (int i = 0; i < n; ++i)
            at.push_back(Vec2{50, 0} +
                         Vec2{std::cos(2 * kPi * i / n), std::sin(2 * kPi * i / n)} * r(random));
        for (std::size_t i = 0; i < at.size(); ++i) area += 0.5 * cross(at[i], at[(i + 1) % at.size()]);
        ring(d, at);
        d.draw(S::Circle, {{50, 0}}, {2});
        const Closedness c = findRegions(d);
        REQUIRE(c.regions.size() == 2);
        CHECK(c.regions[0].area() == Approx(area - 4 * kPi).epsilon(1e-9));
    }
}

TEST_CASE("An area is found again by its strokes, though some of them changed") {
    Drawing d;
    ring(d, {{0, 0}, {40, 0}, {40, 20}, {0, 20}});
    const int divide = d.draw(S::Line, {{15, -1}, {15, 21}});
    const auto regions = findRegions(d).regions;
    REQUIRE(regions.size() == 2);
    const auto larger = regions[0].strokes(), smaller = regions[1].strokes();
    CHECK(findArea(regions, larger) == 0u);
    CHECK(findArea(regions, smaller) == 1u);
    // A corner is cut off: the larger area has one stroke more, and is still the one that is meant.
    Drawing cut = d;
    cut.draw(S::Line, {{34, -1}, {41, 6}});
    const auto after = findRegions(cut).regions;
    REQUIRE(after.size() == 3);
    const auto found = findArea(after, larger);
    REQUIRE(found);
    CHECK(after[*found].contains({30, 10}));
    CHECK(!findArea(regions, {divide}).has_value());
    CHECK(!findArea(regions, {999}).has_value());
}

TEST_CASE("Areas that have the same strokes around them are told apart by the way round") {
    Drawing d;
    const int a = d.draw(S::Circle, {{0, 0}}, {10}), b = d.draw(S::Circle, {{12, 0}}, {10});
    const auto regions = findRegions(d).regions;
    REQUIRE(regions.size() == 3); // two crescents and a lens
    for (std::size_t i = 0; i < 3; ++i) {
        CHECK(regions[i].strokes() == std::vector{a, b});
        CHECK(findArea(regions, regions[i].marks) == i);
    }
    CHECK_FALSE(findArea(regions, {a, b}).has_value()); // which one was not said
    // One circle larger: each is still found, though all three are others.
    Drawing wider = d;
    wider.strokes[1].sizes[0] = 11;
    const auto after = findRegions(wider).regions;
    for (const Region& r : regions) {
        const auto found = findArea(after, r.marks);
        REQUIRE(found);
        for (const Vec2 p : {Vec2{-7, 0}, Vec2{6, 0}, Vec2{19, 0}})
            CHECK(r.contains(p) == after[*found].contains(p));
    }
}
