#include "core/base/angles.hpp"
#include "tests/support/seeded.hpp"
#include "tests/support/tub.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

Drawing linesOf(const std::vector<std::pair<Vec2, Vec2>>& lines) {
    Drawing d;
    for (const auto& [a, b] : lines) d.draw(StrokeKind::Line, {a, b});
    return d;
}

Part ribbed(const Drawing& drawing, const Slots& slots = {}, const std::string& plane = "tops") {
    Part p = tub();
    drawIn(p, drawing, plane);
    Slots all{{"outline", std::string("places")}, {"thickness", std::string("1.2 mm")}};
    for (const auto& [key, value] : slots) all[key] = value;
    add(p, "rib", all);
    return p;
}

const ProbeOf ribProbe("rib", [] {
    Probe p{ribbed(linesOf({{{-10, 0}, {10, 0}}})), 0};
    p.step = p.part.steps.back().id;
    p.shows = {{"thickness", text("thickness", "1 mm")},
               {"lean", text("lean", "1°")},
               {"ends", text("ends", "drawn")}};
    return p;
});

constexpr double kLean = 0.5 * kPi / 180, kThick = 1.2;
/// How thick it is so far below its top.
double thickAt(double depth) {
    return kThick + 2 * depth * std::tan(kLean);
}
/// A section across it. mm²
double section() {
    return (thickAt(0) + thickAt(kTubDepth)) / 2 * kTubDepth;
}
double added(const Part& p) {
    const auto r = built(p);
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    CHECK(r.state.bodies.size() == 1);
    return volumeOf(r) - volumeOf(built(tub()));
}

} // namespace

TEST_CASE("A rib runs on to the walls on both sides and down to the floor") {
    CHECK(added(ribbed(linesOf({{{-10, 0}, {10, 0}}}))) == Approx(56 * section()).epsilon(1e-6));
    // Drawn beyond the walls it is the same.
    CHECK(added(ribbed(linesOf({{{-29, 3}, {28.5, 3}}}))) == Approx(56 * section()).epsilon(1e-6));
    // And beyond the part, too; one that lies beside it is told all the same.
    CHECK(added(ribbed(linesOf({{{-60, 3}, {45, 3}}}))) == Approx(56 * section()).epsilon(1e-6));
    CHECK(faultOf(ribbed(linesOf({{{-60, 3}, {45, 3}}}), text("ends", "drawn"))).code == "standing.none");
    CHECK(faultOf(ribbed(linesOf({{{-10, 0}, {10, 0}}, {{40, 0}, {50, 0}}}))).code == "standing.none");
    // As drawn its ends lean, too.
    const double t = std::tan(kLean), h = kTubDepth;
    const double leaning = 20 * section() + 2 * t * (kThick * h * h / 2 + 2 * t * h * h * h / 3);
    CHECK(added(ribbed(linesOf({{{-10, 0}, {10, 0}}}), text("ends", "drawn"))) ==
          Approx(leaning).epsilon(1e-6));
}

TEST_CASE("Ribs that cross are one, those that end on others end there") {
    const double t = std::tan(kLean), h = kTubDepth;
    // Of the square in which two of them meet, once.
    const double crossing = kThick * kThick * h + kThick * 2 * t * h * h + 4 * t * t * h * h * h / 3;
    CHECK(added(ribbed(linesOf({{{-10, 0}, {10, 0}}, {{4, -5}, {4, 5}}}))) ==
          Approx((56 + 36) * section() - crossing).epsilon(1e-6));
    // A T: from the middle of the long one to the wall, less half of where they meet.
    CHECK(added(ribbed(linesOf({{{-10, 0}, {10, 0}}, {{4, 0}, {4, 5}}}))) ==
          Approx((56 + 18) * section() - crossing / 2).epsilon(1e-6));
}

TEST_CASE("A gusset is a rib drawn from its side: under a line between wall and floor") {
    // In the front plane, from the wall at x = -28 to the floor at z = 2: legs of 10 mm, 45 degrees.
    const Drawing leg = linesOf({{{-28, 12}, {-18, 2}}});
    const double deep = 10 / std::sqrt(2.0), t = std::tan(kLean);
    const Slots side{{"seen", std::string("side")}};
    CHECK(added(ribbed(leg, side, "front")) ==
          Approx(kThick * deep * deep + 4 * t * deep * deep * deep / 6).epsilon(1e-6));
    Slots straight = side;
    straight["lean"] = std::string("0°");
    CHECK(added(ribbed(leg, straight, "front")) == Approx(kThick * 50).epsilon(1e-6));
    // Drawn a little short of both it is the same corner, cut where its line runs on to.
    const double shorter = 9.0 * 9.0 / 2;
    CHECK(added(ribbed(linesOf({{{-26, 9}, {-22, 5}}}), straight, "front")) ==
          Approx(kThick * shorter).epsilon(1e-6));
}

TEST_CASE("A gusset drawn in a plane across the part is the same") {
    // In the side plane, from the wall at y = 18 to the floor: seen from +x, +y is to the right.
    Slots straight{{"seen", std::string("side")}, {"lean", std::string("0°")}};
    CHECK(added(ribbed(linesOf({{{18, 12}, {8, 2}}}), straight, "side")) ==
          Approx(kThick * 50).epsilon(1e-6));
    CHECK(added(ribbed(linesOf({{{-18, 12}, {-8, 2}}}), straight, "side")) ==
          Approx(kThick * 50).epsilon(1e-6));
    // In a plane beside that, over the place where it crosses the front plane.
    Part p = tub();
    add(p, "plane",
        {{"name", std::string("across")}, {"from", std::string("side")}, {"distance", std::string("7 mm")}});
    drawIn(p, linesOf({{{18, 12}, {8, 2}}}), "across");
    add(p, "rib",
        {{"outline", std::string("places")},
         {"thickness", std::string("1.2 mm")},
         {"seen", std::string("side")},
         {"lean", std::string("0°")}});
    CHECK(added(p) == Approx(kThick * 50).epsilon(1e-6));
}

