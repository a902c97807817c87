#include "tests/support/measured.hpp"

#include <numbers>

using namespace gc;
using namespace gc::test;

TEST_CASE("A cup holds its inner frustum to the brim, and less to the line of the brief") {
    Part p;
    addCup(p, 60, "cup"); // radius 30 at the ground, 34 at 60 mm; inside 2 mm less, measured across the wall
    p.brief.fillLine = "40 mm";
    const auto t = measuredTargets(p, {{"fill brim", "≥ 100 ml"}, {"fill line", "≥ 50 ml"}});
    const Step* shell = nullptr;
    for (const Step& s : p.steps)
        if (s.kind == "shell") shell = &s;
    const double wall = *evaluateSlot(*shell, "wall", p, {});
    const double slope = 4.0 / 60, less = wall * std::sqrt(1 + slope * slope);
    const auto inside = [&](double z) { return 30 + slope * z - less; };
    const auto frustum = [&](double from, double to) {
        const double a = inside(from), b = inside(to);
        return std::numbers::pi * (to - from) / 3 * (a * a + a * b + b * b);
    };
    CHECK(*t[0].value == Approx(frustum(wall, 60)).epsilon(2e-3));
    CHECK(*t[1].value == Approx(frustum(wall, 40)).epsilon(2e-3));
    CHECK(t[0].where.find("level at 60") != std::string::npos);
}
