#include "core/base/angles.hpp"
#include "tests/support/swept.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

TEST_CASE("Corners are mitred exactly: area by length") {
    for (const auto& [at, length] :
         {std::pair{std::vector<Vec2>{{0, 0}, {0, 20}, {20, 20}, {20, 40}}, 60.0},
          {{{0, 0}, {0, 20}, {10 * std::sqrt(3.0), 10}, {10 * std::sqrt(3.0), 30}}, 60.0}}) {
        CHECK(volumeOf(built(swept(corners(at), circleLine(1.5)))) ==
              Approx(kPi * 2.25 * length).epsilon(1e-7));
        CHECK(volumeOf(built(swept(corners(at), rectangle({-2, -1}, {2, 1})))) ==
              Approx(8 * length).epsilon(1e-9));
    }
    // A frame that closes, and a corner between a line and an arc.
    const auto frame =
        swept(corners({{0, 0}, {40, 0}, {40, 30}, {0, 30}, {0, 0}}), rectangle({-2, -1}, {2, 1}));
    CHECK(volumeOf(built(frame)) == Approx(8 * 140).epsilon(1e-9));
    Drawing bow = corners({{0, 0}, {0, 20}});
    drawArcThrough(bow, {0, 20}, {20 * std::sin(kPi / 4), 20 * std::cos(kPi / 4)}, {20, 0});
    // Within the corner the arc has begun to bend, so a little less than that.
    CHECK(volumeOf(built(swept(bow, circleLine(1.5)))) == Approx(kPi * 2.25 * (20 + 10 * kPi)).epsilon(5e-4));
}

TEST_CASE("Round corners: the outer half of the section turns about the corner") {
    // Area by length, and at each corner (turn - 2 tan(turn / 2)) by the first moment of the outer half more.
    for (const auto& [at, turn] :
         {std::pair{std::vector<Vec2>{{0, 0}, {0, 20}, {20, 20}, {20, 40}}, kPi / 2},
          {{{0, 0}, {0, 20}, {10 * std::sqrt(3.0), 10}, {10 * std::sqrt(3.0), 30}}, 2 * kPi / 3}}) {
        const double more = 2 * (turn - 2 * std::tan(turn / 2));
        const Slots rounded{{"corners", std::string("rounded")}};
        CHECK(volumeOf(built(swept(corners(at), circleLine(1.5), rounded))) ==
              Approx(kPi * 2.25 * 60 + more * 2 / 3. * 1.5 * 1.5 * 1.5).epsilon(1e-7));
        CHECK(volumeOf(built(swept(corners(at), rectangle({-2, -1}, {2, 1}), rounded))) ==
              Approx(8 * 60 + more * 4).epsilon(1e-7));
    }
}

namespace {

/// Over a stair of three even steps, in the middle plane y = 0, of a round section that shrinks evenly:
/// cones, and half balls over the corners. Counted on a net, mm³.
double roundedStair(double radius, double size) {
    const std::vector<Vec2> at{{0, 0}, {0, 20}, {20, 20}, {20, 40}};
    constexpr double kNet = 0.1;
    std::size_t inside = 0;
    for (double x = -3 + kNet / 2; x < 23; x += kNet)
        for (double z = kNet / 2; z < 40; z += kNet)
            for (double y = kNet / 2; y < 3; y += kNet) {
                const Vec2 p{x, z};
                bool in = false;
                for (std::size_t i = 0; i + 1 < at.size() && !in; ++i) {
                    const Vec2 u = unit(at[i + 1] - at[i]), d = p - at[i];
                    const double along = dot(d, u), r = radius * (1 + (size - 1) * (20. * i + along) / 60);
                    in = along > 0 && along < 20 && std::hypot(cross(u, d), y) < r;
                }
                for (std::size_t i = 1; i + 1 < at.size() && !in; ++i) {
                    const Vec2 d = p - at[i], u = unit(at[i] - at[i - 1]), v = unit(at[i + 1] - at[i]);
                    const double r = radius * (1 + (size - 1) * 20. * i / 60);
                    in = dot(d, u) > 0 && dot(d, v) < 0 && std::hypot(length(d), y) < r;
                }
                inside += in;
            }
    return 2 * static_cast<double>(inside) * kNet * kNet * kNet;
}

} // namespace

