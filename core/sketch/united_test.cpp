#include "core/sketch/united.hpp"

#include "core/base/angles.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

void box(Drawing& d, Vec2 low, Vec2 high) {
    const Vec2 at[] = {low, {high.x, low.y}, high, {low.x, high.y}};
    for (std::size_t i = 0; i < 4; ++i) d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]});
}
double areaOf(const std::vector<Region>& all) {
    double out = 0;
    for (const Region& r : all) out += r.area();
    return out;
}

} // namespace

TEST_CASE("Areas side by side become one, with what they enclose left out") {
    Drawing d;
    box(d, {0, 0}, {30, 20});
    d.draw(StrokeKind::Line, {{10, 0}, {10, 20}});
    d.draw(StrokeKind::Line, {{20, 0}, {20, 20}});
    const auto three = findRegions(d).regions;
    REQUIRE(three.size() == 3);
    const auto one = united(three);
    REQUIRE(one.size() == 1);
    CHECK(one[0].area() == Approx(600));
    CHECK(one[0].holes.empty());
    // Those at the two ends do not touch.
    std::vector<Region> ends;
    for (const Region& r : three)
        if (!r.contains({15, 10})) ends.push_back(r);
    CHECK(united(ends).size() == 2);
}

TEST_CASE("An area within another fills its hole; around a hole all of them leave it") {
    Drawing d;
    box(d, {0, 0}, {40, 40});
    d.draw(StrokeKind::Circle, {{20, 20}}, {12});
    d.draw(StrokeKind::Circle, {{20, 20}}, {5});
    const auto all = findRegions(d).regions;
    REQUIRE(all.size() == 3);
    CHECK(areaOf(united(all)) == Approx(1600).epsilon(1e-9));
    CHECK(united(all)[0].holes.empty());
    std::vector<Region> outer;
    for (const Region& r : all)
        if (!r.contains({20, 20})) outer.push_back(r);
    const auto ring = united(outer);
    REQUIRE(ring.size() == 1);
    REQUIRE(ring[0].holes.size() == 1);
    CHECK(ring[0].area() == Approx(1600 - 25 * kPi).epsilon(1e-9));
}

TEST_CASE(
    "Of random drawings any areas together are as large as they are, and what is joined holds no border "
    "between them") {
    std::mt19937 random = seeded(177);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    for (int i = 0; i < rounds(20); ++i) {
        Drawing d;
        box(d, {0, 0}, {100, 60});
        for (int k = 0; k < 4; ++k) d.draw(StrokeKind::Line, {{between(0, 100), 0}, {between(0, 100), 60}});
        for (int k = 0; k < 3; ++k)
            d.draw(StrokeKind::Circle, {{between(20, 80), between(20, 40)}}, {between(4, 18)});
        const auto all = findRegions(d).regions;
        std::vector<Region> some;
        for (const Region& r : all)
            if (between(0, 1) < 0.6) some.push_back(r);
        if (some.empty()) continue;
        const auto one = united(some);
        INFO(i << ": " << some.size() << " of " << all.size() << " into " << one.size());
        CHECK(areaOf(one) == Approx(areaOf(some)).epsilon(1e-9));
        CHECK(one.size() <= some.size());
        for (int k = 0; k < 200; ++k) {
            const Vec2 p{between(0, 100), between(0, 60)};
            const auto holds = [&](const std::vector<Region>& in) {
                return std::any_of(in.begin(), in.end(), [&](const Region& r) { return r.contains(p); });
            };
            CHECK(holds(one) == holds(some));
        }
    }
}
