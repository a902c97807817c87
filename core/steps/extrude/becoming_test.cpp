// What becomes of a solid where there are several bodies, and of the pieces that it leaves.

#include "tests/support/two_bodies.hpp"

using namespace gc;
using namespace gc::test;

namespace {

/// A bar of 6 by 6 through the height from 2 to 8, from x = -5 on; blocks stand at 0 to 20 and from `gap` on.
Part withBar(double gap, const std::string& does, double length) {
    Part p = twoBlocks({gap, 0});
    add(p, "draw",
        {{"name", std::string("bar")},
         {"plane", std::string("side")},
         {"drawing", DrawingSlot(rectangle({7, 2}, {13, 8}))}});
    add(p, "extrude",
        {{"outline", std::string("bar")},
         {"begin", std::string("a level at")},
         {"level", std::string("-5 mm")},
         {"length", formatNumber(length) + " mm"},
         {"does", does}});
    return p;
}

constexpr double kBlock = 20 * 20 * 10;

} // namespace

TEST_CASE("Of several bodies those are worked on that the solid meets, and no others") {
    const auto both = built(withBar(30, "taking from", 80));
    CHECK(volumeOf(both, "left") == Approx(kBlock - 20 * 36));
    CHECK(volumeOf(both, "right") == Approx(kBlock - 20 * 36));
    const auto one = built(withBar(30, "taking from", 20));
    CHECK(volumeOf(one, "left") == Approx(kBlock - 15 * 36));
    CHECK(volumeOf(one, "right") == Approx(kBlock));
    CHECK(one.steps.back().bodies == std::vector{ThingId{2, 0}});
    CHECK(faultOf(withBar(30, "taking from", 4)).code == "becoming.none");
    CHECK(faultOf(withBar(30, "adding to", 4)).code == "becoming.none");
}

TEST_CASE("What meets two bodies joins them, and says so") {
    Part p = withBar(30, "adding to", 80);
    const auto r = built(p);
    REQUIRE(r.state.bodies.size() == 1);
    CHECK(volumeOf(r, "left") == Approx(2 * kBlock + (80 - 40) * 36));
    REQUIRE(r.steps.back().notes.size() == 1);
    CHECK(r.steps.back().notes.front().text() == "It joins left and right into one body.");
    p.steps.back().slots["target"] = std::string("left");
    const auto only = built(p);
    CHECK(only.state.bodies.size() == 2);
    CHECK(volumeOf(only, "left") == Approx(kBlock + 60 * 36));
}

TEST_CASE("Bodies that only lie against each other are not joined by what grows on one of them") {
    Part p = twoBlocks({20, 0}); // they share a wall
    add(p, "draw",
        {{"name", std::string("peg")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({5, 5}, {20, 15}))}});
    add(p, "extrude",
        {{"outline", std::string("peg")},
         {"length", std::string("30 mm")},
         {"does", std::string("adding to")}});
    const auto r = built(p);
    CHECK(r.state.bodies.size() == 2);
    CHECK(volumeOf(r, "left") == Approx(kBlock + 15 * 10 * 20));
}

TEST_CASE("Bodies are listed by name; each must be met, and a new name goes everywhere") {
    Part p = withBar(30, "taking from", 20);
    p.steps.back().slots["target"] = std::string("left | right");
    const Error e = faultOf(p);
    CHECK(e.code == "combine.apart");
    CHECK(e.sentence.text().find("Right: ") == 0); // a sentence begins large
    p.steps.back().slots["length"] = std::string("80 mm");
    CHECK(volumeOf(built(p), "right") == Approx(kBlock - 20 * 36));
    CHECK(sentenceText(p.steps.back(), p).find("left and right") != std::string::npos);
    CHECK(renameBody(p, {4, 0}, "wall | door") != "");
    CHECK(renameBody(p, {4, 0}, "door").empty());
    CHECK(p.steps.back().text("target") == "left | door");
    p.steps.back().slots["target"] = std::string("left | gate");
    CHECK(faultOf(p).code == "becoming.body");
}

TEST_CASE("A cut that leaves pieces offers to keep them, and then they are bodies of their own") {
    Part p = block();
    add(p, "draw",
        {{"name", std::string("slot")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({5, -100}, {7, 100}))}});
    add(p, "extrude",
        {{"outline", std::string("slot")},
         {"length", std::string("100 mm")},
         {"does", std::string("taking from")}});
    const Error e = faultOf(p);
    CHECK(e.code == "extrude.pieces");
    REQUIRE(e.remedies.size() == 1);
    CHECK_FALSE(e.remedies.front().tried);
    typeIntoSlot(p, e.remedies.front().step, e.remedies.front().slot, e.remedies.front().value);
    p.steps.back().slots["body"] = std::string("end piece");
    const auto r = built(p);
    REQUIRE(r.state.bodies.size() == 2);
    const double left = volumeOf(r, nameGiven(p.steps[1], Thing::Body)), right = volumeOf(r, "end piece");
    CHECK(left > right); // the larger one goes on under its name
    CHECK(left + right == Approx(40 * 30 * 20 - 2 * 30 * 20));
    CHECK(sentenceText(p.steps.back(), p).find("its pieces as bodies of their own called end piece") !=
          std::string::npos);
}

TEST_CASE("What ends short of the body offers the length that reaches it") {
    Part p = block(); // 20 high on the ground
    add(p, "plane", {{"name", std::string("above")}, {"distance", std::string("35 mm")}});
    add(p, "draw",
        {{"name", std::string("stem")},
         {"plane", std::string("above")},
         {"drawing", DrawingSlot(rectangle({-8, -8}, {8, 8}))}});
    add(p, "extrude",
        {{"outline", std::string("stem")},
         {"length", std::string("12 mm")},
         {"way", std::string("backward")},
         {"does", std::string("adding to")}});
    const Error e = faultOf(p);
    REQUIRE(e.code == "combine.gap");
    REQUIRE(e.place);
    CHECK(e.place->z == Approx(23));
    REQUIRE(e.remedies.size() == 1);
    CHECK(e.remedies.front().value == "15 mm");
    typeIntoSlot(p, e.remedies.front().step, e.remedies.front().slot, e.remedies.front().value);
    CHECK(volumeOf(built(p)) == Approx(40 * 30 * 20 + 16 * 16 * 15));
}
