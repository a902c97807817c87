#include "core/base/angles.hpp"
#include "core/sketch/inset/inset.hpp"

#include "core/sketch/region.hpp"

#include <catch2/catch.hpp>

#include <cstdlib>
#include <random>

using namespace gc;

namespace {

using Why = InsetStop::Why;

InsetSide line(Vec2 a, Vec2 b) {
    return InsetSide({{Curve2::Kind::Line, {a, b}}});
}
InsetSide arc(Vec2 centre, double r, double from, double turn) {
    return InsetSide({{Curve2::Kind::Ellipse, {centre, {r, 0}, {0, r}}, from, turn}});
}
InsetSide cubic(Vec2 a, Vec2 b, Vec2 c, Vec2 d) {
    return InsetSide({{Curve2::Kind::Cubic, {a, b, c, d}}});
}

std::vector<InsetSide> polygon(const std::vector<Vec2>& corners) {
    std::vector<InsetSide> out;
    for (std::size_t i = 0; i < corners.size(); ++i)
        out.push_back(line(corners[i], corners[(i + 1) % corners.size()]));
    return out;
}

/// Half as wide as a, half as high as b.
std::vector<InsetSide> rounded(double a, double b, double r) {
    return {line({-a + r, -b}, {a - r, -b}), arc({a - r, -b + r}, r, -kPi / 2, kPi / 2),
            line({a, -b + r}, {a, b - r}),   arc({a - r, b - r}, r, 0, kPi / 2),
            line({a - r, b}, {-a + r, b}),   arc({-a + r, b - r}, r, kPi / 2, kPi / 2),
            line({-a, b - r}, {-a, -b + r}), arc({-a + r, -b + r}, r, kPi, kPi / 2)};
}

/// The area that is left when all has moved so far: the sum along the moved sides, by Gauss' rule.
double areaAt(const Inset& inset, double by) {
    constexpr double at[] = {-0.7745966692414834, 0, 0.7745966692414834},
                     weight[] = {5. / 18, 8. / 18, 5. / 18};
    double area = 0;
    for (const InsetLoop& loop : inset.loops) {
        for (std::size_t i = 0; i < loop.sides.size(); ++i) {
            double from = -1, to = -1;
            for (const InsetCorner& c : loop.corners) {
                if (std::fabs(c.path.front().by) > std::fabs(by) ||
                    std::fabs(c.path.back().by) < std::fabs(by))
                    continue;
                if (c.after == static_cast<int>(i)) from = loop.placeOf(c, by).onAfter;
                if (c.before == static_cast<int>(i)) to = loop.placeOf(c, by).onBefore;
            }
            if (from == -1 && to == -1) continue;
            constexpr int n = 60;
            for (int k = 0; k < n; ++k)
                for (int g = 0; g < 3; ++g) {
                    Vec2 slope;
                    const Vec2 p =
                        loop.sides[i].moved(from + (to - from) * (k + 0.5 + at[g] / 2) / n, by, &slope);
                    area += 0.5 * cross(p, slope) * weight[g] * (to - from) / n;
                }
        }
    }
    return area;
}

/// The same area in another way: the share of a fine grid's points that lie left of every side's near part by
/// more than the distance. Right for outlines without reflex corners.
double areaByGrid(const std::vector<std::vector<InsetSide>>& loops, double by) {
    std::vector<Vec2> outline;
    Vec2 low{1e9, 1e9}, high{-1e9, -1e9};
    for (const auto& loop : loops)
        for (const InsetSide& s : loop)
            for (int k = 0; k < 400; ++k) {
                outline.push_back(s.at(k / 400.0));
                low = {std::min(low.x, outline.back().x), std::min(low.y, outline.back().y)};
                high = {std::max(high.x, outline.back().x), std::max(high.y, outline.back().y)};
            }
    constexpr int n = 160;
    int inside = 0;
    for (int i = 0; i < n; ++i)
        for (int j = 0; j < n; ++j) {
            const Vec2 p{low.x + (high.x - low.x) * (i + 0.5) / n, low.y + (high.y - low.y) * (j + 0.5) / n};
            double nearest = 1e9, turns = 0;
            for (std::size_t k = 0; k < outline.size(); ++k) {
                const Vec2 a = outline[k] - p, b = outline[(k + 1) % outline.size()] - p;
                nearest = std::min(nearest, length(a));
                turns += std::atan2(cross(a, b), dot(a, b));
            }
            inside += turns > kPi && nearest > by;
        }
    return (high.x - low.x) * (high.y - low.y) * inside / (n * n);
}

} // namespace