TEST_CASE("A rib seen from its side may have a bent top: what lies over the line is left away") {
    // Level, then down to the floor.
    Drawing d;
    d.draw(StrokeKind::Line, {{-20, 12}, {0, 12}});
    d.draw(StrokeKind::Line, {{0, 12}, {10, 7}});
    Slots straight{{"seen", std::string("side")}, {"lean", std::string("0°")}};
    // The chord leans, so the ends run on along their own lines: to the wall at -28, to the floor at z = 2.
    CHECK(added(ribbed(d, straight, "front")) == Approx(kThick * (28 * 10 + 20 * 10 / 2.0)).epsilon(1e-6));
}

TEST_CASE("Ribs in a round cup follow its wall; three from one place leave no notch between them") {
    Part p;
    Drawing circle;
    circle.draw(StrokeKind::Circle, {{0, 0}}, {30});
    p = block(circle, "25 mm");
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    add(p, "plane", {{"name", std::string("tops")}, {"distance", std::string("15 mm")}});
    const double before = volumeOf(built(p));
    Part one = p;
    drawIn(one, linesOf({{{-10, 0}, {10, 0}}}));
    add(one, "rib", {{"outline", std::string("places")}, {"thickness", std::string("1.2 mm")}});
    Part upright = one;
    upright.steps.back().slots["lean"] = std::string("0°");
    CHECK(volumeOf(built(upright)) - before ==
          Approx(2 * (0.6 * std::sqrt(784 - 0.36) + 784 * std::asin(0.6 / 28)) * kTubDepth).epsilon(2e-6));
    double volume = 0;
    for (int k = 0; k < 2000; ++k) {
        const double depth = kTubDepth * (k + 0.5) / 2000, h = thickAt(depth) / 2, r = 28;
        volume += 2 * (h * std::sqrt(r * r - h * h) + r * r * std::asin(h / r)) * kTubDepth / 2000;
    }
    // The kernel's own cut through the cup's wall is right to a few hundredths of a mm³.
    CHECK(volumeOf(built(one)) - before == Approx(volume).epsilon(1e-4));

    Part star = p;
    Drawing d;
    const int middle = d.addPoint({0, 0});
    for (int k = 0; k < 3; ++k)
        d.addStroke(StrokeKind::Line,
                    {middle, d.addPoint({15 * std::cos(k * 2 * kPi / 3), 15 * std::sin(k * 2 * kPi / 3)})});
    drawIn(star, d);
    add(star, "rib", {{"outline", std::string("places")}, {"thickness", std::string("1.2 mm")}});
    const auto r = built(star);
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    // Three halves of the one above, less what lies in more than one of them about the middle: each level is
    // three halves of a strip, of which a triangle of the strip's width has sides of width by square root
    // of 3.
    double less = 0;
    for (int k = 0; k < 2000; ++k) {
        const double w = thickAt(kTubDepth * (k + 0.5) / 2000);
        less += (3 * w * w / (4 * std::sqrt(3.0))) * kTubDepth / 2000;
    }
    CHECK(volumeOf(r) - before == Approx(1.5 * volume - less).epsilon(1e-4));
}

TEST_CASE(
    "A new rib takes its thickness from the wall, and one that is too thick is told with what is usual") {
    Part p = tub();
    drawIn(p, linesOf({{{-10, 0}, {10, 0}}}));
    Step& step = add(p, "rib", {{"outline", std::string("places")}});
    CHECK(step.text("thickness") == "0.6 * 2 mm");
    CHECK_FALSE(built(p).steps.back().doubt);
    step.slots["thickness"] = std::string("1.8 mm");
    const auto r = built(p);
    REQUIRE(r.steps.back().doubt);
    CHECK(r.steps.back().doubt->code == "standing.sink");
    REQUIRE(r.steps.back().doubt->remedies.size() == 1);
    p.steps.back().slots["thickness"] = r.steps.back().doubt->remedies[0].value;
    CHECK_FALSE(built(p).steps.back().doubt);
    p.values.push_back({"wall", "3 mm", ""});
    CHECK(newStep(p, "rib").text("thickness") == "0.6 * wall");
}

TEST_CASE("Ribs that cannot be are told") {
    CHECK(faultOf(ribbed(Drawing{})).code == "rib.lines");
    CHECK(faultOf(ribbed(linesOf({{{40, 0}, {50, 0}}}))).code == "standing.none");
    CHECK(faultOf(ribbed(linesOf({{{-10, 0}, {10, 0}}, {{0, 5}, {5, 5}}}), text("seen", "side"))).code ==
          "rib.side");
    // Within the wall from end to end.
    CHECK(faultOf(ribbed(linesOf({{{-10, 19}, {10, 19}}}))).code == "standing.none");
}

TEST_CASE("Ribs are rounded along the floor and up the walls") {
    const Drawing line = linesOf({{{-10, 0}, {10, 0}}});
    Slots slots{{"lean", std::string("0°")}};
    const double sharp = added(ribbed(line, slots));
    slots["foot"] = std::string("round");
    slots["foot round"] = std::string("0.5 mm");
    const Part p = ribbed(line, slots);
    CHECK_FALSE(built(p).steps.back().doubt);
    // On both sides a run along the floor and two up the walls; less what the three have in common in the
    // corners.
    const double area = 0.25 * (1 - kPi / 4), runs = 2 * (56 + 2 * kTubDepth);
    CHECK(added(p) - sharp == Approx(area * runs).epsilon(0.02));
}
