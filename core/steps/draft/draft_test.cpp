#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

#include <numbers>
#include <random>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kPi = std::numbers::pi;

Part prism(const Drawing& foot, double height, const Slots& more = {}) {
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(foot)}});
    Slots slots{{"length", inMm(height)}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "extrude", slots);
    return p;
}

Part drafted(Part p, double degrees, const Slots& more = {}) {
    Slots slots{{"which", std::string("all walls of")}, {"angle", formatNumber(degrees, 12) + "°"}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "draft", slots);
    return p;
}

double tangent(double degrees) {
    return std::tan(degrees * kPi / 180);
}

/// Of a block whose sides are this much less on every side after a height (prismatoid formula).
double frustum(double a, double b, double height, double in) {
    const double top = (a - 2 * in) * (b - 2 * in), middle = (a - in) * (b - in);
    return height / 6 * (a * b + 4 * middle + top);
}
double cone(double r, double height, double in) {
    const double top = r - in;
    return kPi * height / 3 * (r * r + r * top + top * top);
}

const ProbeOf probe("draft", [] {
    Probe p{drafted(prism(rectangle({-20, -15}, {20, 15}), 20), 3), 3};
    p.shows = {{"angle", text("angle", "5°")}, {"sense", text("sense", "widening")}};
    p.hides = {};
    return p;
});

} // namespace

TEST_CASE("Walls lean from a level, one way or both, and narrow or widen") {
    const Part block = prism(rectangle({-20, -15}, {20, 15}), 20);
    const double in = 20 * tangent(3);
    CHECK(volumeOf(built(drafted(block, 3))) == Approx(frustum(40, 30, 20, in)).epsilon(1e-9));
    CHECK(volumeOf(built(drafted(block, 3, {{"sense", std::string("widening")}}))) ==
          Approx(frustum(40, 30, 20, -in)).epsilon(1e-9));
    // From its top, that keeps its size; from half way, in two frusta.
    CHECK(volumeOf(built(drafted(block, 3, {{"plane", std::string("end of step 2")}}))) ==
          Approx(frustum(40 + 2 * in, 30 + 2 * in, 20, in)).epsilon(1e-9));
    Part p = block;
    add(p, "plane",
        {{"name", std::string("parting")},
         {"from", std::string("ground")},
         {"distance", std::string("8 mm")}});
    const Slots both{{"plane", std::string("parting")}, {"ways", std::string("both ways from")}};
    const auto parted = built(drafted(p, 3, both));
    CHECK(volumeOf(parted) ==
          Approx(frustum(40, 30, 8, 8 * tangent(3)) + frustum(40, 30, 12, 12 * tangent(3))).epsilon(1e-9));
    CHECK(checkBody(parted.state.bodies.rbegin()->second.value).faults.empty());
    // One wall alone: a wedge less.
    Part one = block;
    const std::string wall =
        "side " + std::to_string(one.steps[0].drawing("drawing").strokes[1].id) + " of step 2";
    add(one, "draft", {{"faces", References{wall}}, {"angle", std::string("5°")}});
    CHECK(volumeOf(built(one)) == Approx(24000 - 30 * 20 * 20 * tangent(5) / 2).epsilon(1e-9));
    // Its names stay: the leaning wall's upper edge can be rounded.
    add(one, "fillet",
        {{"edges", References{"where " + wall + " meets end of step 2"}}, {"radius", std::string("2 mm")}});
    built(one);
}

TEST_CASE("Round walls become cones, holes too; what leaned before leans by the new angle alone") {
    CHECK(volumeOf(built(drafted(prism(circleLine(10), 20), 4))) ==
          Approx(cone(10, 20, 20 * tangent(4))).epsilon(1e-9));
    Drawing ring = circleLine(20);
    ring.draw(StrokeKind::Circle, {{0, 0}}, {8});
    // A hole narrows the other way: its wall, too, leans to the material.
    CHECK(volumeOf(built(drafted(prism(ring, 10), 2))) ==
          Approx(cone(20, 10, 10 * tangent(2)) - cone(8, 10, -10 * tangent(2))).epsilon(1e-9));
    const Part leaning = prism(rectangle({-20, -15}, {20, 15}), 20,
                               {{"sides", std::string("leaning inward by")}, {"lean", std::string("7°")}});
    CHECK(volumeOf(built(drafted(leaning, 3))) == Approx(frustum(40, 30, 20, 20 * tangent(3))).epsilon(1e-9));
    // Uprights with rounds: each round becomes a cone, smaller by what its wall leans in.
    const double in = 20 * tangent(3), gone = 4 - kPi;
    const auto area = [&](double h) {
        const double d = in * h / 20;
        return (40 - 2 * d) * (30 - 2 * d) - gone * (5 - d) * (5 - d);
    };
    CHECK(volumeOf(built(drafted(prism(roundedLine(40, 30, 5), 20), 3))) ==
          Approx(20 / 6. * (area(0) + 4 * area(10) + area(20))).epsilon(1e-9));
}

