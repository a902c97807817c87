#include "core/shape/self_crossing.hpp"

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;

namespace {

/// A tube of rings about points, each ring turned by an angle against the one before; open at both ends.
struct Tube {
    std::vector<Vec3> points;
    std::vector<IndexTriangle> triangles;
};

template <class F>
Tube tube(int around, int along, const F& at) {
    Tube out;
    for (int j = 0; j <= along; ++j)
        for (int i = 0; i < around; ++i) out.points.push_back(at(double(i) / around, double(j) / along));
    const auto index = [&](int i, int j) { return static_cast<std::uint32_t>(j * around + i % around); };
    for (int j = 0; j < along; ++j)
        for (int i = 0; i < around; ++i) {
            out.triangles.push_back({index(i, j), index(i + 1, j), index(i + 1, j + 1)});
            out.triangles.push_back({index(i, j), index(i + 1, j + 1), index(i, j + 1)});
        }
    return out;
}

constexpr double kTurn = 2 * std::numbers::pi;

Tube twisted(double by) {
    return tube(48, 16, [by](double u, double v) {
        const Vec3 a{20 * std::cos(kTurn * u), 20 * std::sin(kTurn * u), 0};
        const Vec3 b{20 * std::cos(kTurn * u + by), 20 * std::sin(kTurn * u + by), 50};
        return a * (1 - v) + b * v;
    });
}

bool crosses(const Tube& t) {
    return selfCrossing(t.points, t.triangles).has_value();
}

} // namespace

TEST_CASE("A tube that is plain or twisted by less than half a turn does not cross itself", "[crossing]") {
    CHECK_FALSE(crosses(twisted(0)));
    CHECK_FALSE(crosses(twisted(2.0)));
    CHECK_FALSE(crosses(twisted(3.0)));
}

TEST_CASE("A tube bent tighter than it is wide crosses itself, and a wider one does not", "[crossing]") {
    const auto bent = [](double radius) {
        return tube(32, 40, [radius](double u, double v) {
            const double w = kTurn * 0.7 * v, r = radius + 10 * std::cos(kTurn * u);
            return Vec3{r * std::cos(w), r * std::sin(w), 10 * std::sin(kTurn * u)};
        });
    };
    CHECK_FALSE(crosses(bent(25)));
    CHECK(crosses(bent(6)));
}

TEST_CASE("A tube through another's wall is found, with the place", "[crossing]") {
    Tube t = twisted(0);
    const auto first = static_cast<std::uint32_t>(t.points.size());
    const Tube other = tube(16, 8, [](double u, double v) {
        return Vec3{40 * v, 3 * std::cos(kTurn * u), 25 + 3 * std::sin(kTurn * u)};
    });
    t.points.insert(t.points.end(), other.points.begin(), other.points.end());
    for (IndexTriangle k : other.triangles) t.triangles.push_back({k[0] + first, k[1] + first, k[2] + first});
    const auto at = selfCrossing(t.points, t.triangles);
    REQUIRE(at);
    CHECK(std::fabs(std::hypot(at->x, at->y) - 20) < 0.2);
    CHECK(std::fabs(at->z - 25) < 3.5);
}

TEST_CASE("Nothing crosses nothing", "[crossing]") {
    CHECK_FALSE(selfCrossing({}, {}));
    CHECK_FALSE(selfCrossing({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}}, {{0, 1, 2}}));
}
