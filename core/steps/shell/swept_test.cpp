// Walls of what was swept along lines and arcs, by their closed forms.

#include "core/base/angles.hpp"
#include "tests/support/swept.hpp"
#include "tests/support/wound.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kHoseWall = 2; // mm

/// Of an ellipse, by Simpson's rule.
double around(double a, double b) {
    constexpr int kSteps = 2000;
    double sum = 0;
    for (int k = 0; k <= kSteps; ++k) {
        const double t = 2 * kPi * k / kSteps;
        const double speed = std::hypot(a * std::sin(t), b * std::cos(t));
        sum += speed * (k == 0 || k == kSteps ? 1 : k % 2 == 1 ? 4 : 2);
    }
    return sum * 2 * kPi / kSteps / 3;
}

struct Section {
    const char* name;
    Drawing drawing;
    double area, around; ///< mm², mm
};

/// Open at one end. A wall of constant thickness inside a section that is round enough leaves an area less by
/// the wall times the length around, and more by pi times its square (Steiner); along a path both are
/// multiplied by its length (Pappus), also over mitres, as each section is symmetrical.
void checkShelled(const Drawing& path, const Section& section, const char* open) {
    INFO(section.name << ", open at the " << open);
    Part p = swept(path, section.drawing);
    const std::string sweep = "step " + std::to_string(p.steps.back().id);
    const double whole = volumeOf(built(p));
    CHECK(whole == Approx(section.area * lengthOf(path)).epsilon(1e-6));
    add(p, "shell", {{"open", References{open + (" of " + sweep)}}, {"wall", inMm(kHoseWall)}});
    const auto r = built(p);
    const double hollow = section.area - kHoseWall * section.around + kPi * kHoseWall * kHoseWall;
    CHECK(volumeOf(r) == Approx(whole - hollow * (lengthOf(path) - kHoseWall)).epsilon(1e-5));
    const auto [meshed, twice] = meshOf(lastBody(r), 0.01);
    const double area = massProperties(lastBody(r), Density(1e-3))->area;
    CHECK(std::fabs(meshed - volumeOf(r)) < 0.01 * area);
    CHECK(twice < 0.002 * area);
}

} // namespace

TEST_CASE("A round, an oval and a rounded section along lines and arcs, hollow") {
    const std::vector<Section> sections{
        {"circle", circleLine(6), kPi * 36, 12 * kPi},
        {"oval", ellipseLine(7, 5), kPi * 35, around(7, 5)},
        {"rounded", roundedLine(14, 9, 3), 14 * 9 - (4 - kPi) * 9, 2 * (8 + 3) + 6 * kPi}};
    for (const Section& s : sections)
        for (const char* open : {"start", "end"}) checkShelled(hook(), s, open);
}

TEST_CASE("The same round mitred corners, also where the wall leaves little of a round") {
    const Drawing path = corners({{0, 0}, {0, 40}, {50, 55}, {45, 5}});
    checkShelled(path, {"circle", circleLine(6), kPi * 36, 12 * kPi}, "start");
    checkShelled(path, {"oval", ellipseLine(7.9, 5.2), kPi * 7.9 * 5.2, around(7.9, 5.2)}, "end");
    checkShelled(
        path, {"rounded", roundedLine(13.5, 8.8, 3), 13.5 * 8.8 - (4 - kPi) * 9, 2 * (7.5 + 2.8) + 6 * kPi},
        "start");
}
