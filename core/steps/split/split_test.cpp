#include "core/base/angles.hpp"
#include "tests/support/two_bodies.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf splitProbe("split", [] {
    Probe p{twoBlocks({15, 0}), 0};
    const int plane = add(p.part, "plane", {{"distance", std::string("4 mm")}}).id;
    p.step = add(p.part, "split",
                 {{"body", std::string("left")}, {"plane", p.part.findStep(plane)->slots["name"]}})
                 .id;
    p.shows = {{"by", {{"by", std::string("the body")}, {"tool", std::string("right")}}},
               {"keep", text("keep", "what lies before it")}};
    p.hides = {{"drawing that is not asked for", text("outline", "foot of right")}};
    return p;
});

/// The left block, split.
RegenResult parted(Slots slots, Part p = twoBlocks({15, 0})) {
    slots["body"] = std::string("left");
    add(p, "split", slots);
    return built(p);
}

} // namespace

TEST_CASE("A plane parts a body: both sides, or what lies before or behind it") {
    Part p = twoBlocks({15, 0});
    add(p, "plane", {{"distance", std::string("4 mm")}, {"name", std::string("level")}});
    Slots s{{"plane", std::string("level")}};
    auto r = parted(s, p);
    REQUIRE(r.state.bodies.size() == 3);
    CHECK(volumeOf(r, "left") == Approx(400 * 6)); // what lies before the plane stays the body
    CHECK(volumeOf(r, "piece") == Approx(400 * 4));
    for (const char* body : {"left", "piece"}) {
        const auto cut = resolveFaces(r.state.body(body), **parseFaceRef("cut of step 6"));
        REQUIRE(cut.ok());
        CHECK(cut->items.size() == 1);
    }
    s["keep"] = std::string("what lies behind it");
    r = parted(s, p);
    REQUIRE(r.state.bodies.size() == 2);
    CHECK(volumeOf(r, "left") == Approx(400 * 4));
    s["keep"] = std::string("what lies before it");
    CHECK(volumeOf(parted(s, p), "left") == Approx(400 * 6));
}

TEST_CASE("A face parts it, continued where it does not reach; a drawing; another body") {
    // The right block's left side lies at x = 15.
    const Part p = twoBlocks({15, 0});
    const std::string side =
        "side " + std::to_string(p.steps[2].drawing("drawing").strokes[3].id) + " of step 4";
    auto r = parted({{"by", std::string("the face")}, {"face", References{side}}});
    CHECK(volumeOf(r, "left") + volumeOf(r, "piece") == Approx(4000));
    CHECK(std::min(volumeOf(r, "left"), volumeOf(r, "piece")) == Approx(1000));
    // A line that leans, drawn in the front plane.
    Part q = p;
    add(q, "draw", {{"name", std::string("lean")}, {"drawing", DrawingSlot(lineFrom({4, -5}, {10, 25}))}});
    r = parted({{"by", std::string("the drawing")}, {"outline", std::string("lean")}}, q);
    const double at0 = 4 + 1, at10 = 4 + 3; // x of the line at z = 0 and z = 10
    CHECK(volumeOf(r, "left") == Approx(4000 - 20 * 10 * (at0 + at10) / 2));
    CHECK(volumeOf(r, "piece") == Approx(20 * 10 * (at0 + at10) / 2));
    r = parted({{"by", std::string("the body")}, {"tool", std::string("right")}});
    CHECK(std::min(volumeOf(r, "left"), volumeOf(r, "piece")) == Approx(1000));
    CHECK(volumeOf(r, "right") == Approx(4000));
}

TEST_CASE("Several pieces are as many bodies; what does not cut through is refused") {
    Part p = twoBlocks({50, 0});
    Drawing two = lineFrom({5, -5}, {5, 25});
    two.draw(StrokeKind::Line, {{12, -5}, {12, 25}});
    add(p, "draw", {{"name", std::string("lines")}, {"drawing", DrawingSlot(two)}});
    auto r = parted({{"by", std::string("the drawing")}, {"outline", std::string("lines")}}, p);
    REQUIRE(r.state.bodies.size() == 4);
    CHECK(volumeOf(r, "left") == Approx(200 * 8));
    CHECK(volumeOf(r, "piece") == Approx(200 * 7));
    CHECK(volumeOf(r, "piece 2") == Approx(200 * 5));
    Part q = twoBlocks({50, 0});
    add(q, "draw", {{"name", std::string("short")}, {"drawing", DrawingSlot(lineFrom({5, 2}, {5, 25}))}});
    add(q, "split",
        {{"body", std::string("left")},
         {"by", std::string("the drawing")},
         {"outline", std::string("short")}});
    CHECK(faultOf(q).code == "split.one");
    q.steps.back().slots["by"] = std::string("the plane");
    q.steps.back().slots["plane"] = std::string("ground");
    CHECK(faultOf(q).code == "split.one");
}