TEST_CASE("Round corners a section grows, turns, and stands as it stood") {
    const Drawing stair = corners({{0, 0}, {0, 20}, {20, 20}, {20, 40}});
    const Slots shrinking{{"corners", std::string("rounded")},
                          {"change", std::string("growing to")},
                          {"size", std::string("0.4")}};
    const auto shrunk = built(swept(stair, circleLine(2.5), shrinking));
    CHECK(volumeOf(shrunk) == Approx(roundedStair(2.5, 0.4)).epsilon(1e-3));
    CHECK(checkBody(shrunk.state.bodies.rbegin()->second.value).faults.empty());
    // What turns keeps its area: a square turned by whole quarters fills what it fills unturned, but for the
    // corners, which are met at a third and two thirds of the way, by quarters too.
    const auto turning = [](const char* turn) {
        return Slots{{"corners", std::string("rounded")},
                     {"change", std::string("turning by")},
                     {"turn", std::string(turn)}};
    };
    const auto turned = built(swept(stair, rectangle({-1, -1}, {1, 1}), turning("270°")));
    const double still = volumeOf(built(swept(stair, rectangle({-1, -1}, {1, 1}), turning("0.001°"))));
    CHECK(volumeOf(turned) == Approx(still).epsilon(2e-3));
    CHECK(checkBody(turned.state.bodies.rbegin()->second.value).faults.empty());
    // Mitred it cannot: that is said, with what can be done.
    Slots mitred = shrinking;
    mitred["corners"] = std::string("mitred");
    CHECK(faultOf(swept(stair, circleLine(2.5), mitred)).code == "sweep.corners");
    // Kept parallel it goes on as it stands: its area by the height over it.
    const auto parallel = built(
        swept(corners({{0, 0}, {10, 20}, {0, 40}}), circleLine(3),
              {{"stand", std::string("kept parallel")}, {"placing", std::string("where it is drawn")}}));
    CHECK(volumeOf(parallel) == Approx(kPi * 9 * 40).epsilon(1e-6));
}

TEST_CASE("A loop with a single corner is closed there") {
    Drawing drop;
    drawArcThrough(drop, {10, 10}, {0, 10 + 10 * std::sqrt(2.0) + 10}, {-10, 10});
    drop.draw(StrokeKind::Line, {{-10, 10}, {0, 0}});
    drop.draw(StrokeKind::Line, {{0, 0}, {10, 10}});
    // The arc leaves the lines squarely enough to be round there: a drop about (0, 20).
    double length = 0;
    for (const Stroke& s : drop.strokes)
        for (const Curve2& c : curvesOf(drop, s)) length += c.length();
    const auto r = built(swept(drop, circleLine(1.5)));
    CHECK(checkBody(r.state.bodies.rbegin()->second.value).faults.empty());
    CHECK(volumeOf(r) == Approx(kPi * 2.25 * length).epsilon(2e-2));
    // A spline that comes back to where it left.
    Drawing loop;
    loop.draw(StrokeKind::Poles, {{0, 0}, {30, 10}, {20, 40}, {-20, 40}, {-30, 10}, {0, 0}});
    const auto closed = built(swept(loop, circleLine(1.5)));
    CHECK(checkBody(closed.state.bodies.rbegin()->second.value).faults.empty());
    const auto curves = curvesOf(loop, loop.strokes[0]);
    length = 0;
    for (const Curve2& c : curves) length += c.length();
    CHECK(volumeOf(closed) == Approx(kPi * 2.25 * length).epsilon(1e-3));
}
