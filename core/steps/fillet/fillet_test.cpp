#include "core/inspect/mass.hpp"
#include "core/sketch/edit/cut.hpp"
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

TEST_CASE("A reference to a stroke that is split or trimmed later means all that is left of it") {
    // A block, the edge over its third side rounded; then that side is split, and trimmed to two pieces.
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({0, 0}, {40, 30}))}});
    add(p, "extrude", {{"length", std::string("20 mm")}});
    Drawing d = p.steps[0].drawing("drawing");
    const int side = d.strokes[2].id;
    const std::string name = "side " + std::to_string(side) + " of step 2";
    add(p, "fillet",
        {{"edges", References{"where " + name + " meets end of step 2"}}, {"radius", std::string("3 mm")}});
    const auto volume = [](const RegenResult& r) {
        return massProperties(r.state.bodies.begin()->second.value, Density(1e-3))->volume;
    };
    const double cutOff = 9 * (1 - std::numbers::pi / 4);
    const auto whole = Engine().regenerate(p);
    INFO(faults(whole));
    REQUIRE(allFine(whole));
    CHECK(volume(whole) == Approx(40 * 30 * 20 - cutOff * 40).epsilon(1e-9));
    // Split: the round runs over both pieces, and a note says so.
    REQUIRE(split(d, side, {12, 30}).done());
    p.steps[0].slots["drawing"] = DrawingSlot(d);
    const auto halves = Engine().regenerate(p);
    INFO(faults(halves));
    REQUIRE(allFine(halves));
    CHECK(volume(halves) == Approx(40 * 30 * 20 - cutOff * 40).epsilon(1e-9));
    CHECK(resolveFaces(halves.state.bodies.begin()->second.value, **parseFaceRef(name))->items.size() == 2);
    // A notch drawn across the left piece, and what is between its legs trimmed away: two pieces again.
    const int far = d.strokes.back().id;
    const int left = d.draw(StrokeKind::Line, {{3, 35}, {3, 20}}),
              right = d.draw(StrokeKind::Line, {{8, 20}, {8, 35}});
    d.draw(StrokeKind::Line, {{3, 20}, {8, 20}});
    REQUIRE(trim(d, far, {5, 30}).done());
    REQUIRE(trim(d, left, {3, 34}).done());
    REQUIRE(trim(d, right, {8, 34}).done());
    p.steps[0].slots["drawing"] = DrawingSlot(d);
    const auto notched = Engine().regenerate(p);
    INFO(faults(notched));
    REQUIRE(allFine(notched));
    CHECK(resolveFaces(notched.state.bodies.begin()->second.value, **parseFaceRef(name))->items.size() == 3);
    CHECK(volume(notched) == Approx(40 * 30 * 20 - 5 * 10 * 20 - cutOff * 35).epsilon(1e-6));
}
