/// \file Full rounds that go in a mitre round corners: what they take is their section by the way of its
/// middle.

#include "core/base/angles.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

void roundFully(Part& p, const std::string& face) {
    add(p, "fillet", {{"how", std::string("fully over")}, {"over", References{face}}});
}
/// What a round of radius r takes between upright walls, for each mm of the middle between them.
double takenBetween(double r) {
    return 2 * r * r - kPi * r * r / 2;
}
/// The volume that the last step took; the mesh says the same.
double takenByLast(Part p) {
    const auto after = built(p);
    p.steps.pop_back();
    CHECK(meshedVolume(after.state.bodies.rbegin()->second.value) == Approx(volumeOf(after)).epsilon(2e-4));
    return volumeOf(built(p)) - volumeOf(after);
}
int facesOf(const RegenResult& r) {
    return int(makeMesh(r.state.bodies.rbegin()->second.value, {0.1, 0.5})->faces.size());
}

} // namespace

TEST_CASE("The lip of a square box is rounded fully round its corners") {
    Part p = block(rectangle({0, 0}, {60, 40}), "30 mm");
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("4 mm")}});
    roundFully(p, "rim of end of step 2");
    CHECK(takenByLast(p) == Approx(2 * (56 + 36) * takenBetween(2)).epsilon(1e-9));
    // Floor, ground, four walls outside and four inside, four pieces of the round.
    const auto r = built(p);
    CHECK(facesOf(r) == 14);
    // All of it is called by the lip.
    const auto lip = resolveFaces(r.state.bodies.rbegin()->second.value,
                                  **parseFaceRef("round over rim of end of step 2"));
    REQUIRE(lip.ok());
    CHECK(lip->items.size() == 4);
    CHECK(lip->pieces == 1);
}

TEST_CASE("A lip of six walls, and one that leans") {
    Drawing six = closedLine({{30, 0},
                              {15, 25.98076211353316},
                              {-15, 25.98076211353316},
                              {-30, 0},
                              {-15, -25.98076211353316},
                              {15, -25.98076211353316}});
    Part p = block(six, "30 mm");
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("3 mm")}});
    roundFully(p, "rim of end of step 2");
    // The middle of the wall is a hexagon, too: its sides shorter by twice 1.5 mm times tan 30.
    CHECK(takenByLast(p) == Approx(6 * (30 - 3 * std::tan(kPi / 6)) * takenBetween(1.5)).epsilon(1e-7));

    // Walls that lean inward: with u up along them and v across from the ball's middle, the lip lies at
    // u = r / cos + v tan and the arc at u = sqrt(r^2 - v^2); where the middle of the area lies tells the
    // way.
    const double lean = 5 * kPi / 180, r = 2, up = r / std::cos(lean), slope = std::tan(lean);
    Part q = block(rectangle({0, 0}, {60, 40}), "30 mm",
                   {{"sides", std::string("leaning inward by")}, {"lean", std::string("5 deg")}});
    add(q, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("4 mm")}});
    roundFully(q, "rim of end of step 2");
    const double area = 2 * r * up - kPi * r * r / 2, cubes = 2 * r * r * r / 3;
    const double v = slope * cubes / area,
                 u = (2 * r * (up * up - r * r) + cubes * (1 + slope * slope)) / (2 * area);
    const auto inward = [&](double along, double across) {
        return along * std::sin(lean) + across * std::cos(lean);
    };
    const double off = inward(u, v) - inward(up - r * slope, -r);
    CHECK(takenByLast(q) == Approx(area * (2 * (60 + 40) - 8 * (30 * slope + off))).epsilon(1e-7));
}

TEST_CASE("The top of a rib with corners is rounded fully from end to end") {
    Part p = block(closedLine({{0, 0}, {40, 0}, {40, 4}, {4, 4}, {4, 30}, {0, 30}}), "20 mm");
    roundFully(p, "end of step 2");
    CHECK(takenByLast(p) == Approx((38 + 28) * takenBetween(2)).epsilon(1e-9));
    Part u =
        block(closedLine({{0, 0}, {40, 0}, {40, 30}, {36, 30}, {36, 4}, {4, 4}, {4, 30}, {0, 30}}), "20 mm");
    roundFully(u, "end of step 2");
    CHECK(takenByLast(u) == Approx((28 + 36 + 28) * takenBetween(2)).epsilon(1e-9));
}

TEST_CASE("Corners that are round beside others that are not") {
    Part p = block(rectangle({0, 0}, {60, 40}), "30 mm");
    add(p, "fillet",
        {{"edges", References{"where " + side(p, 0) + " meets " + side(p, 1)}},
         {"radius", std::string("9 mm")}});
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("4 mm")}});
    roundFully(p, "rim of end of step 2");
    const double way = 2 * (56 + 36) - 2 * 7 + kPi / 2 * 7;
    CHECK(takenByLast(p) == Approx(way * takenBetween(2)).epsilon(1e-7));
}

TEST_CASE("Corners that no mitre fits, and walls that are too low, say so") {
    // Round outside, sharp inside.
    Part p = block(rectangle({0, 0}, {60, 40}), "30 mm");
    References uprights;
    for (std::size_t i = 0; i < 4; ++i)
        uprights.push_back("where " + side(p, i) + " meets " + side(p, (i + 1) % 4));
    add(p, "fillet", {{"edges", uprights}, {"radius", std::string("3 mm")}});
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("4 mm")}});
    roundFully(p, "rim of end of step 2");
    const Error corner = faultOf(p);
    CHECK(corner.code == "fullround.corner");
    CHECK(corner.place.has_value());
    CHECK(!corner.culprits.empty());
    // Arms of different width.
    Part q = block(closedLine({{0, 0}, {40, 0}, {40, 4}, {7, 4}, {7, 30}, {0, 30}}), "20 mm");
    roundFully(q, "end of step 2");
    CHECK(faultOf(q).code == "fullround.shape");
    Part low = block(closedLine({{0, 0}, {40, 0}, {40, 4}, {4, 4}, {4, 30}, {0, 30}}), "1.5 mm");
    roundFully(low, "end of step 2");
    CHECK(faultOf(low).code == "fullround.low");
}
