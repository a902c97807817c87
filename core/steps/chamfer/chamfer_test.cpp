#include "core/base/angles.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

#include <random>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf chamferProbe("chamfer", [] {
    Probe p{brick(), 0};
    p.step = add(p.part, "chamfer",
                 {{"edges", References{"where " + side(p.part, 0) + " meets end of step 2"}},
                  {"size", std::string("2 mm")}})
                 .id;
    p.shows = {{"size", text("size", "3 mm")}, {"how", text("how", "by two lengths,")}};
    p.hides = {{"the other length, where there is one alone", text("second", "5 mm")}};
    return p;
});

Part chamfered(const References& edges, const Slots& more) {
    Part p = brick();
    Slots slots{{"edges", edges}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "chamfer", slots);
    return p;
}

constexpr double kBrick = 40 * 30 * 20;

} // namespace

TEST_CASE("A chamfer takes a prism off an edge, by one length, by two, or by a length and an angle") {
    const Part b = brick();
    const References edge{"where " + side(b, 0) + " meets end of step 2"}; // 40 long
    CHECK(volumeOf(built(chamfered(edge, text("size", "3 mm")))) == Approx(kBrick - 40 * 4.5).epsilon(1e-9));
    const Slots two{{"how", std::string("by two lengths,")},
                    {"size", std::string("3 mm")},
                    {"second", std::string("5 mm")}};
    CHECK(volumeOf(built(chamfered(edge, two))) == Approx(kBrick - 40 * 7.5).epsilon(1e-9));
    const Slots angle{{"how", std::string("by a length and an angle,")},
                      {"size", std::string("3 mm")},
                      {"angle", std::string("30°")}};
    CHECK(volumeOf(built(chamfered(edge, angle))) ==
          Approx(kBrick - 40 * 4.5 * std::tan(kPi / 6)).epsilon(1e-9));
}

TEST_CASE("The first length lies on the face that is named, or beside it; unnamed, on the common face") {
    const Part b = brick();
    // A triangle of 3 along the top and 5 down the wall has its middle at 1 and 5/3; the other way round, 5/3
    // and 1: told by the centre of mass.
    const auto middle = [&](const Slots& more) {
        Slots slots{{"how", std::string("by two lengths,")},
                    {"size", std::string("3 mm")},
                    {"second", std::string("5 mm")}};
        for (const auto& [key, value] : more) slots[key] = value;
        const auto r = built(chamfered({"where " + side(b, 0) + " meets end of step 2"}, slots));
        const auto m = massProperties(r.state.bodies.rbegin()->second.value, Density(1e-3));
        const double cut = 40 * 7.5;
        return (kBrick * 10 - m->centre.z * m->volume) / cut; // height of the middle of what was taken
    };
    const double topward = 20 - 5 / 3., wallward = 20 - 1;
    CHECK(middle({{"face", References{"end of step 2"}}}) == Approx(topward).epsilon(1e-6));
    CHECK(middle({{"face", References{side(b, 0)}}}) == Approx(wallward).epsilon(1e-6));
    CHECK(middle({{"face", References{"end of step 2"}}, {"where", std::string("beside")}}) ==
          Approx(wallward).epsilon(1e-6));
    CHECK(middle({}) == Approx(topward).epsilon(1e-6)); // it looks up
    // All round the top: the common face is the top.
    const auto rim = built(chamfered({"rim of end of step 2"}, {{"how", std::string("by two lengths,")},
                                                                {"size", std::string("3 mm")},
                                                                {"second", std::string("5 mm")}}));
    // A frustum of 34 x 24 on 40 x 30, 5 high, on a block of 15.
    const double a = 40 * 30, c = 34 * 24, m = 37 * 27;
    CHECK(volumeOf(rim) == Approx(40 * 30 * 15 + 5 / 6. * (a + 4 * m + c)).epsilon(1e-9));
    // A face that is not beside the edge is said.
    Part wrong =
        chamfered({"where " + side(b, 0) + " meets end of step 2"},
                  {{"how", std::string("by two lengths,")}, {"face", References{"start of step 2"}}});
    const Error e = faultOf(wrong);
    CHECK(e.code == "chamfer.side");
    CHECK(e.place);
}

TEST_CASE("Chamfers of a stud's rim are frusta, at any length and angle (200 made-up studs)") {
    std::mt19937 random(20261128);
    const auto between = [&](double a, double b) { return std::uniform_real_distribution<>(a, b)(random); };
    int good = 0, refused = 0;
    const int all = std::getenv("GC_DEEP") ? 200 : 24;
    for (int i = 0; i < all; ++i) {
        const double R = between(3, 20), H = between(4, 30);
        const double on = between(0.05, 0.9) * R, down = between(0.05, 0.9) * H;
        Part p;
        Drawing foot;
        foot.draw(StrokeKind::Circle, {{0, 0}}, {R});
        add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(foot)}});
        add(p, "extrude", {{"length", inMm(H)}});
        Slots slots{{"edges", References{"rim of end of step 2"}}, {"size", inMm(on)}};
        double depth = on;
        if (i % 3 == 1) {
            slots["how"] = std::string("by two lengths,");
            slots["second"] = inMm(down);
            depth = down;
        } else if (i % 3 == 2) {
            slots["how"] = std::string("by a length and an angle,");
            slots["angle"] = formatNumber(std::atan2(down, on) * 180 / kPi, 12) + "°";
            depth = down;
        }
        add(p, "chamfer", slots);
        const auto r = Engine().regenerate(p);
        if (!allFine(r)) {
            INFO(on << " of " << R << ", " << depth << " of " << H << ": " << faults(r));
            ++refused;
            CHECK(depth >= H); // else there is no reason
            continue;
        }
        ++good;
        const double top = R - on;
        CHECK(volumeOf(r) ==
              Approx(kPi * R * R * (H - depth) + kPi * depth / 3 * (R * R + R * top + top * top))
                  .epsilon(1e-6));
    }
    WARN(good << " right, " << refused << " refused of " << all);
}

TEST_CASE("What a chamfer cannot do at some edges is said; the others are done") {
    // One of the block's upper edges by more than the block is wide.
    Part p = brick();
    add(p, "chamfer",
        {{"edges", References{"where " + side(p, 0) + " meets end of step 2"}},
         {"size", std::string("25 mm")}});
    const Error e = faultOf(p);
    CHECK(e.code == "chamfer.too-large");
    Part q = chamfered({"where " + side(brick(), 0) + " meets end of step 2"}, text("size", "3 mm"));
    // What it makes has a name, and can be cut again.
    add(q, "chamfer",
        {{"edges", References{"rim of chamfer between end of step 2 and " + side(q, 0)}},
         {"size", std::string("0.5 mm")}});
    built(q);
    CHECK(sentenceText(q.steps.back(), q).find("Chamfer") == 0);
}
