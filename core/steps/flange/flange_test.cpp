#include "core/base/angles.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/tub.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

Part flanged(Part p, const Slots& slots = {}) {
    Slots all{{"rim", References{"rim of end of step 2"}}, {"thickness", std::string("2 mm")}};
    for (const auto& [key, value] : slots) all[key] = value;
    add(p, "flange", all);
    return p;
}

const ProbeOf flangeProbe("flange", [] {
    Probe p{flanged(tub()), 0};
    p.step = p.part.steps.back().id;
    p.shows = {{"reach", text("reach", "6 mm")},
               {"thickness", text("thickness", "1.5 mm")},
               {"way", text("way", "in")},
               {"edge", text("edge", "turned")}};
    p.hides = {{"drop, of a flat one", text("drop", "3 mm")}};
    return p;
});

} // namespace

TEST_CASE("A flange is the ring around the rim times its thickness, and one face with the rim") {
    const auto r = built(flanged(tub()));
    CHECK(volumeOf(r) - tubVolume() == Approx((70 * 50 - 60 * 40) * 2).epsilon(1e-6));
    CHECK(checkBody(onlyBody(r)).faults.empty());
    CHECK(faceCount(onlyBody(r)) == 11 + 5); // its edge and its underside
    const auto in = built(flanged(tub(), text("way", "in")));
    CHECK(volumeOf(in) - tubVolume() == Approx((56 * 36 - 46 * 26) * 2).epsilon(1e-6));
    CHECK(checkBody(onlyBody(in)).faults.empty());
}

TEST_CASE("Its edge turned down is a second ring below it") {
    const auto r = built(flanged(tub(), {{"edge", std::string("turned")}, {"drop", std::string("5 mm")}}));
    CHECK(volumeOf(r) - tubVolume() ==
          Approx((70 * 50 - 60 * 40) * 2 + (70 * 50 - 66 * 46) * 3).epsilon(1e-6));
    CHECK(checkBody(onlyBody(r)).faults.empty());
    CHECK(faceCount(onlyBody(r)) == 11 + 4 + 1 + 5); // edge, underside, the skirt's inner sides and end
}

TEST_CASE("Around a round cup a flange is a washer") {
    Drawing circle;
    circle.draw(StrokeKind::Circle, {{0, 0}}, {30});
    Part p = block(circle, "25 mm");
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    const double before = volumeOf(built(p));
    const auto r = built(flanged(p, {{"edge", std::string("turned")}, {"drop", std::string("5 mm")}}));
    CHECK(volumeOf(r) - before ==
          Approx(kPi * ((35 * 35 - 900) * 2 + (35 * 35 - 33 * 33) * 3)).epsilon(1e-6));
    CHECK(checkBody(onlyBody(r)).faults.empty());
}

TEST_CASE("Around a rim whose walls lean a flange reaches down to the wall all the same") {
    // An opening that widens upward: below the rim the wall lies within it. And one that narrows.
    for (const char* lean : {"outward", "inward"})
        for (const char* way : {"out", "in"}) {
            Part p = block(rectangle({-30, -20}, {30, 20}), "25 mm",
                           {{"sides", std::string("leaning ") + lean + " by"}, {"lean", std::string("4°")}});
            add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
            INFO(lean << " " << way);
            const auto r = built(flanged(p, {{"way", std::string(way)}}));
            CHECK(checkBody(onlyBody(r)).faults.empty());
            // What lies between the far border and the wall, from level to level; the wall stands as wide
            // aside as it does at its rim.
            const double slope = std::tan(4 * kPi / 180), wall = 2 / std::cos(4 * kPi / 180),
                         grows = lean == std::string("outward") ? slope : -slope;
            const bool out = way == std::string("out");
            double should = 0;
            constexpr int kSteps = 2000;
            for (int i = 0; i < kSteps; ++i) {
                const double above = 23 + 2 * (i + 0.5) / kSteps;
                const auto area = [&](double level, double more) {
                    return 4 * (30 + grows * level + more) * (20 + grows * level + more);
                };
                const double here =
                    out ? area(25, 5) - area(above, 0) : area(above, -wall) - area(25, -wall - 5);
                should += here * 2 / kSteps;
            }
            CHECK(volumeOf(r) - volumeOf(built(p)) == Approx(should).epsilon(1e-5));
        }
}

