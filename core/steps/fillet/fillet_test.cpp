#include "core/inspect/mass.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

#include <numbers>

namespace {

const ProbeOf probe("fillet", [] {
    Probe p{cup(), 0};
    p.step = add(p.part, "fillet",
                 {{"edges", References{"rim of top of step 2"}}, {"radius", std::string("0.5 mm")}})
                 .id;
    p.shows = {{"radius", text("radius", "0.6 mm")},
               {"edges", {{"edges", References{"where wall of step 2 meets floor of step 2"}}}}};
    return p;
});

} // namespace

TEST_CASE("A round on the rim of a straight cylinder takes away what Pappus says") {
    Part p;
    add(p, "draw", {{"drawing", DrawingSlot(rectangle({0, 0}, {20, 30}))}});
    add(p, "revolve");
    const auto before = Engine().regenerate(p);
    REQUIRE(allFine(before));
    add(p, "fillet",
        {{"edges", References{"where side 3 of step 2 meets side 2 of step 2"}},
         {"radius", std::string("4 mm")}});
    p.steps.back().slots["edges"] = References{};
    // The upper rim: where the wall (the second stroke from the lowest) meets the top.
    const auto strokes = p.steps[0].drawing("drawing").strokes;
    p.steps.back().slots["edges"] =
        References{"where side " + std::to_string(strokes[1].id) + " of step 2 meets side " +
                   std::to_string(strokes[2].id) + " of step 2"};
    const auto after = Engine().regenerate(p);
    INFO(faults(after));
    REQUIRE(allFine(after));
    const auto volume = [](const RegenResult& r) {
        return massProperties(r.state.bodies.begin()->second.value, Density(1e-3))->volume;
    };
    // What is cut off: a square of r less a quarter disc, turned about the axis.
    constexpr double r = 4, R = 20, pi = std::numbers::pi;
    const double area = r * r * (1 - pi / 4);
    const double moment = r * r * (R - r / 2) - pi * r * r / 4 * (R - r + 4 * r / (3 * pi));
    CHECK(area > 0);
    CHECK(volume(before) - volume(after) == Approx(2 * pi * moment).epsilon(1e-8));
}
