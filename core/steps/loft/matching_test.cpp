#include "core/base/angles.hpp"
#include "core/steps/loft/matching.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <random>

using namespace gc;
using Catch::WithinAbs;

namespace {

/// Straight from corner to corner; laid with the middle of its corners at the origin.
FlatLoop polygon(std::vector<Vec2> corners) {
    Vec2 middle{};
    for (const Vec2 c : corners) middle = middle + c * (1.0 / double(corners.size()));
    double size = 0;
    for (Vec2& c : corners) c = c - middle, size += length(c) / double(corners.size());
    for (Vec2& c : corners) c = c * (1 / size);
    std::vector<double> before{0};
    for (std::size_t i = 0; i < corners.size(); ++i)
        before.push_back(before.back() + length(corners[(i + 1) % corners.size()] - corners[i]));
    const double all = before.back();
    FlatLoop out;
    for (std::size_t i = 0; i < corners.size(); ++i) out.corners.push_back(before[i] / all);
    out.at = [corners, before, all](double share) {
        const double s = share * all;
        std::size_t i = 0;
        while (i + 1 < corners.size() && before[i + 1] <= s) ++i;
        const double t = (s - before[i]) / (before[i + 1] - before[i]);
        return corners[i] + (corners[(i + 1) % corners.size()] - corners[i]) * t;
    };
    return out;
}

FlatLoop regular(int n, double turned) {
    std::vector<Vec2> corners;
    for (int i = 0; i < n; ++i)
        corners.push_back({std::cos(turned + 2 * kPi * i / n), std::sin(turned + 2 * kPi * i / n)});
    return polygon(corners);
}

FlatLoop circle(double turned = 0) {
    return {[turned](double share) {
                return Vec2{std::cos(turned + 2 * kPi * share), std::sin(turned + 2 * kPi * share)};
            },
            {}};
}

/// All ways to lay the fewer corners on some of the others, in order: the least twist of them, counted
/// afresh.
double byExhaustion(const FlatLoop& a, const FlatLoop& b) {
    const bool turned = a.corners.size() > b.corners.size();
    const FlatLoop &few = turned ? b : a, &many = turned ? a : b;
    const std::size_t p = few.corners.size(), q = many.corners.size();
    double least = 1e300;
    for (unsigned chosen = 0; chosen < (1U << q); ++chosen) {
        std::vector<std::size_t> taken;
        for (std::size_t j = 0; j < q; ++j)
            if (chosen & (1U << j)) taken.push_back(j);
        if (taken.size() != p) continue;
        for (std::size_t shift = 0; shift < p; ++shift) {
            double sum = 0;
            for (std::size_t k = 0; k < p; ++k) {
                const std::size_t from = taken[(k + shift) % p], to = taken[(k + shift + 1) % p];
                const double f = few.corners[k], m = many.corners[from];
                const auto pay = [&](double x, double y) {
                    const Vec2 d = few.at(wrapped(x)) - many.at(wrapped(y));
                    sum += dot(d, d);
                };
                pay(f, m);
                const double fewLong = forward(f, few.corners[(k + 1) % p]);
                const double manyLong = forward(m, many.corners[to]);
                for (std::size_t l = (from + 1) % q; l != to && q > 1; l = (l + 1) % q)
                    pay(f + fewLong * wrapped(many.corners[l] - m) / manyLong, many.corners[l]);
            }
            least = std::min(least, sum);
        }
    }
    return least;
}

} // namespace

TEST_CASE("A square over a turned square: the corner that is nearest", "[loft]") {
    const auto found = leastTwist(regular(4, 0), regular(4, 0.3));
    REQUIRE(found.size() == 1);
    CHECK_THAT(found.front().turn, WithinAbs(0.3, 1e-9));
    CHECK(found.front().pairs.size() == 4);
}

