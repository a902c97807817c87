#include "core/base/angles.hpp"
#include "tests/support/tub.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

Part snapped(const std::vector<Vec2>& at, const Slots& slots = {}) {
    Part p = tub();
    Drawing d;
    for (const Vec2 q : at) d.draw(StrokeKind::Point, {q});
    drawIn(p, d);
    Slots all{{"outline", std::string("places")}, {"thickness", std::string("1.2 mm")}};
    for (const auto& [key, value] : slots) all[key] = value;
    add(p, "snap", all);
    return p;
}

const ProbeOf snapProbe("snap", [] {
    Probe p{snapped({{-10, 0}, {10, 0}}), 0};
    p.step = p.part.steps.back().id;
    p.shows = {{"width", text("width", "5 mm")},       {"thickness", text("thickness", "1 mm")},
               {"catch", text("catch", "0.6 mm")},     {"facing", text("facing", "inward")},
               {"lead", text("lead", "25°")},          {"hold", text("hold", "30°")},
               {"thinning", text("along", "thinning")}};
    p.hides = {{"top that is not asked for", text("tip", "0.7 mm")}};
    return p;
});

/// Side view times width.
double armVolume(double height, double thick, double reach, double lead, double hold, double width) {
    return width * (height * thick + reach * reach * (1 / std::tan(lead) + std::tan(hold)) / 2);
}

} // namespace

TEST_CASE("Snap arms are their side view times their width, and say how far their root is stretched") {
    const auto r = built(snapped({{-10, 0}, {10, 0}}));
    CHECK(volumeOf(r) - tubVolume() ==
          Approx(2 * armVolume(kTubDepth, 1.2, 0.8, kPi / 6, 0, 6)).epsilon(1e-6));
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    REQUIRE(r.steps.back().notes.size() == 1);
    // L from the hook to the floor; 3 t y / (2 L²).
    const double length = kTubDepth - 0.8 / std::tan(kPi / 6);
    const double stretch = 3 * 1.2 * 0.8 / (2 * length * length);
    CHECK(r.steps.back().notes[0].text().find(formatNumber(100 * stretch, 1) + " %") != std::string::npos);
    const auto held =
        built(snapped({{0, 0}}, {{"facing", std::string("right")}, {"hold", std::string("45°")}}));
    CHECK(volumeOf(held) - tubVolume() ==
          Approx(armVolume(kTubDepth, 1.2, 0.8, kPi / 6, kPi / 4, 6)).epsilon(1e-6));
}

TEST_CASE("Arms that thin to their top are lighter, and stretched as far as the bending of their parts adds "
          "up to") {
    const Slots thin{
        {"facing", std::string("right")}, {"along", std::string("thinning")}, {"tip", std::string("0.6 mm")}};
    const auto r = built(snapped({{0, 0}}, thin));
    CHECK(volumeOf(r) - tubVolume() ==
          Approx(armVolume(kTubDepth, 1.2, 0.8, kPi / 6, 0, 6) - 0.6 * kTubDepth / 2 * 6).epsilon(1e-6));
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    // In slices from where the hook is pushed: moment s, thickness t(s).
    const double slope = 0.8 / std::tan(kPi / 6), length = kTubDepth - slope;
    constexpr int kSlices = 20000;
    double gives = 0, most = 0;
    for (int i = 0; i < kSlices; ++i) {
        const double s = length * (i + 0.5) / kSlices, t = 0.6 + 0.6 * (slope + s) / kTubDepth;
        gives += 12 * s * s / (t * t * t) * length / kSlices; // by a force of 1, per width and stiffness
        most = std::max(most, 6 * s / (t * t));
    }
    const double stretch = most * 0.8 / gives;
    CHECK(r.steps.back().notes[0].text().find(formatNumber(100 * stretch, 1) + " %") != std::string::npos);
    Slots thick = thin;
    thick["tip"] = std::string("1.5 mm");
    CHECK(faultOf(snapped({{0, 0}}, thick)).code == "snap.tip");
}

TEST_CASE("The hooks look where it is said") {
    // The part's centre moves with the hook: of one arm, by its hook's moment alone.
    const auto centreOf = [](const std::string& facing) {
        const auto r = built(snapped({{0, 0}}, text("facing", facing)));
        return massProperties(r.state.bodies.begin()->second.value, Density(1e-3))->centre;
    };
    CHECK(centreOf("right").x > 1e-5);
    CHECK(centreOf("left").x == Approx(-centreOf("right").x).epsilon(1e-6));
    CHECK(centreOf("up").y > 1e-5);
    CHECK(centreOf("down").y == Approx(-centreOf("up").y).epsilon(1e-6));
    // Of two, the moment of inertia about the upright axis says whether they look outward.
    const auto spread = [](const std::string& facing) {
        const auto r = built(snapped({{-10, 0}, {10, 0}}, text("facing", facing)));
        return massProperties(r.state.bodies.begin()->second.value, Density(1e-3))->moments.back();
    };
    CHECK(spread("outward") > spread("inward"));
}

TEST_CASE("An arm without room, and one alone without a middle, are told") {
    CHECK(faultOf(snapped({{0, 0}})).code == "snap.middle");
    CHECK(faultOf(snapped({{0, 0}})).remedies.size() == 4);
    CHECK(faultOf(snapped({{0, 0}}, {{"facing", std::string("up")}, {"catch", std::string("9 mm")}})).code ==
          "snap.short");
    CHECK(faultOf(snapped({})).code == "snap.points");
}
