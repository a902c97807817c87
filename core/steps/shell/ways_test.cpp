// Shells beside their body, to both sides, and with another wall at some faces.

#include "core/base/angles.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const References kTop{"end of step 2"}, kFloor{"start of step 2"};

void shell(Part& p, const Slots& more) {
    Slots slots{{"open", kTop}, {"wall", std::string("2 mm")}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "shell", slots);
}
Slots other(const std::string& wall, const References& at) {
    return {{"rest", std::string("but")}, {"other wall", wall}, {"others", at}};
}

} // namespace

TEST_CASE("A skin stands beside the former that it was made around") {
    Part p = block(circleLine(20), "30 mm");
    shell(p, {{"side", std::string("outward")}, {"becomes", std::string("as new body")}, {"open", kFloor}});
    auto r = built(p);
    REQUIRE(r.state.bodies.size() == 2);
    CHECK(volumeOf(r, "body") == Approx(kPi * 400 * 30).epsilon(1e-9));
    // Around a round top edge: the wall turns over it.
    const double around = kPi * (22 * 22 - 20 * 20) * 30 + kPi * 400 * 2;
    const double corner = 2 * kPi * (kPi * 4 / 4) * (20 + 4 * 2 / (3 * kPi)); // Pappus
    CHECK(volumeOf(r, "skin") == Approx(around + corner).epsilon(1e-6));
    // The former is still there to be changed, and the skin to be worked.
    add(p, "shell", {{"body", std::string("body")}, {"open", kTop}, {"wall", std::string("3 mm")}});
    r = built(p);
    CHECK(volumeOf(r, "body") == Approx(kPi * (400 * 30 - 17 * 17 * 27)).epsilon(1e-9));
}

TEST_CASE("A wall half inward, half outward") {
    Part p = block(circleLine(20), "30 mm");
    shell(p, {{"side", std::string("half each way")}, {"open", References{kTop[0], kFloor[0]}}});
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(kPi * (21 * 21 - 19 * 19) * 30).epsilon(1e-9));
    // The outside goes on under the old name.
    const std::string outside =
        "side " + std::to_string(p.steps[0].drawing("drawing").strokes[0].id) + " of step 2";
    add(p, "fillet", {{"edges", References{"rim of " + outside}}, {"radius", std::string("0.4 mm")}});
    CHECK(volumeOf(built(p)) < volumeOf(r));
}

TEST_CASE("A floor thicker or thinner than the walls") {
    for (const double floor : {1.0, 3.0, 5.0, 8.0}) {
        INFO(floor);
        const std::string wall = formatNumber(floor) + " mm";
        Part box = block(rectangle({0, 0}, {40, 30}), "20 mm");
        const std::string side =
            "side " + std::to_string(box.steps[0].drawing("drawing").strokes[1].id) + " of step 2";
        shell(box, other(wall, kFloor));
        CHECK(volumeOf(built(box)) == Approx(40 * 30 * 20 - 36 * 26 * (20 - floor)).epsilon(1e-9));
        Part cup = block(circleLine(20), "30 mm");
        shell(cup, other(wall, kFloor));
        CHECK(volumeOf(built(cup)) == Approx(kPi * (400 * 30 - 18 * 18 * (30 - floor))).epsilon(1e-9));
        // One wall of the box.
        Part one = block(rectangle({0, 0}, {40, 30}), "20 mm");
        shell(one, other(wall, {side}));
        CHECK(volumeOf(built(one)) == Approx(40 * 30 * 20 - (38 - floor) * 26 * 18).epsilon(1e-9));
    }
}

