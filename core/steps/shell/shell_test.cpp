#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

#include <numbers>
#include <random>

namespace {

const ProbeOf shellProbe("shell", [] {
    return Probe{cup(),
                 3,
                 {{"wall", text("wall", "2 mm")},
                  {"side", text("side", "outward")},
                  {"open", {{"open", References{}}}}}};
});

double frustum(double a, double b, double h) {
    return std::numbers::pi * h / 3 * (a * a + a * b + b * b);
}

} // namespace

TEST_CASE("A tube shelled outward with both ends open has its outside out, and can be rounded") {
    Part p;
    add(p, "draw", {{"drawing", DrawingSlot(rectangle({0, 0}, {20, 30}))}});
    add(p, "revolve", {{"body", std::string("cup")}});
    const auto strokes = p.steps[0].drawing("drawing").strokes;
    const auto side = [&](std::size_t k) { return "side " + std::to_string(strokes[k].id) + " of step 2"; };
    add(p, "shell",
        {{"open", References{side(0), side(2)}},
         {"side", std::string("outward")},
         {"wall", std::string("3 mm")}});
    auto r = Engine().regenerate(p);
    INFO(faults(r));
    REQUIRE(allFine(r));
    CHECK(volumeOf(r) == Approx(std::numbers::pi * (23 * 23 - 20 * 20) * 30).epsilon(1e-9));
    add(p, "fillet", {{"edges", References{"rim of " + side(2)}}, {"radius", std::string("1 mm")}});
    r = Engine().regenerate(p);
    INFO(faults(r));
    CHECK(allFine(r));
}

TEST_CASE("A part of a turn is shelled to the wall that was asked") {
    for (const char* angle : {"90°", "200°", "300°"}) {
        INFO(angle);
        Part p = cup();
        p.findStep(2)->slots["angle"] = std::string(angle);
        p.findStep(3)->slots["wall"] = std::string("3 mm");
        const auto r = Engine().regenerate(p);
        INFO(faults(r));
        REQUIRE(allFine(r));
        const double solid = frustum(25, 29, 60) * std::atof(angle) / 360;
        CHECK(volumeOf(r) > 0.1 * solid);
        CHECK(volumeOf(r) < 0.6 * solid);
    }
}

TEST_CASE("A wall thicker than an outside round leaves the inside corner sharp") {
    // A closed form: a cylinder R 20, H 30, its lower edge rounded by 2, shelled by 3 from the top.
    Part p;
    add(p, "draw", {{"drawing", DrawingSlot(rectangle({0, 0}, {20, 30}))}});
    add(p, "revolve", {{"body", std::string("cup")}});
    const auto strokes = p.steps[0].drawing("drawing").strokes;
    const auto side = [&](std::size_t k) { return "side " + std::to_string(strokes[k].id) + " of step 2"; };
    add(p, "fillet",
        {{"edges", References{"where " + side(0) + " meets " + side(1)}}, {"radius", std::string("2 mm")}});
    add(p, "shell", {{"open", References{side(2)}}, {"wall", std::string("3 mm")}});
    const auto r = Engine().regenerate(p);
    INFO(faults(r));
    REQUIRE(allFine(r));
    constexpr double pi = std::numbers::pi, round = 2, R = 20;
    const double cut =
        2 * pi *
        (round * round * (R - round / 2) - pi * round * round / 4 * (R - round + 4 * round / (3 * pi)));
    CHECK(volumeOf(r) == Approx(pi * R * R * 30 - cut - pi * 17 * 17 * 27).epsilon(1e-6));
}