TEST_CASE("What cannot lean says which wall, and why") {
    // Too much: the walls would meet; a round would be used up.
    CHECK(faultOf(drafted(prism(rectangle({-5, -5}, {5, 5}), 20), 20)).code == "draft.too-large");
    CHECK(faultOf(drafted(prism(roundedLine(40, 30, 2), 30), 10)).code == "draft.too-large");
    // An oval wall is neither flat nor round.
    built(prism(ellipseLine(20, 12), 20));
    const Error oval = faultOf(drafted(prism(ellipseLine(20, 12), 20), 3));
    CHECK(oval.code == "draft.freeform");
    CHECK(oval.culprits.size() == 1);
    CHECK(oval.place);
    // A round at the top does not go along.
    Part p = prism(rectangle({-20, -15}, {20, 15}), 20);
    add(p, "fillet", {{"edges", References{"rim of end of step 2"}}, {"radius", std::string("3 mm")}});
    const Error rounded = faultOf(drafted(p, 3));
    CHECK(rounded.code == "draft.cannot");
    CHECK(rounded.place);
    // No walls there; a level beside the body.
    const Part steep = prism(rectangle({-20, -15}, {20, 15}), 10,
                             {{"sides", std::string("leaning inward by")}, {"lean", std::string("30°")}});
    CHECK(faultOf(drafted(steep, 3)).code == "draft.no-walls");
    Part q = prism(rectangle({-20, -15}, {20, 15}), 20);
    add(q, "plane",
        {{"name", std::string("high")}, {"from", std::string("ground")}, {"distance", std::string("50 mm")}});
    CHECK(faultOf(drafted(q, 3, {{"plane", std::string("high")}, {"ways", std::string("both ways from")}}))
              .code == "draft.level");
}

TEST_CASE("Random blocks and studs lean as the prismatoid formula says, or are refused for a reason") {
    std::mt19937 random(20261129);
    const auto between = [&](double a, double b) { return std::uniform_real_distribution<>(a, b)(random); };
    const int all = std::getenv("GC_DEEP") ? 200 : 24;
    int good = 0, refused = 0;
    for (int i = 0; i < all; ++i) {
        const double a = between(8, 60), b = between(8, 60), h = between(3, 40), at = between(0, h);
        const double degrees = between(0.2, 12) * (i % 4 == 3 ? -1 : 1), t = tangent(degrees);
        const bool both = i % 3 == 2, stud = i % 5 == 4;
        Part p = prism(stud ? circleLine(a / 2) : rectangle({-a / 2, -b / 2}, {a / 2, b / 2}), h);
        add(p, "plane",
            {{"name", std::string("level")}, {"from", std::string("ground")}, {"distance", inMm(at)}});
        const Part leant = drafted(p, std::fabs(degrees),
                                   {{"plane", std::string("level")},
                                    {"sense", std::string(degrees < 0 ? "widening" : "narrowing")},
                                    {"ways", std::string(both ? "both ways from" : "from")}});
        const auto r = Engine().regenerate(leant);
        const auto part = [&](double height, double in) {
            return stud ? cone(a / 2, height, in) : frustum(a, b, height, in);
        };
        const double most = both ? std::max(at, h - at) : std::max(h - at, 0.0);
        const bool fits = std::min(a, stud ? a : b) - 2 * most * t > 1e-3;
        INFO(a << " x " << b << " x " << h << " from " << at << " by " << degrees << ": " << faults(r));
        if (!allFine(r)) {
            ++refused;
            CHECK_FALSE(fits);
            continue;
        }
        ++good;
        const double volume = part(h - at, (h - at) * t) + part(at, both ? at * t : -at * t);
        CHECK(volumeOf(r) == Approx(volume).epsilon(1e-6));
    }
    WARN(good << " right, " << refused << " refused of " << all);
}
