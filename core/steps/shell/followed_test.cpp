// Walls of lofts whose faces run into each other at an angle that fades: each face, border and corner is
// moved by itself.

#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/mesher/body_mesher.hpp"
#include "core/shape/places.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/wound.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kWall = 2; // mm

Drawing square(double half, double turned = 0) {
    return regularLine(4, half * std::sqrt(2.0), kPi / 4 + turned);
}

struct Shelled {
    Body before, after;
    std::string loft; ///< "step 7"
    double volume = 0;
};

/// Sections 30 mm above each other, lofted and shelled. \param open start, end or none
Shelled shelled(const std::vector<Drawing>& sections, const std::string& open, const std::string& way,
                const std::string& side = "inward") {
    Part p;
    References refs;
    double level = 0;
    for (const Drawing& d : sections) {
        refs.push_back(addSection(p, d, level));
        level += 30;
    }
    Slots slots{{"sections", refs}};
    slots["way"] = way;
    Shelled out;
    out.loft = "step " + std::to_string(add(p, "loft", slots).id);
    Engine engine;
    out.before = lastBody(engine.regenerate(p));
    Slots wall{{"wall", inMm(kWall)}, {"side", side}};
    if (open != "none") wall["open"] = References{open + " of " + out.loft};
    add(p, "shell", wall);
    const auto r = engine.regenerate(p);
    INFO(faults(r));
    REQUIRE(allFine(r));
    out.after = lastBody(r);
    const auto mass = massProperties(out.after, Density(1e-3));
    REQUIRE(mass.ok());
    out.volume = mass->volume;
    const auto [meshed, twice] = meshOf(out.after, 0.01);
    CHECK(std::fabs(meshed - out.volume) < 0.01 * mass->area);
    CHECK(twice < 0.002 * mass->area);
    return out;
}

/// Every place of the inside is at least the wall from what was kept outside, and most are that far: not
/// those at sharp corners, in rounds, nor where what they were moved from is beyond the opening.
void checkEven(const Shelled& made, const std::string& open, double most = 0.6) {
    std::vector<int> kept;
    for (int f = 0; f < faceCount(made.before); ++f)
        if (made.before.shape().wordsFor(made.before.shape().faces(f + 1)) != open + " of " + made.loft)
            kept.push_back(f);
    MeshedBody mesh;
    std::pair<int, std::string> fault;
    REQUIRE(meshBody(made.after.shape(), {0.05, 0.2, 0.4}, mesh, fault));
    int places = 0, even = 0;
    double least = 1e9;
    for (std::size_t f = 0; f < mesh.faces.size(); ++f) {
        const auto words = made.after.shape().wordsFor(made.after.shape().faces(static_cast<int>(f) + 1));
        if (!words.starts_with("inside of")) continue;
        const auto& points = mesh.faces[f].points;
        for (std::size_t i = 0; i < points.size(); i += points.size() / 10 + 1) {
            const auto near = nearestOnFaces(made.before, kept, points[i]);
            REQUIRE(near);
            const double wall = length(near->at - points[i]);
            least = std::min(least, wall);
            ++places;
            if (std::fabs(wall - kWall) < 1e-3) ++even;
        }
    }
    INFO("least " << least << ", " << even << " of " << places);
    CHECK(places > 20);
    CHECK(least > kWall - 1e-3);
    CHECK(even > most * places);
}

} // namespace

TEST_CASE("A loft from a square to a circle, whose creases fade, has an even wall") {
    const std::vector<Drawing> sections{square(14), circleLine(13)};
    for (const char* open : {"start", "end", "none"}) {
        INFO(open);
        const auto made = shelled(sections, open, "smoothly");
        checkEven(made, open);
        // Four walls, four inside; a floor twice where there is one.
        CHECK(faceCount(made.after) == (std::string(open) == "none" ? 12 : 11));
    }
}

TEST_CASE("Where creases come and go on the way") {
    checkEven(shelled({circleLine(16), square(16), circleLine(14)}, "end", "smoothly"), "end");
    checkEven(shelled({regularLine(6, 20), circleLine(14), roundedLine(30, 24, 6)}, "start", "smoothly"),
              "start");
}

TEST_CASE("Four walls that meet in a corner come apart into two corners of three") {
    const auto made = shelled({square(14), square(18, 0.35), square(12, 0.2)}, "end", "straight");
    checkEven(made, "end");
}

TEST_CASE("Seams of walls that close up come apart") {
    const auto made =
        shelled({circleLine(14), circleLine(17, {6, 3}), circleLine(12, {-2, 5})}, "end", "straight");
    checkEven(made, "end");
    CHECK(faceCount(made.after) == 2 * 3 + 1);
}

