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

namespace {

/// A hole of 10 by 10 taken from the ground up through the block "left", which is 10 high.
Part withPocket(const std::string& length) {
    Part p = twoBlocks({40, 0});
    add(p, "draw",
        {{"name", std::string("pocket")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({5, 5}, {15, 15}))}});
    add(p, "extrude",
        {{"outline", std::string("pocket")}, {"length", length}, {"does", std::string("taking from")}});
    return p;
}

/// A bracket, 20 wide, with a room 30 high between its arms, and a peg that grows in it from the lower arm.
Part withPeg(const std::string& length) {
    Part p;
    Drawing c;
    const std::vector<Vec2> at{{0, 0}, {40, 0}, {40, 5}, {5, 5}, {5, 35}, {40, 35}, {40, 40}, {0, 40}};
    for (std::size_t i = 0; i < at.size(); ++i) c.draw(StrokeKind::Line, {at[i], at[(i + 1) % at.size()]});
    add(p, "draw", {{"name", std::string("bracket line")}, {"drawing", DrawingSlot(c)}});
    add(p, "extrude",
        {{"outline", std::string("bracket line")},
         {"length", std::string("20 mm")},
         {"way", std::string("both ways together")}});
    add(p, "plane", {{"name", std::string("arm")}, {"distance", std::string("5 mm")}});
    add(p, "draw",
        {{"name", std::string("peg")},
         {"plane", std::string("arm")},
         {"drawing", DrawingSlot(rectangle({20, -4}, {28, 4}))}});
    add(p, "extrude",
        {{"outline", std::string("peg")}, {"length", length}, {"does", std::string("adding to")}});
    return p;
}

std::optional<Error> doubtOf(const Part& p) {
    return built(p).steps.back().doubt;
}

} // namespace

TEST_CASE("A wall that is left too thin to be meant is told with its place, and one length takes it away") {
    CHECK_FALSE(doubtOf(withPocket("9 mm")));
    CHECK_FALSE(doubtOf(withPocket("10 mm")));
    CHECK_FALSE(doubtOf(withPocket("14 mm")));
    Part p = withPocket("9.95 mm");
    const auto doubt = doubtOf(p);
    REQUIRE(doubt);
    CHECK(doubt->code == "becoming.sliver");
    CHECK(doubt->sentence.text().find("a wall of only 0.05 mm") != std::string::npos);
    REQUIRE(doubt->place);
    CHECK(doubt->place->z == Approx(9.95));
    REQUIRE(doubt->remedies.size() == 1);
    CHECK(doubt->remedies.front().value == "10 mm");
    typeIntoSlot(p, doubt->remedies.front().step, doubt->remedies.front().slot,
                 doubt->remedies.front().value);
    CHECK_FALSE(doubtOf(p));
    CHECK(volumeOf(built(p), "left") == Approx(kBlock - 100 * 10));
}

TEST_CASE("A gap that is left too thin to be meant is told, and closed by one length") {
    constexpr double kBracket = (40 * 40 - 35 * 30) * 20;
    CHECK_FALSE(doubtOf(withPeg("29 mm")));
    CHECK_FALSE(doubtOf(withPeg("30 mm")));
    Part p = withPeg("29.9 mm");
    const auto doubt = doubtOf(p);
    REQUIRE(doubt);
    CHECK(doubt->sentence.text().find("a gap of only 0.1 mm") != std::string::npos);
    REQUIRE(doubt->remedies.size() == 1);
    typeIntoSlot(p, doubt->remedies.front().step, doubt->remedies.front().slot,
                 doubt->remedies.front().value);
    CHECK_FALSE(doubtOf(p));
    CHECK(volumeOf(built(p)) == Approx(kBracket + 64 * 30));
}

TEST_CASE("A thin wall beside a cut is told where no length mends it") {
    Part p = withPocket("14 mm");
    p.steps[p.steps.size() - 2].slots["drawing"] = DrawingSlot(rectangle({0.1, 5}, {15, 15}));
    const auto doubt = doubtOf(p);
    REQUIRE(doubt);
    CHECK(doubt->sentence.text().find("a wall of only 0.1 mm") != std::string::npos);
    CHECK(doubt->remedies.empty());
}