TEST_CASE("A curve of several pieces is one side, run through evenly, with its curvature") {
    // A quarter of an ellipse, and the two cubics that a cubic falls into when it is cut at a third.
    const InsetSide ellipse({{Curve2::Kind::Ellipse, {Vec2{0, 0}, {5, 0}, {0, 3}}, 0, kPi / 2}});
    CHECK(ellipse.kind() == InsetSide::Kind::Free);
    CHECK(ellipse.local(0).curvature == Approx(5 / 9.0)); // a / b²
    CHECK(ellipse.local(1).curvature == Approx(3 / 25.0));
    const Curve2 whole{Curve2::Kind::Cubic, {Vec2{0, 0}, {2, 5}, {7, 6}, {9, 0}}};
    const InsetSide parted({whole.part(0, 1 / 3.0), whole.part(1 / 3.0, 1)}), one({whole});
    REQUIRE(parted.breaks().size() == 3);
    CHECK(parted.breaks()[1] == Approx(1 / 3.0));
    CHECK(parted.isEvenAt(1));
    for (const double t : {-0.1, 0.0, 0.2, 0.33333, 0.4, 0.9, 1.05}) {
        CHECK(length(parted.at(t) - one.at(t)) < 1e-12);
        CHECK(length(parted.local(t).slope - one.local(t).slope) < 1e-9);
        CHECK(parted.local(t).curvature == Approx(one.local(t).curvature));
        Vec2 slope;
        const Vec2 before = one.moved(t - 1e-6, 0.7), after = one.moved(t + 1e-6, 0.7);
        one.moved(t, 0.7, &slope);
        CHECK(length((after - before) * 5e5 - slope) < 1e-5 * length(slope));
    }
    // A conic: a quarter circle by its weight.
    const InsetSide conic({{Curve2::Kind::Conic, {Vec2{2, 0}, {2, 2}, {0, 2}}, 0, 0, std::sqrt(0.5)}});
    for (const double t : {0.0, 0.3, 1.0}) CHECK(conic.local(t).curvature == Approx(0.5));
}

TEST_CASE("Corners keep sharp: areas are those of the closed forms") {
    // Of outlines without reflex corners A - L q + K q², K the sum of tan(half the turn) at corners and half
    // of it on rounds.
    const std::vector<std::vector<InsetSide>> square{polygon({{-10, -10}, {10, -10}, {10, 10}, {-10, 10}})};
    const std::vector<std::vector<InsetSide>> box{rounded(20, 12, 5)};
    const std::vector<std::vector<InsetSide>> ell{
        polygon({{0, 0}, {30, 0}, {30, 12}, {12, 12}, {12, 30}, {0, 30}})};
    const std::vector<std::vector<InsetSide>> ring{{arc({0, 0}, 10, 0.3, 2 * kPi)},
                                                   {arc({1, 0}, 4, 0, -2 * kPi)}};
    for (const double q : {-3.0, -0.5, 0.4, 1.7}) {
        INFO(q);
        CHECK(areaAt(insetOf(square, q), q) == Approx(std::pow(20 - 2 * q, 2)).epsilon(1e-10));
        CHECK(areaAt(insetOf(box, q), q) ==
              Approx((40 - 2 * q) * (24 - 2 * q) - (4 - kPi) * (5 - q) * (5 - q)).epsilon(1e-9));
        CHECK(areaAt(insetOf(ell, q), q) == Approx(576 - 120 * q + 4 * q * q).epsilon(1e-10));
        CHECK(areaAt(insetOf(ring, q), q) ==
              Approx(kPi * ((10 - q) * (10 - q) - (4 + q) * (4 + q))).epsilon(1e-9));
    }
    for (const auto& loops : {square, box, ell, ring}) CHECK_FALSE(insetOf(loops, 1.7).stop);
}

TEST_CASE("Sides that vanish let those beside them meet") {
    // Rounds of 2 are gone at 2; beyond that the corners are sharp.
    const Inset box = insetOf({rounded(20, 12, 2)}, 4);
    REQUIRE_FALSE(box.stop);
    const InsetLoop& loop = box.loops[0];
    for (const int round : {1, 3, 5, 7}) CHECK(loop.vanished[std::size_t(round)].value() == Approx(2));
    for (const int straight : {0, 2, 4, 6}) CHECK_FALSE(loop.vanished[std::size_t(straight)]);
    CHECK(areaAt(box, 4) == Approx(32 * 16));
    CHECK(areaAt(box, 1) == Approx(38 * 22 - (4 - kPi)));
    // A land of 2.4 between a notch's slanting wall and the edge: then the two walls meet.
    const std::vector<Vec2> corners{{0, 0},   {40, 0},  {40, 20}, {37.6, 20},
                                    {36, 17}, {34, 17}, {34, 20}, {0, 20}};
    const Inset notched = insetOf({polygon(corners)}, 3);
    REQUIRE_FALSE(notched.stop);
    const double lean = std::atan2(1.6, 3); // of the wall from upright
    // Its upper end moves right by q / cos lean - q tan lean, the edge left by q.
    const double gone = 2.4 / (1 / std::cos(lean) - std::tan(lean) + 1);
    CHECK(notched.loops[0].vanished[2].value() == Approx(gone));
    for (const double q : {1.0, 2.5}) {
        // The wall's line x = 36 + (y - 17) tan lean + q / cos lean, down to the floor at 17 - q.
        const auto wall = [&](double y) { return 36 + (y - 17) * std::tan(lean) + q / std::cos(lean); };
        const double right = 40 - q, top = 20 - q, floor = 17 - q, left = 34 - q;
        const double meets = std::min(top, 17 + (right - 36 - q / std::cos(lean)) / std::tan(lean));
        std::vector<Vec2> outline{
            {q, q},        {right, q},  {right, meets}, {wall(meets), meets}, {wall(floor), floor},
            {left, floor}, {left, top}, {q, top}};
        double area = 0;
        for (std::size_t i = 0; i < outline.size(); ++i)
            area += cross(outline[i], outline[(i + 1) % outline.size()]) / 2;
        CHECK(areaAt(notched, q) == Approx(area));
    }
}

