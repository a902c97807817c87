#include "core/base/angles.hpp"
#include "tests/support/seeded.hpp"
#include "tests/support/tub.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

Drawing pointsAt(const std::vector<Vec2>& at) {
    Drawing d;
    for (const Vec2 p : at) d.draw(StrokeKind::Point, {p});
    return d;
}

Part bossed(const std::vector<Vec2>& at, const Slots& slots = {}) {
    Part p = tub();
    drawIn(p, pointsAt(at));
    Slots all{{"outline", std::string("places")}};
    for (const auto& [key, value] : slots) all[key] = value;
    add(p, "boss", all);
    return p;
}

const ProbeOf bossProbe("boss", [] {
    Probe p{bossed({{-20, -10}, {20, 10}}), 0};
    p.step = p.part.steps.back().id;
    p.shows = {{"diameter", text("diameter", "7 mm")},
               {"bore", text("bore", "3 mm")},
               {"depth", text("depth", "5 mm")},
               {"lean", text("lean", "1°")},
               {"hole", text("hole", "none")}};
    p.hides = {};
    return p;
});

/// A frustum by the radius of its top. mm³
double frustum(double r, double h, double lean) {
    const double R = r + h * std::tan(lean);
    return kPi * h / 3 * (r * r + r * R + R * R);
}

} // namespace

TEST_CASE("Bosses are frusta that stand on the floor, less their holes") {
    const double lean = 0.5 * kPi / 180, bore = kPi * 1.25 * 1.25 * 8;
    const auto two = built(bossed({{-20, -10}, {20, 10}}));
    CHECK(volumeOf(two) - tubVolume() == Approx(2 * (frustum(3, kTubDepth, lean) - bore)).epsilon(1e-6));
    CHECK(checkBody(two.state.bodies.begin()->second.value).faults.empty());
    // Right through: the wall is bored, too.
    const auto through = built(bossed({{5, 3}}, {{"hole", std::string("through")}}));
    CHECK(volumeOf(through) - tubVolume() ==
          Approx(frustum(3, kTubDepth, lean) - kPi * 1.25 * 1.25 * (kTubDepth + 2)).epsilon(1e-6));
    const auto solid = built(bossed({{5, 3}}, {{"hole", std::string("none")}, {"lean", std::string("0°")}}));
    CHECK(volumeOf(solid) - tubVolume() == Approx(kPi * 9 * kTubDepth).epsilon(1e-6));
    // Seen from below, the floor's other side is the nearer one, and the ground plane is on it.
    Part below = tub();
    add(below, "plane", {{"name", std::string("low")}, {"distance", std::string("-6 mm")}});
    drawIn(below, pointsAt({{0, 0}}), "low");
    add(below, "boss",
        {{"outline", std::string("places")}, {"hole", std::string("none")}, {"lean", std::string("0°")}});
    CHECK(volumeOf(built(below)) - tubVolume() == Approx(kPi * 9 * 6).epsilon(1e-6));
}

TEST_CASE("A boss beside a wall becomes one with it and stays within it") {
    // Its middle 2 mm from the inner side of the wall: what would come out behind a wall of 2 mm is left
    // away.
    const Slots plain{{"hole", std::string("none")}, {"lean", std::string("0°")}};
    const auto r = built(bossed({{26, 0}}, plain));
    const double d = 2, radius = 3,
                 segment = radius * radius * std::acos(d / radius) - d * std::sqrt(radius * radius - d * d);
    CHECK(volumeOf(r) - tubVolume() == Approx((kPi * 9 - segment) * kTubDepth).epsilon(1e-6));
    CHECK(r.state.bodies.size() == 1);
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
}

TEST_CASE("Each boss is called by its point, and keeps that name when others come") {
    Part p = bossed({{-20, -10}, {20, 10}});
    const auto named = [](const RegenResult& r, const std::string& ref) {
        const auto face = parseFaceRef(ref);
        REQUIRE(face);
        return resolveFaces(r.state.bodies.begin()->second.value, **face).ok();
    };
    const auto r = built(p);
    const Drawing& d = p.steps[4].drawing("drawing");
    const std::string step = " of step " + std::to_string(p.steps.back().id);
    for (const Stroke& s : d.strokes)
        for (const char* what : {"wall ", "bore ", "floor ", "top "}) {
            INFO(what << s.id);
            CHECK(named(r, what + std::to_string(s.id) + step));
        }
    const std::string text = sentenceText(p.steps.back(), p);
    CHECK(text.find("Boss at the points of places") == 0);
}

TEST_CASE("What cannot be a boss is told, and what would show is warned of with a way out") {
    CHECK(faultOf(bossed({{100, 0}})).code == "standing.none");
    CHECK(faultOf(bossed({{0, 0}, {29, 0}})).code == "boss.within");
    CHECK(faultOf(bossed({{0, 0}}, text("bore", "6 mm"))).code == "boss.bore");
    CHECK(faultOf(bossed({})).code == "boss.points");
    Part p = bossed({{0, 0}}, text("diameter", "8 mm"));
    auto r = built(p);
    REQUIRE(r.steps.back().doubt);
    CHECK(r.steps.back().doubt->code == "standing.sink");
    REQUIRE(r.steps.back().doubt->remedies.size() == 1);
    p.steps.back().slots["diameter"] = r.steps.back().doubt->remedies[0].value;
    r = built(p);
    CHECK_FALSE(r.steps.back().doubt);
    p.steps.back().slots["depth"] = std::string("14.5 mm");
    r = built(p);
    REQUIRE(r.steps.back().doubt);
    CHECK(r.steps.back().doubt->code == "boss.behind");
    CHECK(r.steps.back().doubt->remedies[0].value == "14.4 mm"); // 13 mm and seven tenths of the floor
}

