#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/mesh.hpp"
#include "core/shape/places.hpp"
#include "tests/support/letters.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/tub.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const char* kRim = "rim of end of step 2";

Part lipped(Part p, const Slots& slots = {}) {
    Slots all{{"rim", References{kRim}},
              {"width", std::string("1 mm")},
              {"height", std::string("1.5 mm")},
              {"lean", std::string("0°")}};
    for (const auto& [key, value] : slots) all[key] = value;
    add(p, "lip", all);
    return p;
}

const ProbeOf lipProbe("lip", [] {
    Probe p{lipped(tub(), text("lean", "1°")), 0};
    p.step = p.part.steps.back().id;
    p.shows = {{"width", text("width", "0.8 mm")},
               {"height", text("height", "1 mm")},
               {"where", text("where", "outer")},
               {"does", text("does", "sunk")},
               {"lean", text("lean", "2°")}};
    p.hides = {{"play, of one that is raised", text("play", "0.3 mm")}};
    return p;
});

/// What its highest flat face is called.
std::string topOf(const Part& p) {
    const Body body = onlyBody(built(p));
    double high = -1e300;
    int top = 0;
    for (int f = 0; f < faceCount(body); ++f)
        if (const double z = body.shape().middleOf({f}, false).z; planeOfFace(body, f) && z > high + 1e-6)
            high = z, top = f;
    return body.shape().wordsFor(body.shape().faces(top + 1));
}

/// A tub whose drawing has rounds at its corners: 60 x 40, R 8.
Part roundedTub() {
    Drawing d;
    const auto line = [&](Vec2 a, Vec2 b) { d.draw(StrokeKind::Line, {a, b}); };
    const auto arc = [&](Vec2 a, Vec2 b, Vec2 c) { d.draw(StrokeKind::Arc, {a, b, c}, {8}); };
    line({-22, -20}, {22, -20});
    arc({22, -20}, {30, -12}, {22, -12});
    line({30, -12}, {30, 12});
    arc({30, 12}, {22, 20}, {22, 12});
    line({22, 20}, {-22, 20});
    arc({-22, 20}, {-30, 12}, {-22, 12});
    line({-30, 12}, {-30, -12});
    arc({-30, -12}, {-22, -20}, {-22, -12});
    Part p = block(d, "25 mm");
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    return p;
}

} // namespace

TEST_CASE("A lip goes on from the inner wall without a seam, and its volume is its ring times its height") {
    const auto r = built(lipped(tub()));
    CHECK(volumeOf(r) - tubVolume() == Approx((58 * 38 - 56 * 36) * 1.5).epsilon(1e-6));
    CHECK(checkBody(onlyBody(r)).faults.empty());
    CHECK(faceCount(onlyBody(r)) == 11 + 5); // its top and four sides; the inner walls have grown
    const auto outer = built(lipped(tub(), text("where", "outer")));
    CHECK(volumeOf(outer) - tubVolume() == Approx((60 * 40 - 58 * 38) * 1.5).epsilon(1e-6));
    CHECK(faceCount(onlyBody(outer)) == 11 + 5);
}

TEST_CASE("A leaning lip is a frustum around the opening; its partner is larger by its play") {
    const auto r = built(lipped(tub(), text("lean", "2°")));
    double volume = 0;
    for (int k = 0; k < 1000; ++k) {
        const double w = 1 - 1.5 * (k + 0.5) / 1000 * std::tan(2 * kPi / 180);
        volume += ((56 + 2 * w) * (36 + 2 * w) - 56 * 36) * 1.5 / 1000;
    }
    CHECK(volumeOf(r) - tubVolume() == Approx(volume).epsilon(1e-6));
    const auto sunk = built(lipped(tub(), {{"does", std::string("sunk")}, {"play", std::string("0.2 mm")}}));
    CHECK(tubVolume() - volumeOf(sunk) == Approx((58.4 * 38.4 - 56 * 36) * 1.7).epsilon(1e-6));
    CHECK(checkBody(onlyBody(sunk)).faults.empty());
}

TEST_CASE("Around rounds a lip is its border's length times its width, and a little for the turn") {
    const double before = volumeOf(built(roundedTub()));
    for (const char* lean : {"0°", "1.5°"}) {
        INFO(lean);
        const auto r = built(lipped(roundedTub(), text("lean", lean)));
        CHECK(checkBody(onlyBody(r)).faults.empty());
        CHECK(r.steps.back().notes.empty());
        // The inner border: straights of 44 and 24 mm, rounds of 6 mm. Beside it the ring has L w + pi w².
        const double L = 2 * (44 + 24) + 2 * kPi * 6, slope = std::tan(lean[0] == '0' ? 0 : 1.5 * kPi / 180);
        double volume = 0;
        for (int k = 0; k < 1000; ++k) {
            const double w = 1 - 1.5 * (k + 0.5) / 1000 * slope;
            volume += (L * w + kPi * w * w) * 1.5 / 1000;
        }
        CHECK(volumeOf(r) - before == Approx(volume).epsilon(1e-6));
    }
}

