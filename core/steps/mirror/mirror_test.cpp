#include "tests/support/two_bodies.hpp"

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf mirrorProbe("mirror", [] {
    Probe p{twoBlocks({40, 0}), 0};
    p.step = add(p.part, "mirror", {{"body", std::string("left")}}).id;
    p.shows = {{"plane", text("plane", "front")}, {"what", text("what", "as new body")}};
    return p;
});

/// A block with a round hole off its middle, its left side in the side plane.
Part holed() {
    Part p;
    Drawing d = rectangle({0, 0}, {20, 20});
    d.draw(StrokeKind::Circle, {{12, 6}}, {3});
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude", text("length", "10 mm"));
    return p;
}

const double kHoled = 4000 - 90 * std::numbers::pi;

} // namespace

TEST_CASE("An image is joined with its body, stands beside it, or takes its place") {
    Part p = holed();
    add(p, "mirror", {{"body", std::string("body")}, {"plane", std::string("side")}});
    auto r = built(p);
    CHECK(volumeOf(r, "body") == Approx(2 * kHoled).epsilon(1e-9));
    CHECK(faceCount(r.state.body("body")) == 8); // what goes on over the plane is one face
    CHECK(envelope(r.state.body("body")).low.x == Approx(-20).margin(1e-6));
    p.steps.back().slots["what"] = std::string("as new body");
    r = built(p);
    REQUIRE(r.state.bodies.size() == 2);
    CHECK(volumeOf(r, "image") == Approx(kHoled).epsilon(1e-9));
    CHECK(envelope(r.state.body("image")).high.x == Approx(0).margin(1e-6));
    p.steps.back().slots["what"] = std::string("in its place");
    r = built(p);
    REQUIRE(r.state.bodies.size() == 1);
    CHECK(volumeOf(r, "body") == Approx(kHoled).epsilon(1e-9));
    CHECK(envelope(r.state.body("body")).high.x == Approx(0).margin(1e-6));
    // Its round face looks into the hole as before: a round of its rim still works.
    const std::string hole =
        "side " + std::to_string(p.steps[0].drawing("drawing").strokes.back().id) + " of step 2";
    add(p, "fillet",
        {{"edges", References{"where " + hole + " meets end of step 2"}}, {"radius", std::string("1 mm")}});
    CHECK(volumeOf(built(p), "body") < kHoled - 1);
}

TEST_CASE("Faces of an image are named by what they are images of; one that does not touch is refused") {
    Part p = holed();
    add(p, "mirror", {{"body", std::string("body")}, {"plane", std::string("side")}});
    const std::string hole =
        "side " + std::to_string(p.steps[0].drawing("drawing").strokes.back().id) + " of step 2";
    const auto r = built(p);
    CHECK(resolveFaces(r.state.body("body"), **parseFaceRef(hole))->items.size() == 1);
    CHECK(resolveFaces(r.state.body("body"), **parseFaceRef("image of " + hole))->items.size() == 1);
    Part q = twoBlocks({40, 0});
    add(q, "mirror", {{"body", std::string("right")}, {"plane", std::string("side")}});
    CHECK(faultOf(q).code == "combine.apart");
}
