#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

#include <random>
#include <set>

using namespace gc;
using namespace gc::test;

namespace {

Part uprightPrism(const Drawing& foot, double height, const Slots& more = {}) {
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

const ProbeOf draftProbe("draft", [] {
    Probe p{drafted(uprightPrism(rectangle({-20, -15}, {20, 15}), 20), 3), 3};
    p.shows = {{"angle", text("angle", "5°")}, {"sense", text("sense", "widening")}};
    p.hides = {};
    return p;
});

} // namespace

TEST_CASE("Walls lean from a level, one way or both, and narrow or widen") {
    const Part block = uprightPrism(rectangle({-20, -15}, {20, 15}), 20);
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
    CHECK(volumeOf(built(drafted(uprightPrism(circleLine(10), 20), 4))) ==
          Approx(cone(10, 20, 20 * tangent(4))).epsilon(1e-9));
    Drawing ring = circleLine(20);
    ring.draw(StrokeKind::Circle, {{0, 0}}, {8});
    // A hole narrows the other way: its wall, too, leans to the material.
    CHECK(volumeOf(built(drafted(uprightPrism(ring, 10), 2))) ==
          Approx(cone(20, 10, 10 * tangent(2)) - cone(8, 10, -10 * tangent(2))).epsilon(1e-9));
    const Part leaning =
        uprightPrism(rectangle({-20, -15}, {20, 15}), 20,
                     {{"sides", std::string("leaning inward by")}, {"lean", std::string("7°")}});
    CHECK(volumeOf(built(drafted(leaning, 3))) == Approx(frustum(40, 30, 20, 20 * tangent(3))).epsilon(1e-9));
    // Uprights with rounds: each round becomes a cone, smaller by what its wall leans in.
    const double in = 20 * tangent(3), gone = 4 - kPi;
    const auto area = [&](double h) {
        const double d = in * h / 20;
        return (40 - 2 * d) * (30 - 2 * d) - gone * (5 - d) * (5 - d);
    };
    CHECK(volumeOf(built(drafted(uprightPrism(roundedLine(40, 30, 5), 20), 3))) ==
          Approx(20 / 6. * (area(0) + 4 * area(10) + area(20))).epsilon(1e-9));
}

TEST_CASE("Rounds beside leaning walls are built anew, as if they had come later") {
    // The rim above; with uprights rounded as well; the rim below, too; one wall of a mitred rim.
    const auto withRounds = [](Part p, const std::vector<std::string>& edges, double radius) {
        for (const std::string& e : edges)
            add(p, "fillet", {{"edges", References{e}}, {"radius", inMm(radius)}});
        return p;
    };
    const Part sharp = uprightPrism(rectangle({-20, -15}, {20, 15}), 20),
               round = uprightPrism(roundedLine(40, 30, 6), 20);
    const std::vector<std::string> top{"rim of end of step 2"},
        both{"rim of end of step 2", "rim of start of step 2"};
    const auto same = [&](const Part& p, const std::vector<std::string>& edges, const Slots& slots) {
        const auto first = built(withRounds(drafted(p, 3, slots), edges, 2)),
                   last = built(drafted(withRounds(p, edges, 2), 3, slots));
        CHECK(volumeOf(last) == Approx(volumeOf(first)).epsilon(1e-7));
        CHECK(checkBody(last.state.bodies.rbegin()->second.value).faults.empty());
    };
    same(sharp, top, {});
    same(sharp, both, {});
    same(round, top, {});
    same(round, both, {{"sense", std::string("widening")}});
    const Slots one{
        {"which", std::string("the walls")},
        {"faces", References{"side " + std::to_string(sharp.steps[0].drawing("drawing").strokes[1].id) +
                             " of step 2"}}};
    same(sharp, top, one);
    // The rounds keep their names: what was said of them before is found after.
    const Part before = withRounds(round, top, 2);
    const auto r = built(drafted(before, 3));
    const auto namesIn = [](const Body& b) {
        std::set<std::string> out;
        for (int i = 1; i <= b.shape().faces.Extent(); ++i)
            out.insert(b.shape().wordsFor(b.shape().faces(i)));
        return out;
    };
    CHECK(namesIn(r.state.bodies.rbegin()->second.value) ==
          namesIn(built(before).state.bodies.rbegin()->second.value));
}

namespace {

double ellipsePerimeter(double a, double b) {
    double sum = 0;
    constexpr int n = 20000;
    for (int i = 0; i < n; ++i) {
        const double t = 2 * kPi * (i + 0.5) / n;
        sum += std::hypot(a * std::sin(t), b * std::cos(t)) * 2 * kPi / n;
    }
    return sum;
}
/// Of an oval whose wall moves in square to itself (Steiner's formula for parallel curves, over the height).
double leaningOval(double a, double b, double height, double t) {
    return kPi * a * b * height - ellipsePerimeter(a, b) * t * height * height / 2 +
           kPi * t * t * height * height * height / 3;
}

} // namespace

TEST_CASE("Walls of any form lean all the way round as Steiner's formula says") {
    const Part oval = uprightPrism(ellipseLine(20, 12), 20);
    const double t = tangent(3);
    CHECK(volumeOf(built(drafted(oval, 3))) == Approx(leaningOval(20, 12, 20, t)).epsilon(1e-6));
    CHECK(volumeOf(built(drafted(oval, 3, {{"sense", std::string("widening")}}))) ==
          Approx(leaningOval(20, 12, 20, -t)).epsilon(1e-6));
    CHECK(volumeOf(built(drafted(oval, 3, {{"plane", std::string("end of step 2")}}))) ==
          Approx(leaningOval(20, 12, 20, -t)).epsilon(1e-6));
    // From a level within: one way in one piece, both ways in two.
    Part p = oval;
    add(p, "plane",
        {{"name", std::string("parting")},
         {"from", std::string("ground")},
         {"distance", std::string("8 mm")}});
    const auto oneWay = built(drafted(p, 3, {{"plane", std::string("parting")}}));
    CHECK(volumeOf(oneWay) == Approx(leaningOval(20, 12, 12, t) + leaningOval(20, 12, 8, -t)).epsilon(1e-6));
    CHECK(oneWay.state.bodies.rbegin()->second.value.shape().faces.Extent() == 3);
    CHECK(volumeOf(built(
              drafted(p, 3, {{"plane", std::string("parting")}, {"ways", std::string("both ways from")}}))) ==
          Approx(leaningOval(20, 12, 12, t) + leaningOval(20, 12, 8, t)).epsilon(1e-6));
    // Its names stay.
    Part q = drafted(oval, 3);
    add(q, "fillet", {{"edges", References{"rim of end of step 2"}}, {"radius", std::string("2 mm")}});
    built(q);
    // Beside other details: cut. A hole stays, an oval one is leaned by itself.
    Drawing plate = ellipseLine(20, 12);
    plate.draw(StrokeKind::Circle, {{6, 0}}, {3});
    Part holed = uprightPrism(plate, 20);
    const std::string outer = "side " + std::to_string(plate.strokes[0].id) + " of step 2";
    add(holed, "draft", {{"faces", References{outer}}, {"angle", std::string("3°")}});
    CHECK(volumeOf(built(holed)) == Approx(leaningOval(20, 12, 20, t) - kPi * 9 * 20).epsilon(1e-6));
    Drawing ring = circleLine(30);
    ring.draw(StrokeKind::Ellipse, {{0, 0}, {20, 0}}, {12});
    Part hollow = uprightPrism(ring, 10);
    const std::string inner = "side " + std::to_string(ring.strokes[1].id) + " of step 2";
    add(hollow, "draft", {{"faces", References{inner}}, {"angle", std::string("3°")}});
    CHECK(volumeOf(built(hollow)) == Approx(kPi * 900 * 10 - leaningOval(20, 12, 10, -t)).epsilon(1e-6));
    // Two holes of a plate that has more to it, each as a hole.
    Drawing plate2 = rectangle({-40, -20}, {40, 20});
    plate2.draw(StrokeKind::Ellipse, {{-18, 0}, {-6, 0}}, {8});
    plate2.draw(StrokeKind::Ellipse, {{18, 0}, {27, 0}}, {7});
    Part two = uprightPrism(plate2, 10);
    References walls;
    for (const std::size_t i : {std::size_t{4}, std::size_t{5}})
        walls.push_back("side " + std::to_string(plate2.strokes[i].id) + " of step 2");
    add(two, "draft", {{"faces", walls}, {"angle", std::string("3°")}});
    CHECK(volumeOf(built(two)) ==
          Approx(80 * 40 * 10 - leaningOval(12, 8, 10, -t) - leaningOval(9, 7, 10, -t)).epsilon(1e-6));
    // Both walls at once, as a hole narrows the other way.
    CHECK(volumeOf(built(drafted(uprightPrism(ring, 10), 3))) ==
          Approx(cone(30, 10, 10 * t) - leaningOval(20, 12, 10, -t)).epsilon(1e-6));
    // Widening beside details: told.
    add(holed, "draft",
        {{"faces", References{outer}}, {"angle", std::string("5°")}, {"sense", std::string("widening")}});
    CHECK(faultOf(holed).code == "draft.details");
}

TEST_CASE("What cannot lean says which wall, and why") {
    // Too much: the walls would meet; a round would be used up.
    CHECK(faultOf(drafted(uprightPrism(rectangle({-5, -5}, {5, 5}), 20), 20)).code == "draft.too-large");
    CHECK(faultOf(drafted(uprightPrism(roundedLine(40, 30, 2), 30), 10)).code == "draft.too-large");
    // Of walls of any form, all the way round only.
    Drawing half;
    half.draw(StrokeKind::Line, {{-20, 0}, {20, 0}});
    half.draw(StrokeKind::Poles, {{20, 0}, {18, 14}, {2, 24}, {-16, 12}, {-20, 0}});
    Part free = uprightPrism(half, 20);
    const std::string bent = "side " + std::to_string(half.strokes[1].id) + " of step 2";
    add(free, "draft", {{"faces", References{bent}}, {"angle", std::string("3°")}});
    CHECK(faultOf(free).code == "draft.loop");
    // A round that no longer fits where the wall has leaned away under it.
    Part p = uprightPrism(rectangle({-20, -5}, {20, 5}), 20);
    add(p, "fillet", {{"edges", References{"rim of end of step 2"}}, {"radius", std::string("4.5 mm")}});
    const Error rounded = faultOf(drafted(p, 3));
    CHECK(rounded.code == "draft.rounds");
    CHECK(rounded.place);
    CHECK(rounded.culprits.size() >= 1);
    // No walls there; a level beside the body.
    const Part steep =
        uprightPrism(rectangle({-20, -15}, {20, 15}), 10,
                     {{"sides", std::string("leaning inward by")}, {"lean", std::string("30°")}});
    CHECK(faultOf(drafted(steep, 3)).code == "draft.no-walls");
    Part q = uprightPrism(rectangle({-20, -15}, {20, 15}), 20);
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
        Part p = uprightPrism(stud ? circleLine(a / 2) : rectangle({-a / 2, -b / 2}, {a / 2, b / 2}), h);
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