TEST_CASE("Along a free curve a lip is sunk to the wall wherever that leans, and leans itself") {
    // An oval that leans inward by 4 degrees: at a depth z its wall is z tan 4 further out.
    Part p = block(ellipseLine(40, 28), "30 mm",
                   {{"sides", std::string("leaning inward by")}, {"lean", std::string("4°")}});
    const double slope = std::tan(4 * kPi / 180), in = 30 * slope;
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    const double before = volumeOf(built(p)), around = ellipseLength(40, 28);
    const auto areaAt = [&](double d) {
        return kPi * 40 * 28 + around * (d - in) + kPi * (d - in) * (d - in);
    };
    const double wall = 2 / std::cos(4 * kPi / 180);
    constexpr int kSteps = 1000;
    for (const bool inner : {true, false})
        for (const double lean : {0.0, 2.0}) {
            INFO(inner << " " << lean);
            const Slots slots{{"where", std::string(inner ? "inner" : "outer")},
                              {"lean", formatNumber(lean, 1) + "°"},
                              {"play", std::string("0 mm")}};
            double raised = 0, sunk = 0;
            for (int k = 0; k < kSteps; ++k) {
                const double z = 1.5 * (k + 0.5) / kSteps, w = 1 - z * std::tan(lean * kPi / 180);
                const double from = inner ? -wall : 0, far = inner ? from + w : from - w;
                raised += std::fabs(areaAt(far) - areaAt(from)) * 1.5 / kSteps;
                sunk += std::fabs(areaAt(far) - areaAt(from + z * slope)) * 1.5 / kSteps;
            }
            const auto up = built(lipped(p, slots));
            CHECK(volumeOf(up) - before == Approx(raised).epsilon(2e-5));
            CHECK(checkBody(onlyBody(up)).faults.empty());
            CHECK(up.steps.back().notes.empty());
            Slots down = slots;
            down["does"] = std::string("sunk");
            const auto cut = built(lipped(p, down));
            CHECK(before - volumeOf(cut) == Approx(sunk).epsilon(2e-5));
            CHECK(checkBody(onlyBody(cut)).faults.empty());
        }
}

TEST_CASE(
    "Around the rim of a loft a lip is its border's length times its width, and a little for the turn") {
    Part p = loftedWallOf(1.6); // whose inner border the kernel leaves with tiny corners
    add(p, "shell", {{"open", References{topOf(p)}}, {"wall", std::string("2 mm")}});
    const std::string rim = topOf(p);
    Engine engine; // goes on from the hollow body
    const auto hollow = engine.regenerate(p);
    const double before = volumeOf(hollow);
    std::vector<double> lengths; // of the two borders of its rim, by polylines
    const auto mesh = makeMesh(onlyBody(hollow), {0.003, 0.06});
    REQUIRE(mesh.ok());
    for (const MeshEdge& e : mesh->edges) {
        double length = 0;
        bool high = !e.points.empty();
        for (std::size_t i = 0; i < e.points.size(); ++i) {
            high &= std::fabs(e.points[i].z - 50) < 0.01;
            if (i > 0) length += gc::length(e.points[i] - e.points[i - 1]);
        }
        if (high) lengths.push_back(length);
    }
    REQUIRE(lengths.size() == 2);
    std::sort(lengths.begin(), lengths.end());
    for (const bool inner : {true, false}) {
        INFO(inner);
        const auto r = engine.regenerate(
            lipped(p, {{"rim", References{rim}}, {"where", std::string(inner ? "inner" : "outer")}}));
        const double should = inner ? lengths[0] + kPi : lengths[1] - kPi; // 1 mm wide
        REQUIRE(allFine(r));
        CHECK(volumeOf(r) - before == Approx(should * 1.5).epsilon(2e-4));
        CHECK(checkBody(onlyBody(r)).faults.empty());
    }
    const auto sunk = engine.regenerate(lipped(p, {{"rim", References{rim}}, {"does", std::string("sunk")}}));
    REQUIRE(allFine(sunk));
    CHECK(volumeOf(sunk) < before);
    CHECK(checkBody(onlyBody(sunk)).faults.empty());
}

TEST_CASE("What earlier steps work in is known after a lip, whichever way it is made") {
    Part free = block(ellipseLine(40, 28), "30 mm");
    add(free, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    for (const Part& host : {tub(), free}) {
        const auto before = onlyBody(built(host)).shape().frames;
        for (const char* does : {"raised", "sunk"}) {
            const auto after = onlyBody(built(lipped(host, text("does", does)))).shape().frames;
            for (const auto& [step, frame] : before) {
                INFO(does << " step " << step);
                REQUIRE(after.count(step) == 1);
                CHECK(after.at(step) == frame);
            }
        }
    }
}

TEST_CASE("Its faces are called by the walls that they run along") {
    const auto r = built(lipped(tub()));
    int top = 0, side = 0;
    for (int f = 0; f < faceCount(onlyBody(r)); ++f)
        for (const std::string& ref : referencesForFace(onlyBody(r), f)) {
            top += ref.starts_with("lip top on ");
            side += ref.starts_with("lip side along ");
        }
    CHECK(top >= 1);
    CHECK(side >= 4);
}

TEST_CASE("Lips that cannot be are told") {
    CHECK(faultOf(lipped(tub(), {{"rim", References{"start of step 2"}}})).code == "lip.open");
    CHECK(faultOf(lipped(tub(), text("width", "25 mm"))).code == "lip.wide");
    // As wide as the rim itself: no step is left. What is offered works.
    Part wide = lipped(tub(), text("width", "2 mm"));
    const Error e = faultOf(wide);
    REQUIRE(e.remedies.size() == 1);
    wide.steps.back().slots["width"] = e.remedies[0].value;
    built(wide);
    Part p = tub();
    Step fresh = newStep(p, "lip");
    CHECK(fresh.text("width") == "0.5 * 2 mm");
}
