#include "tests/support/block.hpp"
#include "tests/support/letters.hpp"
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
    p.hides = {{"faces of a detail", {{"detail", References{"end of step 2"}}}}};
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

TEST_CASE("A detail is mirrored with its rounds; its image is called by it") {
    Part p = holed();
    const std::string hole =
        "side " + std::to_string(p.steps[0].drawing("drawing").strokes.back().id) + " of step 2";
    add(p, "fillet",
        {{"edges", References{"where " + hole + " meets end of step 2"}}, {"radius", std::string("1 mm")}});
    const double once = volumeOf(built(p), "body"), solid = 4000;
    add(p, "plane",
        {{"name", std::string("across")},
         {"from", std::string("front")},
         {"distance", std::string("-10 mm")}});
    add(p, "mirror",
        {{"subject", std::string("the detail")},
         {"detail", References{hole}},
         {"plane", std::string("across")}});
    const auto r = built(p);
    CHECK(checkBody(r.state.body("body")).faults.empty());
    CHECK(volumeOf(r, "body") == Approx(2 * once - solid).epsilon(1e-9));
    CHECK(r.steps.back().notes.empty());
    CHECK(resolveFaces(r.state.body("body"), **parseFaceRef("image of " + hole))->items.size() == 1);
    // Mirrored where it runs into itself, that is told; the centre of mass says where the image is.
    const auto m = massProperties(r.state.body("body"), Density(1e-3));
    CHECK(m->centre.y == Approx(10).margin(1e-6));
    p.steps[3].slots["distance"] = std::string("-7 mm");
    CHECK(built(p).steps.back().notes.size() == 1);
}

TEST_CASE("A detail of several pieces is mirrored: letters, and pockets that were repeated") {
    Part p = block(rectangle({-60, -40}, {60, 40}), "12 mm");
    const double plain = volumeOf(built(p));
    add(p, "draw",
        {{"name", std::string("word")},
         {"plane", std::string("end of step 2")},
         {"drawing", DrawingSlot(letters(3, -50, -10))}});
    add(p, "emboss",
        {{"outline", std::string("word")},
         {"wall", References{"end of step 2"}},
         {"sides", std::string("leaning")}});
    const double word = volumeOf(built(p)) - plain;
    add(p, "mirror",
        {{"subject", std::string("the detail")},
         {"detail", References{"everything of step 4"}},
         {"plane", std::string("side")}});
    auto r = built(p);
    CHECK(volumeOf(r) == Approx(plain + 2 * word).epsilon(1e-9));
    CHECK(r.steps.back().notes.empty());
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());

    Part q = block(rectangle({-60, -40}, {60, 40}), "12 mm");
    add(q, "draw",
        {{"plane", std::string("end of step 2")},
         {"drawing", DrawingSlot(rectangle({-48, -28}, {-36, -19}))}});
    add(q, "extrude",
        {{"length", std::string("6 mm")},
         {"way", std::string("backward")},
         {"does", std::string("taking from")}});
    add(q, "repeat",
        {{"what", References{"everything of step 4"}},
         {"count", std::string("3")},
         {"pitch", std::string("16 mm")}});
    add(q, "mirror",
        {{"subject", std::string("the detail")},
         {"detail", References{"everything of step 5"}},
         {"plane", std::string("front")}});
    r = built(q);
    CHECK(volumeOf(r) == Approx(plain - 5 * 12 * 9 * 6).epsilon(1e-9));
    CHECK(r.steps.back().notes.empty());
}

TEST_CASE("A post on a free form is mirrored without a doubt about how much it adds") {
    Part p = loftedWallOf(1.5);
    add(p, "draw",
        {{"name", std::string("post")},
         {"plane", std::string("front")},
         {"drawing", DrawingSlot(rectangle({10, 20}, {18, 30}))}});
    const double before = volumeOf(built(p));
    const int post = add(p, "extrude",
                         {{"outline", std::string("post")},
                          {"length", std::string("60 mm")},
                          {"way", std::string("backward")},
                          {"does", std::string("adding to")}})
                         .id;
    const double one = volumeOf(built(p)) - before;
    add(p, "mirror",
        {{"subject", std::string("the detail")},
         {"detail", References{"everything of step " + std::to_string(post)}},
         {"plane", std::string("side")}});
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(before + 2 * one).epsilon(1e-7));
    CHECK(r.steps.back().notes.empty());
}

TEST_CASE("A notch in a rim is mirrored, too; a detail has to be picked") {
    Part p;
    Drawing d;
    const Vec2 at[] = {{-20, 0}, {20, 0}, {20, 30}, {14, 30}, {14, 24}, {8, 24}, {8, 30}, {-20, 30}};
    std::vector<int> lines;
    for (std::size_t i = 0; i < 8; ++i) lines.push_back(d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 8]}));
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude", text("length", "5 mm"));
    References notch;
    for (const std::size_t i : {3, 4, 5}) notch.push_back("side " + std::to_string(lines[i]) + " of step 2");
    add(p, "mirror",
        {{"subject", std::string("the detail")}, {"detail", notch}, {"plane", std::string("side")}});
    const auto r = built(p);
    CHECK(volumeOf(r, "body") == Approx(5 * (1200 - 2 * 36)).epsilon(1e-9));
    CHECK(checkBody(r.state.body("body")).faults.empty());
    Part q = p;
    q.steps.back().slots["detail"] = References{};
    CHECK(faultOf(q).code == "mirror.detail");
}
