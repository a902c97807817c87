// Walls of what was swept along lines and arcs, by their closed forms.

#include "core/base/angles.hpp"
#include "tests/support/swept.hpp"
#include "tests/support/wound.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kHoseWall = 2; // mm

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
        {"oval", ellipseLine(7, 5), kPi * 35, ellipseLength(7, 5)},
        {"rounded", roundedLine(14, 9, 3), 14 * 9 - (4 - kPi) * 9, 2 * (8 + 3) + 6 * kPi}};
    for (const Section& s : sections)
        for (const char* open : {"start", "end"}) checkShelled(hook(), s, open);
}

TEST_CASE("The same round mitred corners, also where the wall leaves little of a round") {
    const Drawing path = corners({{0, 0}, {0, 40}, {50, 55}, {45, 5}});
    checkShelled(path, {"circle", circleLine(6), kPi * 36, 12 * kPi}, "start");
    checkShelled(path, {"oval", ellipseLine(7.9, 5.2), kPi * 7.9 * 5.2, ellipseLength(7.9, 5.2)}, "end");
    checkShelled(
        path, {"rounded", roundedLine(13.5, 8.8, 3), 13.5 * 8.8 - (4 - kPi) * 9, 2 * (7.5 + 2.8) + 6 * kPi},
        "start");
}

namespace {

/// The area within an ellipse, farther from it than the wall, as far as a ball of some radius comes: that of
/// its inner parallel at the wall and the radius, up to where that crosses itself on the long axis, and what
/// the ball sweeps round it (Steiner). By Simpson's rule.
double rolledWithin(double a, double b, double wall, double radius) {
    const auto on = [&](double t) {
        const double n = std::hypot(b * std::cos(t), a * std::sin(t)), deep = wall + radius;
        return Vec2{(a - deep * b / n) * std::cos(t), (b - deep * a / n) * std::sin(t)};
    };
    double low = 1e-6, high = kPi / 2; // where it crosses the axis again
    for (int half = 0; half < 60; ++half) {
        const double middle = (low + high) / 2;
        (on(middle).y > 0 ? high : low) = middle;
    }
    constexpr int kSteps = 20000;
    double area = 0, length = 0; // of a quarter
    Vec2 last = on(high);
    for (int k = 1; k <= kSteps; ++k) {
        const Vec2 next = on(high + (kPi / 2 - high) * k / kSteps);
        area += cross(last, next) / 2;
        length += gc::length(next - last);
        last = next;
    }
    return 4 * area + radius * 4 * length + kPi * radius * radius;
}

} // namespace

TEST_CASE("An oval whose ends are tighter than the wall is hollow up to a round") {
    constexpr double kLong = 9, kBroad = 4, kRound = kHoseWall / 4;
    Drawing straight;
    straight.draw(StrokeKind::Line, {{0, 0}, {0, 40}});
    for (const Drawing& path : {straight, hook()}) {
        Part p = swept(path, ellipseLine(kLong, kBroad));
        const std::string sweep = "step " + std::to_string(p.steps.back().id);
        add(p, "shell", {{"open", References{"end of " + sweep}}, {"wall", inMm(kHoseWall)}});
        const auto r = built(p);
        const double hollow = rolledWithin(kLong, kBroad, kHoseWall, kRound);
        CHECK(volumeOf(r) ==
              Approx(kPi * kLong * kBroad * lengthOf(path) - hollow * (lengthOf(path) - kHoseWall))
                  .epsilon(1e-5));
    }
}