TEST_CASE("Another wall at some faces of leaning and rounded boxes, outward, and without an opening") {
    SECTION("leaning inward") {
        Part p = block(rectangle({0, 0}, {60, 50}), "20 mm",
                       {{"sides", std::string("leaning inward by")}, {"lean", std::string("5°")}});
        shell(p, other("4 mm", kFloor));
        const double t = std::tan(5 * kPi / 180), c = std::cos(5 * kPi / 180);
        const auto side = [&](double whole, double z) { return whole - 2 * z * t - 2 * 2 / c; };
        const auto prism = [&](double a, double b, auto width, double from, double to) {
            const double m = 0.5 * (from + to);
            return (to - from) / 6 *
                   (width(a, from) * width(b, from) + 4 * width(a, m) * width(b, m) +
                    width(a, to) * width(b, to));
        };
        const auto full = [&](double whole, double z) { return whole - 2 * z * t; };
        CHECK(volumeOf(built(p)) ==
              Approx(prism(60, 50, full, 0, 20) - prism(60, 50, side, 4, 20)).epsilon(1e-9));
    }
    SECTION("rounded uprights") {
        Part p = block(roundedLine(60, 40, 8), "20 mm");
        shell(p, other("5 mm", kFloor));
        const auto area = [](double a, double b, double r) { return a * b - (4 - kPi) * r * r; };
        CHECK(volumeOf(built(p)) == Approx(area(60, 40, 8) * 20 - area(56, 36, 6) * 15).epsilon(1e-9));
    }
    SECTION("outward") {
        Part p = block(circleLine(20), "30 mm");
        shell(p, {{"side", std::string("outward")}, {"open", References{kTop[0], kFloor[0]}}});
        const double even = volumeOf(built(p));
        CHECK(even == Approx(kPi * (22 * 22 - 400) * 30).epsilon(1e-9));
    }
    SECTION("closed all round") {
        Part p = block(rectangle({0, 0}, {40, 30}), "20 mm");
        Slots s = other("6 mm", kTop);
        s["open"] = References{};
        shell(p, s);
        CHECK(volumeOf(built(p)) == Approx(40 * 30 * 20 - 36 * 26 * 12).epsilon(1e-9));
    }
}

TEST_CASE("The wall of a rounded cup is made hollow itself: what fills its hollow edges has names") {
    Part p = block(roundedLine(60, 40, 9), "30 mm");
    shell(p, {{"wall", std::string("4 mm")}});
    const double cup = volumeOf(built(p));
    Slots closed{{"open", References{}}, {"wall", std::string("1 mm")}};
    shell(p, closed);
    const auto r = Engine().regenerate(p);
    INFO(faults(r));
    REQUIRE(allFine(r));
    // What is left is about a skin of 1 mm over all of the cup's surface.
    const auto skin = volumeOf(r);
    CHECK(skin < 0.65 * cup);
    CHECK(skin > 0.4 * cup);
}

TEST_CASE("A face that rounds run on from is opened as wide as it is") {
    // Uprights of 6, open above and in front: the wall's edge stands along the front's own border.
    Part p = block(roundedLine(40, 30, 6), "20 mm");
    const auto& strokes = p.steps[0].drawing("drawing").strokes;
    std::string front;
    for (std::size_t i = 0; i < strokes.size(); ++i) {
        const auto& d = p.steps[0].drawing("drawing");
        if (strokes[i].kind == StrokeKind::Line && d.at(strokes[i].points[0]).y < -14 &&
            d.at(strokes[i].points[1]).y < -14)
            front = side(p, i);
    }
    REQUIRE_FALSE(front.empty());
    add(p, "shell", {{"open", References{"end of step 2", front}}, {"wall", std::string("2 mm")}});
    const double gone = 4 - kPi, outside = 40 * 30 - gone * 36, inside = 36 * 26 - gone * 16;
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(outside * 20 - (inside + 28 * 2) * 18).epsilon(1e-6));
    CHECK(checkBody(r.state.bodies.rbegin()->second.value).faults.empty());
}

TEST_CASE("A stud with two scoops is hollowed: where the kernel reads nothing another way is tried") {
    Part p = block(circleLine(22), "26 mm",
                   {{"sides", std::string("leaning inward by")}, {"lean", std::string("10°")}});
    Drawing scoop;
    scoop.draw(StrokeKind::Circle, {{0, 45}}, {24});
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(scoop)}});
    add(p, "extrude",
        {{"length", std::string("54 mm")},
         {"way", std::string("both ways together")},
         {"does", std::string("taking from")}});
    const double solid = volumeOf(built(p));
    add(p, "shell", {{"open", References{"start of step 2"}}, {"wall", std::string("2.6 mm")}});
    const auto r = built(p);
    // More than the wall on its outside would weigh if it were flat less its corners, less than with all of
    // them.
    CHECK(volumeOf(r) < 0.45 * solid);
    CHECK(volumeOf(r) > 0.25 * solid);
}
