#include "tests/support/two_bodies.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf combineProbe("combine", [] {
    Probe p{twoBlocks({15, 0}), 0};
    p.step = add(p.part, "combine", {{"body", std::string("left")}, {"tool", std::string("right")}}).id;
    p.shows = {{"how", text("how", "less")}, {"keep", text("keep", "keeping it")}};
    return p;
});

RegenResult combined(const std::string& how, const std::string& keep = "using it up") {
    Part p = twoBlocks({15, 0});
    add(p, "combine",
        {{"body", std::string("left")}, {"how", how}, {"tool", std::string("right")}, {"keep", keep}});
    return built(p);
}

} // namespace

TEST_CASE("Two bodies are joined, one is taken from the other, or what they share is kept") {
    // Blocks of 20 by 20 by 10 that share 5 by 20 by 10.
    CHECK(volumeOf(combined("joined with"), "left") == Approx(8000 - 1000));
    CHECK(volumeOf(combined("less"), "left") == Approx(3000));
    CHECK(volumeOf(combined("where it meets"), "left") == Approx(1000));
    CHECK(combined("less").state.bodies.size() == 1);
    const auto kept = combined("less", "keeping it");
    REQUIRE(kept.state.bodies.size() == 2);
    CHECK(volumeOf(kept, "right") == Approx(4000));
}

TEST_CASE("Faces of both bodies keep their names when they are combined") {
    const auto r = combined("joined with");
    const Body& body = r.state.body("left");
    for (const char* face : {"end of step 2", "end of step 4", "start of step 2", "start of step 4"})
        CHECK(resolveFaces(body, **parseFaceRef(face))->items.size() >= 1);
}

TEST_CASE("Bodies that cannot be combined say why") {
    Part p = twoBlocks({50, 0});
    add(p, "combine", {{"body", std::string("left")}, {"tool", std::string("right")}});
    CHECK(faultOf(p).code == "combine.apart");
    p.steps.back().slots["tool"] = std::string("left");
    CHECK(faultOf(p).code == "combine.same");
    p.steps.back().slots["tool"] = std::string("no such");
    CHECK(faultOf(p).code == "body.lost");
}

TEST_CASE("A body is joined with all that it touches, and with what these touch; others are left alone") {
    // A bar, and posts on it that are bodies of their own; a cap on the first post; a block aside.
    Part p;
    const auto extruded = [&](const char* name, Vec2 low, Vec2 high, const char* from, const char* tall) {
        add(p, "draw",
            {{"name", std::string("foot of ") + name},
             {"plane", std::string("ground")},
             {"drawing", DrawingSlot(rectangle(low, high))}});
        add(p, "extrude",
            {{"outline", std::string("foot of ") + name},
             {"begin", std::string("a level at")},
             {"level", std::string(from)},
             {"length", std::string(tall)},
             {"does", std::string("as new body")},
             {"body", std::string(name)}});
    };
    extruded("cap", {-2, -2}, {8, 8}, "20 mm", "2 mm"); // made first: it is reached by way of a post
    extruded("bar", {0, 0}, {100, 6}, "0 mm", "10 mm");
    extruded("post", {0, 0}, {6, 6}, "10 mm", "10 mm");
    extruded("aside", {200, 0}, {210, 10}, "0 mm", "10 mm");
    add(p, "repeat",
        {{"subject", std::string("the body")},
         {"body", std::string("post")},
         {"becomes", std::string("as bodies of their own")},
         {"count", std::string("6")},
         {"spacing", std::string("over")},
         {"span", std::string("94 mm")}});
    CHECK(built(p).state.bodies.size() == 9);
    add(p, "combine");
    CHECK(p.steps.back().text("tool").empty()); // there are more than have names of their own
    p.steps.back().slots["body"] = std::string("bar");
    CHECK(sentenceText(p.steps.back(), p) == "Combine bar, joined with what it touches, using it up.");
    const auto r = built(p);
    CHECK(r.state.bodies.size() == 2);
    CHECK(volumeOf(r, "bar") == Approx(6000 + 6 * 360 + 200));
    CHECK(resolveFaces(r.state.body("bar"), **parseFaceRef("end of step 2"))->items.size() == 1);
    // Those that are named, and no others.
    p.steps.back().slots["tool"] = std::string("post | cap");
    CHECK(volumeOf(built(p), "bar") == Approx(6000 + 360 + 200));
    p.steps.back().slots["tool"] = std::string("post | aside");
    CHECK(faultOf(p).code == "combine.apart");
    p.steps.back().slots["body"] = std::string("aside");
    p.steps.back().slots["tool"] = std::string();
    CHECK(faultOf(p).code == "combine.apart");
}
