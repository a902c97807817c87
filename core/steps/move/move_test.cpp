#include "tests/support/two_bodies.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf moveProbe("move", [] {
    Probe p{cup(), 0};
    p.step = add(p.part, "move", {{"body", std::string("cup")}}).id;
    p.shows = {{"right", text("right", "11 mm")},
               {"what", text("what", "a copy of")},
               {"about", {{"way", std::string("about")}, {"line", std::string("cross axis")}}},
               {"along", {{"way", std::string("along")}, {"distance", std::string("7 mm")}}}};
    p.hides = {{"angle of a shift", text("angle", "30°")}, {"line of a shift", text("line", "cross axis")}};
    return p;
});

Part moved(const Slots& slots) {
    Part p = twoBlocks({40, 0});
    Slots s = slots;
    s["body"] = std::string("left");
    add(p, "move", s);
    return p;
}

void checkBox(const Body& body, Vec3 low, Vec3 high) {
    const Box box = envelope(body);
    CHECK(length(box.low - low) < 1e-6);
    CHECK(length(box.high - high) < 1e-6);
}

} // namespace

TEST_CASE("A body is shifted by three lengths, along an axis, or turned about one") {
    const auto at = [](const Slots& s) { return built(moved(s)).state.body("left"); };
    checkBox(
        at({{"right", std::string("1 mm")}, {"back", std::string("-2 mm")}, {"up", std::string("3 mm")}}),
        {1, -2, 3}, {21, 18, 13});
    checkBox(at({{"way", std::string("along")},
                 {"line", std::string("depth axis")},
                 {"distance", std::string("5 mm")}}),
             {0, 5, 0}, {20, 25, 10});
    checkBox(at({{"way", std::string("about")},
                 {"line", std::string("upright axis")},
                 {"angle", std::string("90°")}}),
             {-20, 0, 0}, {0, 20, 10});
    // About an edge of the other body.
    const Part p = moved({});
    const std::string edge = "where side " + std::to_string(p.steps[2].drawing("drawing").strokes[3].id) +
                             " of step 4 meets start of step 4";
    checkBox(at({{"way", std::string("about")}, {"line", edge}, {"angle", std::string("180°")}}),
             {60, 0, -10}, {80, 20, 0});
}

TEST_CASE("What was moved keeps its names; a copy is a body of its own whose faces are twins") {
    Part p = moved({{"right", std::string("7 mm")}});
    const std::string side =
        "side " + std::to_string(p.steps[0].drawing("drawing").strokes[1].id) + " of step 2";
    auto r = built(p);
    CHECK(resolveFaces(r.state.body("left"), **parseFaceRef(side))->items.size() == 1);
    p.steps.back().slots["what"] = std::string("a copy of");
    p.steps.back().slots["name"] = std::string("third");
    r = built(p);
    REQUIRE(r.state.bodies.size() == 3);
    checkBox(r.state.body("left"), {0, 0, 0}, {20, 20, 10});
    checkBox(r.state.body("third"), {7, 0, 0}, {27, 20, 10});
    CHECK(volumeOf(r, "third") == Approx(4000));
    CHECK_FALSE(resolveFaces(r.state.body("third"), **parseFaceRef(side)).ok());
    CHECK(resolveFaces(r.state.body("third"), **parseFaceRef("twin of " + side))->items.size() == 1);
    // A step that names a face of the first does not go over to the copy.
    add(p, "fillet",
        {{"edges", References{"where " + side + " meets end of step 2"}}, {"radius", std::string("2 mm")}});
    r = built(p);
    CHECK(volumeOf(r, "left") < 4000 - 1);
    CHECK(volumeOf(r, "third") == Approx(4000));
}