TEST_CASE("The wall of a frustum by a straight loft is as large as it should be") {
    const auto made = shelled({square(20), square(14)}, "end", "straight");
    // Walls lean by 6 in 30: across, a wall is wall / cos wide.
    const double wide = kWall * std::hypot(30.0, 6.0) / 30;
    const auto frustum = [](double low, double high, double h) {
        return h / 3 * 4 * (low * low + low * high + high * high);
    };
    const double inside = frustum(20 - 6.0 / 30 * kWall - wide, 14 - wide, 30 - kWall);
    CHECK(made.volume == Approx(frustum(20, 14, 30) - inside).epsilon(1e-6));
}

TEST_CASE("A border that is used up gives way to one between the faces beyond its ends") {
    // A block of 40 by 30 by 30 whose corner is cut off, by little at its start and by more at its end:
    // inside, the cut begins only where it is deeper than the wall leaves it.
    constexpr double kFirst = 0.3, kLast = 6, kHigh = 30, kLong = 40, kBroad = 30;
    const auto cut = [&](double by) {
        const double x = kLong / 2, y = kBroad / 2;
        return closedLine({{-x, -y}, {x, -y}, {x, y - by}, {x - by, y}, {-x, y}});
    };
    const double rise = (kLast - kFirst) / kHigh;
    // The cut's plane is x + y + rise z; moved inward, what is left of the cut at a level is this far along
    // x.
    const double begins = kFirst + kWall * std::hypot(std::sqrt(2.0), rise) - 2 * kWall;
    const auto inside = [&](double low, double high) {
        const double from = std::max(low, -begins / rise);
        const auto third = [&](double z) { return std::pow(begins + rise * z, 3) / (6 * rise); };
        return (kLong - 2 * kWall) * (kBroad - 2 * kWall) * (high - low) - (third(high) - third(from));
    };
    const auto third = [&](double by) { return by * by * by / (6 * rise); };
    const double whole = kLong * kBroad * kHigh - (third(kLast) - third(kFirst));
    REQUIRE(begins + rise * kWall < 0); // used up at the floor, too
    for (const char* open : {"start", "end"}) {
        INFO(open);
        const bool atEnd = std::string(open) == "end";
        const auto made = shelled({cut(kFirst), cut(kLast)}, open, "straight");
        const double hollow = inside(atEnd ? kWall : 0, atEnd ? kHigh : kHigh - kWall);
        CHECK(made.volume == Approx(whole - hollow).epsilon(1e-6));
        CHECK(faceCount(made.after) == 13); // seven outside, one of them a rim; six inside
        checkEven(made, open);
    }
}

TEST_CASE("Outward, beside walls at an angle that fades, corners stay sharp") {
    const auto made = shelled({square(14), circleLine(13)}, "end", "smoothly", "outward");
    checkEven(made, "end");
}

TEST_CASE("Rounds that are tighter than the wall stay inside, as rounds of a quarter of it") {
    const auto made = shelled({roundedLine(40, 30, 1), roundedLine(40, 30, 1)}, "end", "straight");
    const auto rounded = [](double a, double b, double r) { return a * b - (4 - kPi) * r * r; };
    const double inside = rounded(40 - 2 * kWall, 30 - 2 * kWall, kWall / 4) * (30 - kWall);
    CHECK(made.volume == Approx(rounded(40, 30, 1) * 30 - inside).epsilon(1e-6));
}

TEST_CASE("Where rounds become tighter than the wall on the way, it is no thinner for it") {
    checkEven(shelled({roundedLine(40, 30, 1.5), roundedLine(30, 24, 4)}, "end", "smoothly"), "end");
    checkEven(shelled({circleLine(14), roundedLine(36, 24, 1.8)}, "start", "smoothly"), "start");
    checkEven(shelled({circleLine(14), roundedLine(36, 24, 1.8)}, "none", "smoothly"), "none");
}

TEST_CASE("Where rounds are tighter than the wall only in the middle") {
    checkEven(
        shelled({roundedLine(30, 24, 4), roundedLine(30, 24, 1), roundedLine(30, 24, 4)}, "end", "smoothly"),
        "end");
}

TEST_CASE("Where rounds tighter than the wall begin or end on the way, or beyond it") {
    // What folds over ends on the wall, where its bend jumps. Half of what is looked at is in its rounds.
    checkEven(shelled({ellipseLine(22, 12), roundedLine(49, 47, 0.9)}, "start", "smoothly"), "start", 0.5);
    // It ends beyond the wall's end, or not before the wall would close up there.
    checkEven(shelled({roundedLine(25, 12, 1.2), roundedLine(22, 15, 2.1)}, "start", "smoothly"), "start",
              0.5);
    shelled({roundedLine(46, 38, 0.8), roundedLine(34, 28, 4.5)}, "start", "smoothly");
    // Two walls on top of each other, whose seams are not quite smooth, and come apart by a trifle.
    checkEven(
        shelled({roundedLine(42, 36, 3.7), circleLine(26), roundedLine(37, 35, 0.7)}, "start", "straight"),
        "start", 0.5);
}
