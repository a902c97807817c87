// The sizes that can be dragged in the stand lie where the solid has its ends.

#include "core/base/angles.hpp"
#include "core/shape/places.hpp"
#include "tests/support/built.hpp"
#include "tests/support/handle_looks.hpp"

using namespace gc;
using namespace gc::test;

TEST_CASE("The arrow of an extrude ends at its end, whichever way it goes") {
    Part p = block(); // 40 by 30 about the origin, 20 high
    Step& s = p.steps.back();
    CHECK(tipOf(handleOf(built(p), "length")).z == Approx(20));
    CHECK(tipOf(handleOf(built(p), "length")).x == Approx(0).margin(1e-9));
    CHECK(handleOf(built(p), "length").turnsRound == "way");
    s.slots["way"] = std::string("backward");
    CHECK(tipOf(handleOf(built(p), "length")).z == Approx(-20));
    s.slots["way"] = std::string("both ways together");
    CHECK(tipOf(handleOf(built(p), "length")).z == Approx(10));
    s.slots["way"] = std::string("forward, and back by");
    s.slots["second"] = std::string("7 mm");
    CHECK(tipOf(handleOf(built(p), "second")).z == Approx(-7));
    s.slots["begin"] = std::string("a level at");
    s.slots["level"] = std::string("5 mm");
    const auto r = built(p);
    CHECK(tipOf(handleOf(r, "level")).z == Approx(5));
    CHECK(tipOf(handleOf(r, "length")).z == Approx(25));
    CHECK(tipOf(handleOf(r, "second")).z == Approx(-2));
}

TEST_CASE("The arc of a lean ends on the leaning side") {
    Part p = block();
    for (const char* sides : {"leaning inward by", "leaning outward by"}) {
        p.steps.back().slots["sides"] = std::string(sides);
        p.steps.back().slots["lean"] = std::string("10°");
        const auto r = built(p);
        // A ray from the middle through the end of the arc meets the wall at the arc's end.
        const Vec3 end = tipOf(handleOf(r, "lean"));
        const Body& body = r.state.bodies.rbegin()->second.value;
        double nearest = 1e300;
        for (int f = 0; f < faceCount(body); ++f)
            if (const auto at = nearestOnFace(body, f, end))
                nearest = std::min(nearest, length(at->at - end));
        const double height = 20, past = height - height * std::cos(10 * kPi / 180);
        CHECK(nearest < 1e-6 + past); // along the side it is as long as the side is high
        CHECK(std::fabs(end.z - height * std::cos(10 * kPi / 180)) < 1e-9);
    }
}

TEST_CASE("The arc of a turn ends where the turned area ends") {
    Part p;
    add(p, "draw",
        {{"name", std::string("foot")},
         {"plane", std::string("front")},
         {"drawing", DrawingSlot(rectangle({10, 0}, {16, 8}))}});
    add(p, "revolve",
        {{"outline", std::string("foot")},
         {"angle", std::string("90°")},
         {"does", std::string("as new body")}});
    const std::vector<std::tuple<const char*, double, double>> ends{
        {"forward", 0.0, 13.0},
        {"backward", 0.0, -13.0},
        {"both ways together", 13 * std::cos(kPi / 4), 13 * std::sin(kPi / 4)}};
    for (const auto& [way, x, y] : ends) {
        p.steps.back().slots["way"] = std::string(way);
        const Vec3 end = tipOf(handleOf(built(p), "angle"));
        CHECK(end.x == Approx(x).margin(1e-9));
        CHECK(end.y == Approx(y).margin(1e-9));
        CHECK(end.z == Approx(4));
    }
}

TEST_CASE("What is taken away is shown, and so is what cannot be added") {
    Part p = block();
    add(p, "draw",
        {{"name", std::string("hole")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({-5, -5}, {5, 5}))}});
    add(p, "extrude",
        {{"outline", std::string("hole")},
         {"length", std::string("50 mm")},
         {"does", std::string("taking from")}});
    const auto taken = built(p);
    REQUIRE_FALSE(taken.steps.back().aids.tool.empty());
    CHECK(taken.steps.back().aids.takes);
    CHECK(massProperties(taken.steps.back().aids.tool, Density(1e-3))->volume == Approx(10 * 10 * 50));
    p.steps.back().slots["does"] = std::string("adding to");
    p.steps.back().slots["begin"] = std::string("a level at");
    p.steps.back().slots["level"] = std::string("90 mm");
    const auto r = Engine().regenerate(p);
    REQUIRE_FALSE(r.steps.back().ok);
    CHECK_FALSE(r.steps.back().aids.tool.empty());
    CHECK_FALSE(r.steps.back().aids.takes);
}

TEST_CASE("What is shown is found again with a result that was built before") {
    Part p = block();
    Engine engine;
    const auto first = engine.regenerate(p), again = engine.regenerate(p);
    REQUIRE(again.steps.back().cached);
    CHECK(handleOf(again, "length").value == handleOf(first, "length").value);
}

TEST_CASE("Where it ends short of a face or beyond it, the arrow goes from there") {
    Part p = block(); // to 20 over the ground
    add(p, "draw",
        {{"plane", std::string("ground")},
         {"name", std::string("post")},
         {"drawing", DrawingSlot(rectangle({40, 40}, {50, 50}))}});
    add(p, "extrude",
        {{"outline", std::string("post")},
         {"end", std::string("short of")},
         {"face", References{"end of step 2"}},
         {"gap", std::string("3 mm")},
         {"does", std::string("as new body")}});
    CHECK(tipOf(handleOf(built(p), "gap")).z == Approx(17));
    CHECK(handleOf(built(p), "gap").turnsInto == "beyond");
    p.steps.back().slots["end"] = std::string("beyond");
    CHECK(tipOf(handleOf(built(p), "gap")).z == Approx(23));
    CHECK(handleOf(built(p), "gap").turnsInto == "short of");
}