TEST_CASE("Around a rim that is a free curve a flange is what lies between two curves beside it") {
    // An oval, whose parallels are none: Steiner's formula.
    Part p = block(ellipseLine(40, 28), "30 mm");
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    const double before = volumeOf(built(p)), around = ellipseLength(40, 28);
    const auto out = built(flanged(p));
    CHECK(volumeOf(out) - before == Approx((around * 5 + kPi * 25) * 2).epsilon(1e-6));
    CHECK(checkBody(onlyBody(out)).faults.empty());
    CHECK(faceCount(onlyBody(out)) == 5 + 2);
    const auto in = built(flanged(p, text("way", "in")));
    const double opening = around - 2 * kPi * 2;
    CHECK(volumeOf(in) - before == Approx((opening * 5 - kPi * 25) * 2).epsilon(1e-6));
    CHECK(checkBody(onlyBody(in)).faults.empty());
}

TEST_CASE(
    "Around an oval that leans a flange begins where its wall is, and its edge turns down without a seam") {
    Part p = block(ellipseLine(40, 28), "30 mm",
                   {{"sides", std::string("leaning inward by")}, {"lean", std::string("4°")}});
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    const double slope = std::tan(4 * kPi / 180), top = 30 * slope, wall = 2 / std::cos(4 * kPi / 180);
    const double before = volumeOf(built(p)), around = ellipseLength(40, 28);
    // Steiner's formula, from the rim's outer border.
    const auto area = [&](double d) {
        return kPi * 40 * 28 + around * (d - top) + kPi * (d - top) * (d - top);
    };
    for (const bool out : {true, false}) {
        INFO(out);
        const double far = out ? 5 : -wall - 5, near = out ? 3 : -wall - 3;
        double flat = 0;
        constexpr int kSteps = 1000;
        for (int k = 0; k < kSteps; ++k) {
            const double z = 2 * (k + 0.5) / kSteps;
            flat += std::fabs(area(far) - area((out ? 0 : -wall) + z * slope)) * 2 / kSteps;
        }
        const double skirt = std::fabs(area(far) - area(near)) * 3;
        const auto plain = built(flanged(p, {{"way", std::string(out ? "out" : "in")}}));
        CHECK(volumeOf(plain) - before == Approx(flat).epsilon(2e-5));
        CHECK(checkBody(onlyBody(plain)).faults.empty());
        CHECK(faceCount(onlyBody(plain)) == 5 + 2);
        const auto turned = built(flanged(p, {{"way", std::string(out ? "out" : "in")},
                                              {"edge", std::string("turned")},
                                              {"drop", std::string("5 mm")}}));
        CHECK(volumeOf(turned) - before == Approx(flat + skirt).epsilon(2e-5));
        CHECK(checkBody(onlyBody(turned)).faults.empty());
        CHECK(faceCount(onlyBody(turned)) == 5 + 4);
    }
}

TEST_CASE("Flanges that cannot be are told") {
    CHECK(faultOf(flanged(tub(), {{"edge", std::string("turned")}, {"drop", std::string("1 mm")}})).code ==
          "flange.turned");
    CHECK(faultOf(flanged(tub(), {{"edge", std::string("turned")}, {"reach", std::string("1 mm")}})).code ==
          "flange.turned");
    CHECK(faultOf(flanged(tub(), {{"way", std::string("in")}, {"reach", std::string("40 mm")}})).code ==
          "ring.fold");
    CHECK(
        faultOf(flanged(tub(), {{"way", std::string("in")}, {"rim", References{"start of step 2"}}})).code ==
        "flange.open");
}
