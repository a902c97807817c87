/// \file What stands on walls, by hand in the stage Finish: bosses, ribs, lips, vents.

#include "tests/window/finish_hand.hpp"

#include <numbers>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

/// An open box of 60 x 40 x 30 with walls of 2 mm, and a plane "tops" 20 mm over the ground.
void openBox(Part& p) {
    largeBlock(p);
    const std::string top = "end of step " + std::to_string(p.steps.back().id);
    test::add(p, "shell", {{"open", References{top}}, {"wall", std::string("2 mm")}});
    test::add(p, "plane", {{"name", std::string("tops")}, {"distance", std::string("20 mm")}});
}
void drawIn(Part& p, const Drawing& d, const char* plane) {
    test::add(p, "draw",
              {{"plane", std::string(plane)}, {"name", std::string("places")}, {"drawing", DrawingSlot(d)}});
}
void boxWithPlaces(Part& p) {
    openBox(p);
    Drawing d;
    for (const double x : {-20.0, 20.0}) d.draw(StrokeKind::Point, {{x, 0}});
    drawIn(p, d, "tops");
}
void boxWithLine(Part& p) {
    openBox(p);
    drawIn(p, test::lineFrom({-10, 0}, {10, 0}), "tops");
}
void boxWithField(Part& p) {
    openBox(p);
    drawIn(p, test::rectangle({-12, 6}, {12, 18}), "front");
}

constexpr double kDeep = 18; // mm, from the plane to the floor

} // namespace

TEST_CASE("Bosses by hand: the points are found, a click makes them solid, a number is typed") {
    FinishBench t(boxWithPlaces);
    t.begin("boss");
    CHECK(t.draft().text("outline") == "places");
    CHECK(t.draft().text("top") == "there");
    REQUIRE(t.quiet());
    t.figure("diameter", "5 mm");
    t.figure("bore", "2 mm");
    t.figure("lean", "0");
    t.figure("depth", "6 mm");
    t.keep();
    CHECK(t.last().ok);
    CHECK(t.change() == Approx(2 * std::numbers::pi * (2.5 * 2.5 * kDeep - 1 * 6)).epsilon(1e-5));
    CHECK(t.said().starts_with(
        "Boss at the points of places, its top there, ⌀ 5 mm wide with a hole of ⌀ 2 mm"));
}

TEST_CASE("A rib by hand takes its thickness from the wall; a click leaves its ends as they are drawn") {
    FinishBench t(boxWithLine);
    t.begin("rib");
    CHECK(t.draft().text("thickness") == "0.6 * 2 mm");
    t.figure("lean", "0");
    t.keep();
    CHECK(t.last().ok);
    CHECK(t.change() == Approx(1.2 * kDeep * 56).epsilon(1e-5));
    // As drawn it is shorter: a click on the words.
    t.hand->press("z", true);
    REQUIRE(t.quiet());
    t.begin("rib");
    t.figure("lean", "0");
    t.click("ends");
    REQUIRE(Hand::wait([&] { return t.draft().text("ends") == "drawn"; }, 5000));
    t.keep();
    CHECK(t.change() == Approx(1.2 * kDeep * 20).epsilon(1e-5));
}

TEST_CASE("A lip by hand: the rim is picked in the stand, Alt+R sinks it") {
    FinishBench t(openBox);
    t.begin("lip");
    t.pick("rim", {29, 0, 30}, 1);
    t.figure("lean", "0");
    t.figure("height", "1.5 mm");
    t.keep();
    CHECK(t.last().ok);
    CHECK(t.change() == Approx((58 * 38 - 56 * 36) * 1.5).epsilon(1e-5));
    t.hand->press("z", true);
    REQUIRE(t.quiet());
    t.begin("lip");
    t.pick("rim", {29, 0, 30}, 1);
    t.figure("lean", "0");
    t.figure("height", "1.5 mm");
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("does") == "sunk"; }, 5000));
    t.figure("play", "0");
    t.keep();
    CHECK(t.change() == Approx(-(58 * 38 - 56 * 36) * 1.5).epsilon(1e-5));
}

TEST_CASE("A vent by hand is cut through the nearer wall") {
    FinishBench t(boxWithField);
    t.begin("vent");
    REQUIRE(t.quiet());
    // Rows 4 mm apart within 12 mm less the rim of 2 mm: two of them, from rim to rim.
    const double slots = 2 * (std::numbers::pi + 2 * (24 - 2 * 3));
    t.keep();
    CHECK(t.last().ok);
    CHECK(t.change() == Approx(-2 * slots).epsilon(1e-5));
    const auto said = t.said();
    CHECK(said.find("through the nearer wall of") != std::string::npos);
}
