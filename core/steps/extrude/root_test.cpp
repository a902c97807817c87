// Material that is added and ends on a wall of another shape.

#include "core/base/angles.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

#include <cstdlib>
#include <random>

using namespace gc;
using namespace gc::test;

namespace {

/// A shank of a radius about the upright axis, 60 high, hollow where a wall is given; its radius at the top
/// may differ. Steps 1 and 2.
Part shank(double radius, double wall = 0, double top = 0) {
    if (top == 0) top = radius;
    Part p;
    Drawing d;
    const double in = wall > 0 ? radius - wall : 0, inTop = wall > 0 ? top - wall : 0;
    const Vec2 at[] = {{in, 0}, {radius, 0}, {top, 60}, {inTop, 60}};
    for (std::size_t i = 0; i < 4; ++i) d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]});
    add(p, "draw", {{"name", std::string("shank line")}, {"drawing", DrawingSlot(d)}});
    add(p, "revolve", {{"outline", std::string("shank line")}, {"body", std::string("shank")}});
    return p;
}

/// A fin drawn in the front plane from the silhouette out, between two heights.
Part withFin(Part p, double thick, const std::vector<Vec2>& corners) {
    Drawing d;
    for (std::size_t i = 0; i < corners.size(); ++i)
        d.draw(StrokeKind::Line, {corners[i], corners[(i + 1) % corners.size()]});
    add(p, "draw", {{"name", std::string("fin line")}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude",
        {{"outline", std::string("fin line")},
         {"way", std::string("both ways together")},
         {"length", formatNumber(thick, 9) + " mm"},
         {"does", std::string("adding to")},
         {"target", std::string("shank")}});
    return p;
}

/// Between x = r and the circle of radius r, over a thickness.
double sliver(double r, double thick) {
    const double h = thick / 2;
    return thick * r - (h * std::sqrt(r * r - h * h) + r * r * std::asin(h / r));
}

} // namespace

TEST_CASE("A fin that is drawn up to a round shank roots itself, says by how much, and leaves no gap") {
    const Part p = withFin(shank(10), 4, {{10, 10}, {25, 10}, {25, 40}, {10, 40}});
    const auto r = built(p);
    const double whole = kPi * 100 * 60 + 15 * 4 * 30 + sliver(10, 4) * 30;
    CHECK(volumeOf(r, "shank") == Approx(whole).epsilon(1e-9));
    REQUIRE(r.steps.back().notes.size() == 1);
    // 10 - sqrt(100 - 4) = 0.202
    CHECK(r.steps.back().notes[0].text().find("0.2 mm") != std::string::npos);
    const std::string outer =
        "side " + std::to_string(p.steps[2].drawing("drawing").strokes[1].id) + " of step 4";
    CHECK(resolveFaces(r.state.body("shank"), **parseFaceRef(outer))->items.size() == 1);
    CHECK(resolveFaces(r.state.body("shank"), **parseFaceRef("start of step 4"))->items.size() == 1);
}

TEST_CASE("Nothing pierces a hollow shank, however thin; a cone is met along its slant") {
    // A wall of 0.15 is thinner than what the fin is carried on by.
    const auto thin = built(withFin(shank(10, 0.15), 4, {{10, 10}, {25, 10}, {25, 40}, {10, 40}}));
    CHECK(volumeOf(thin, "shank") ==
          Approx(kPi * (100 - 9.85 * 9.85) * 60 + 15 * 4 * 30 + sliver(10, 4) * 30).epsilon(1e-9));
    // Radius 16 - z / 10; the fin's inner side follows the silhouette.
    const auto radius = [](double z) { return 16 - z / 10; };
    const auto cone =
        built(withFin(shank(16, 0, 10), 3, {{radius(10), 10}, {30, 10}, {30, 40}, {radius(40), 40}}));
    double fin = 0;
    for (int i = 0; i < 600; ++i) {
        const double z = 10 + 30 * (i + 0.5) / 600, r = radius(z);
        fin += ((30 - r) * 3 + sliver(r, 3)) * 30 / 600;
    }
    CHECK(volumeOf(cone, "shank") == Approx(kPi * 60 / 3 * (256 + 160 + 100) + fin).epsilon(1e-7));
}

TEST_CASE("What stays short says by how much; what is rooted already is left alone") {
    const Error gap = faultOf(withFin(shank(10), 4, {{10.3, 10}, {25, 10}, {25, 40}, {10.3, 40}}));
    CHECK(gap.code == "combine.gap");
    CHECK(gap.sentence.text().find("0.3 mm") != std::string::npos);
    const auto deep = built(withFin(shank(10), 4, {{8, 10}, {25, 10}, {25, 40}, {8, 40}}));
    CHECK(deep.steps.back().notes.empty());
    CHECK(volumeOf(deep, "shank") == Approx(kPi * 100 * 60 + 15 * 4 * 30 + sliver(10, 4) * 30).epsilon(1e-9));
}

TEST_CASE("Fins on both sides, drawn together, root themselves one by one") {
    Part p = shank(10, 2);
    Drawing d = rectangle({10, 10}, {25, 40});
    for (const Stroke& s : rectangle({-20, 15}, {-10, 35}).strokes) {
        const Drawing left = rectangle({-20, 15}, {-10, 35});
        d.draw(StrokeKind::Line, {left.at(s.points[0]), left.at(s.points[1])});
    }
    add(p, "draw", {{"name", std::string("fins")}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude",
        {{"outline", std::string("fins")},
         {"way", std::string("both ways together")},
         {"length", std::string("3 mm")},
         {"does", std::string("adding to")},
         {"target", std::string("shank")}});
    const auto r = built(p);
    CHECK(r.steps.back().notes.size() == 2);
    CHECK(
        volumeOf(r, "shank") ==
        Approx(kPi * 36 * 60 + (15 * 3 + sliver(10, 3)) * 30 + (10 * 3 + sliver(10, 3)) * 20).epsilon(1e-9));
}

TEST_CASE("Random fins on shanks: each is rooted as deep as geometry says, solid or hollow") {
    std::mt19937 random(
        3u + static_cast<unsigned>(std::getenv("GC_SEED") ? std::atoi(std::getenv("GC_SEED")) : 0));
    const auto between = [&](double a, double b) {
        return a + (b - a) * std::uniform_real_distribution<>()(random);
    };
    const int rounds = std::getenv("GC_DEEP") ? 200 : 8;
    for (int round = 0; round < rounds; ++round) {
        const double r = between(4, 25), thick = between(0.8, std::min(6.0, r)),
                     wall = round % 3 ? between(0.5, 2) : 0;
        const double low = between(5, 20), high = low + between(8, 30), out = r + between(3, 20);
        INFO("round " << round << ": radius " << r << ", thick " << thick << ", wall " << wall);
        const auto result =
            built(withFin(shank(r, wall), thick, {{r, low}, {out, low}, {out, high}, {r, high}}));
        const double inner = wall > 0 ? r - wall : 0;
        CHECK(volumeOf(result, "shank") == Approx(kPi * (r * r - inner * inner) * 60 +
                                                  ((out - r) * thick + sliver(r, thick)) * (high - low))
                                               .epsilon(1e-8));
    }
}