TEST_CASE("A diamond over a square can go either way", "[loft]") {
    const auto found = leastTwist(regular(4, 0), regular(4, kPi / 4));
    REQUIRE(found.size() == 2);
    CHECK_THAT(std::fabs(found[0].turn), WithinAbs(kPi / 4, 1e-9));
    CHECK_THAT(found[0].turn + found[1].turn, WithinAbs(0, 1e-9));
}

TEST_CASE("Corners on a circle go straight outwards", "[loft]") {
    // Of a rectangle of 2 by 1 they lie at atan(1 / 2).
    const auto found = leastTwist(circle(), polygon({{2, 1}, {-2, 1}, {-2, -1}, {2, -1}}));
    REQUIRE(found.size() == 1);
    REQUIRE(found.front().pairs.size() == 4);
    const double expected = std::atan(0.5) / (2 * kPi);
    CHECK_THAT(found.front().pairs[0].a, WithinAbs(expected, 1e-7));
    CHECK_THAT(found.front().pairs[3].a, WithinAbs(1 - expected, 1e-7));
}

TEST_CASE("Two circles are turned until they lie on each other", "[loft]") {
    const auto found = leastTwist(circle(0), circle(1.234));
    REQUIRE(found.size() == 1);
    CHECK_THAT(found.front().turn, WithinAbs(0, 1e-6));
}

TEST_CASE("A pair that is given is kept, and the others follow it", "[loft]") {
    const FlatLoop a = regular(4, 0), b = regular(4, 0.3);
    const auto found = leastTwist(a, b, {{a.corners[0], b.corners[1]}});
    REQUIRE(found.size() == 1);
    CHECK_THAT(found.front().turn, WithinAbs(0.3 + kPi / 2, 1e-9));
}

TEST_CASE("Pairs that cross are refused", "[loft]") {
    const FlatLoop a = regular(4, 0), b = regular(4, 0.3);
    CHECK(leastTwist(a, b, {{0, 0}, {0.25, 0.75}, {0.5, 0.5}}).empty());
    CHECK(leastTwist(a, b, {{0.1, 0.2}, {0.1, 0.3}}).empty());
}

TEST_CASE("The matching is the one of least twist of all there are", "[loft]") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> radius(0.5, 1.5), angle(0, 2 * kPi);
    std::uniform_int_distribution<int> count(3, 9);
    for (int round = 0; round < 80; ++round) {
        const auto star = [&] {
            const int n = count(random);
            const double turned = angle(random);
            std::vector<Vec2> corners;
            for (int i = 0; i < n; ++i) {
                const double w = turned + 2 * kPi * i / n, r = radius(random);
                corners.push_back({r * std::cos(w), r * std::sin(w)});
            }
            return polygon(corners);
        };
        const FlatLoop a = star(), b = star();
        const auto found = leastTwist(a, b);
        REQUIRE_FALSE(found.empty());
        INFO(round << ": " << a.corners.size() << " to " << b.corners.size());
        CHECK(found.front().pairs.size() == std::max(a.corners.size(), b.corners.size()));
        CHECK_THAT(found.front().twist, WithinAbs(byExhaustion(a, b), 1e-9));
        // Once round, in the same order on both.
        double round1 = 0;
        const auto& pairs = found.front().pairs;
        for (std::size_t i = 0; i < pairs.size(); ++i)
            round1 += forward(pairs[i].b, pairs[(i + 1) % pairs.size()].b);
        CHECK_THAT(round1, WithinAbs(1, 1e-9));
    }
}

TEST_CASE("What lies between two pairs is matched by length", "[loft]") {
    const std::vector<MatchedPair> pairs{{0.1, 0.6}, {0.5, 0.8}};
    CHECK_THAT(matched(pairs, 0.3), WithinAbs(0.7, 1e-12));
    CHECK_THAT(matched(pairs, 0.8), WithinAbs(0.2, 1e-12));
    CHECK_THAT(matched(pairs, 0.05), WithinAbs(wrapped(0.8 + 0.8 * 0.55 / 0.6), 1e-12));
}
