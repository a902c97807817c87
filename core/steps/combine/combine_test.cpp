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