TEST_CASE("Where it cannot go on it says how far it gets") {
    const auto stop = [](const std::vector<std::vector<InsetSide>>& loops, double by) {
        const Inset inset = insetOf(loops, by);
        REQUIRE(inset.stop);
        return *inset.stop;
    };
    const auto square = polygon({{-10, -10}, {10, -10}, {10, 10}, {-10, 10}});
    CHECK(stop({square}, 12).why == Why::Closes);
    CHECK(stop({square}, 12).by == Approx(10));
    CHECK(stop({{arc({0, 0}, 7, 0, 2 * kPi)}}, 9).by == Approx(7));
    const std::vector<InsetSide> slot{line({-8, -12}, {8, -12}), arc({8, 0}, 12, -kPi / 2, kPi),
                                      line({8, 12}, {-8, 12}), arc({-8, 0}, 12, kPi / 2, kPi)};
    CHECK(stop({slot}, 13).by == Approx(12)); // its rounds and its sides at once
    // A finger of even width is gone all at once, and with it what lay between its walls.
    CHECK(
        stop({polygon({{0, 0}, {40, 0}, {40, 20}, {37.6, 20}, {37.6, 17}, {34, 17}, {34, 20}, {0, 20}})}, 1.5)
            .by == Approx(1.2));
    // A hole grows into the outside, and a dumb-bell's neck closes.
    const auto meets = stop({square, {arc({0, 0}, 4, 0, -2 * kPi)}}, 5);
    CHECK(meets.why == Why::Meets);
    CHECK(meets.by == Approx(3).margin(0.02));
    const auto neck = stop({polygon({{0, 0},
                                     {20, 0},
                                     {20, 8},
                                     {30, 8},
                                     {30, 0},
                                     {50, 0},
                                     {50, 20},
                                     {30, 20},
                                     {30, 12},
                                     {20, 12},
                                     {20, 20},
                                     {0, 20}})},
                           3);
    CHECK(neck.by == Approx(2).margin(1e-6));
    // Bent to a radius of 1.6 at its middle, a bay folds as it moves inward; the other way it has room.
    const std::vector<InsetSide> bay{cubic({0, 0}, {0.5, 8}, {9.5, 8}, {10, 0}), line({10, 0}, {30, -20}),
                                     line({30, -20}, {-20, -20}), line({-20, -20}, {0, 0})};
    const auto folds = stop({{bay[0], bay[1], bay[2], bay[3]}}, -8);
    CHECK((folds.why == Why::Folds || folds.why == Why::Meets || folds.why == Why::Opens));
}

TEST_CASE(
    "Random outlines without reflex corners: what is left is what a grid finds further inside than that") {
    std::mt19937 random(
        17u + static_cast<unsigned>(std::getenv("GC_SEED") ? std::atoi(std::getenv("GC_SEED")) : 0));
    const auto between = [&](double a, double b) {
        return a + (b - a) * std::uniform_real_distribution<>()(random);
    };
    const int rounds = std::getenv("GC_DEEP") ? 60 : 6;
    for (int round = 0; round < rounds; ++round) {
        // Corners on a circle; between them lines, or cubics that bulge outward.
        const int n = 3 + static_cast<int>(random() % 5);
        std::vector<Vec2> corners;
        for (int i = 0; i < n; ++i)
            corners.push_back(turnedBy({between(18, 20), 0}, 2 * kPi * (i + between(-0.2, 0.2)) / n));
        std::vector<InsetSide> sides;
        for (int i = 0; i < n; ++i) {
            const Vec2 a = corners[std::size_t(i)], b = corners[std::size_t((i + 1) % n)], along = b - a;
            const Vec2 out = leftOf(along) * -between(0.02, 0.1);
            sides.push_back(random() % 2 ? line(a, b)
                                         : cubic(a, a + along * 0.3 + out, a + along * 0.7 + out, b));
        }
        const double by = between(0.5, 4);
        INFO("round " << round << ", " << n << " corners, by " << by);
        const Inset inset = insetOf({sides}, by);
        REQUIRE_FALSE(inset.stop);
        CHECK(areaAt(inset, by) == Approx(areaByGrid({sides}, by)).epsilon(0.02));
    }
}