TEST_CASE("Bosses that stand partly on the floor of a cone, partly in its wall: sound, and as large as "
          "columns say") {
    auto random = seeded(77);
    std::uniform_real_distribution<double> height(12, 40), across(0, 20);
    for (int k = 0; k < rounds(6); ++k) {
        Part p;
        addCup(p, 50, "cup");
        const double top = std::round(height(random)), x = std::round(across(random) * 10) / 10;
        add(p, "plane", {{"name", std::string("tops")}, {"distance", formatNumber(top) + " mm"}});
        drawIn(p, pointsAt({{x, 0}}));
        const double before = volumeOf(built(p));
        add(p, "boss",
            {{"outline", std::string("places")}, {"hole", std::string("none")}, {"lean", std::string("0°")}});
        INFO(k << " at " << x << ", " << top << " high");
        const auto r = built(p);
        CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
        // Inside, the cup is a cone that widens by 1 mm in 15, its floor and wall 2.4 mm thick.
        constexpr int kEach = 600;
        const double atGround = 25 - 2.4 * std::sqrt(1 + 1.0 / 225);
        double volume = 0;
        for (int i = 0; i < kEach; ++i)
            for (int j = 0; j < kEach; ++j) {
                const double radius = 3 * (i + 0.5) / kEach, turn = 2 * kPi * (j + 0.5) / kEach;
                const double from = std::hypot(x + radius * std::cos(turn), radius * std::sin(turn));
                const double foot = std::max(2.4, 15 * (from - atGround));
                volume += std::max(0.0, top - foot) * radius * (3.0 / kEach) * (2 * kPi / kEach);
            }
        CHECK(volumeOf(r) - before == Approx(volume).epsilon(1e-4));
    }
}

TEST_CASE("Drawn on the floor itself, bosses rise above it; a new one knows") {
    Part p = tub();
    Drawing d = pointsAt({{-10, 0}, {10, 0}});
    add(p, "draw",
        {{"plane", "inside of start of step 2"},
         {"name", std::string("places")},
         {"drawing", DrawingSlot(d)}});
    Step& boss = add(p, "boss",
                     {{"outline", std::string("places")},
                      {"hole", std::string("none")},
                      {"lean", std::string("0°")},
                      {"high", std::string("9 mm")}});
    Step fresh = newStep(p, "boss");
    CHECK(fresh.text("top") == "high");
    // Topped where they stand they would have no height: a click lets them rise.
    boss.slots["top"] = std::string("there");
    const Error flat = faultOf(p);
    CHECK(flat.code == "standing.flat");
    REQUIRE(flat.remedies.size() == 1);
    p.steps.back().slots[flat.remedies[0].slot] = flat.remedies[0].value;
    const auto r = built(p);
    CHECK(volumeOf(r) - tubVolume() == Approx(2 * kPi * 9 * 9).epsilon(1e-6));
}

TEST_CASE("The foot of a boss is rounded: a ring between the post and the floor") {
    const Slots upright{{"hole", std::string("none")}, {"lean", std::string("0°")}};
    Slots rounded = upright;
    rounded["foot"] = std::string("round");
    rounded["foot round"] = std::string("0.8 mm");
    const double sharp = volumeOf(built(bossed({{-20, -10}, {20, 10}}, upright)));
    const auto r = built(bossed({{-20, -10}, {20, 10}}, rounded));
    CHECK(checkBody(onlyBody(r)).faults.empty());
    CHECK((!r.steps.back().doubt || r.steps.back().doubt->code == "standing.sink")); // it is solid and thick
    // Between a square of r and its quarter disc, turned about the post (Pappus).
    const double a = 0.8, area = a * a * (1 - kPi / 4);
    const double centroid = a * (10 - 3 * kPi) / (12 - 3 * kPi); // from the corner of the two walls
    CHECK(volumeOf(r) - sharp == Approx(2 * area * 2 * kPi * (3 + centroid)).epsilon(1e-6));
    // With a hole and a lean, too; one that does not fit is told, and the boss is there all the same.
    const auto bored =
        built(bossed({{5, 3}}, {{"foot", std::string("round")}, {"foot round", std::string("0.5 mm")}}));
    CHECK(checkBody(onlyBody(bored)).faults.empty());
    rounded["foot round"] = std::string("30 mm");
    const auto tooLarge = built(bossed({{-20, -10}, {20, 10}}, rounded));
    REQUIRE(tooLarge.steps.back().doubt);
    CHECK(tooLarge.steps.back().doubt->code == "standing.foot");
    CHECK(volumeOf(tooLarge) == Approx(sharp).epsilon(1e-9));
}

TEST_CASE(
    "A new boss is about the latest drawing that has points, a new rib about the latest that has lines") {
    Part p = tub();
    drawIn(p, pointsAt({{0, 0}}));
    add(p, "draw",
        {{"plane", std::string("tops")},
         {"name", std::string("lines")},
         {"drawing", DrawingSlot(lineFrom({0, 0}, {5, 0}))}});
    CHECK(newStep(p, "boss").text("outline") == "places");
    CHECK(newStep(p, "snap").text("outline") == "places");
    CHECK(newStep(p, "rib").text("outline") == "lines");
}
