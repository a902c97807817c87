#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// A plate of 200 x 120, 10 high, with a square pocket of 8 in its top, 4 deep, and a line beside it.
struct Plate {
    Part part = block(rectangle({-100, -60}, {100, 60}), "10 mm");
    std::string line;
    explicit Plate(Vec2 at, const Drawing& along) {
        add(part, "draw",
            {{"name", std::string("pocket")},
             {"plane", std::string("end of step 2")},
             {"drawing", DrawingSlot(rectangle(at - Vec2{4, 4}, at + Vec2{4, 4}))}});
        add(part, "extrude",
            {{"length", std::string("4 mm")},
             {"way", std::string("backward")},
             {"does", std::string("taking from")}});
        line = addDrawing(part, along, "end of step 2");
    }
    Step& repeat(const Slots& more) {
        Slots slots{{"what", References{"everything of step 4"}},
                    {"way", std::string("along")},
                    {"curve", References{line}}};
        for (const auto& [key, value] : more) slots[key] = value;
        return add(part, "repeat", slots);
    }
};
constexpr double kPocket = 8 * 8 * 4;

/// Where the floor of the copy at a place is.
Vec3 floorOf(const RegenResult& r, int place) {
    const Body& body = r.state.bodies.begin()->second.value;
    const auto found =
        resolveFaces(body, **parseFaceRef("copy at place " + std::to_string(place) + " of end of step 4"));
    REQUIRE(found.ok());
    REQUIRE(found->items.size() == 1);
    GProp_GProps g;
    BRepGProp::SurfaceProperties(body.shape().faces(found->items.front() + 1), g);
    return toVec(g.CentreOfMass());
}

} // namespace

TEST_CASE("Along a ring copies stand all the way round, turning with it or not") {
    Plate p({40, 0}, circleLine(40));
    Step& repeat = p.repeat({{"count", std::string("9")}});
    for (const char* turning : {"turning with it", "all the same way"}) {
        repeat.slots["turning"] = std::string(turning);
        const auto r = built(p.part);
        CHECK(volumeOf(r) == Approx(240000 - 9 * kPocket).epsilon(1e-9));
        for (int k = 1; k < 9; ++k) {
            const Vec3 at = floorOf(r, k + 1);
            CHECK(length(at - Vec3{40 * std::cos(2 * kPi * k / 9), 40 * std::sin(2 * kPi * k / 9), 6}) <
                  1e-6);
        }
    }
    // As many as fit: from middle to middle at least as much as one is wide, and the gap.
    repeat.slots["turning"] = std::string("turning with it");
    repeat.slots["spread"] = std::string("filling");
    repeat.slots["gap"] = std::string("5 mm");
    const int fit = static_cast<int>(2 * kPi * 40 / 13);
    CHECK(volumeOf(built(p.part)) == Approx(240000 - fit * kPocket).epsilon(1e-9));
}

TEST_CASE("Along an open curve the last copy stands at its end, or every so far from the one before") {
    Drawing arc;
    drawArcThrough(arc, {-60, 0}, {0, 40}, {60, 0}); // of the radius 65
    Plate p({-60, 0}, arc);
    const double radius = 65, half = std::asin(60.0 / 65), length1 = 2 * half * radius;
    Step& repeat = p.repeat({{"count", std::string("7")}});
    const auto r = built(p.part);
    CHECK(volumeOf(r) == Approx(240000 - 7 * kPocket).epsilon(1e-9));
    CHECK(length(floorOf(r, 7) - Vec3{60, 0, 6}) < 1e-5);
    CHECK(length(floorOf(r, 4) - Vec3{0, 40, 6}) < 1e-5);
    repeat.slots["spread"] = std::string("every");
    repeat.slots["pitch"] = std::string("20 mm");
    const auto every = built(p.part);
    const double angle = kPi / 2 + half - 3 * 20 / radius;
    CHECK(length(floorOf(every, 4) - Vec3{radius * std::cos(angle), -25 + radius * std::sin(angle), 6}) <
          1e-5);
    repeat.slots["count"] = std::string("20");
    const Error e = faultOf(p.part);
    CHECK(e.code == "repeat.span");
    REQUIRE(e.remedies.size() == 1);
    CHECK(e.remedies[0].value == std::to_string(1 + static_cast<int>(length1 / 20)));
    repeat.slots["count"] = e.remedies[0].value;
    built(p.part);
    // Evenly, but too near to each other.
    repeat.slots["spread"] = std::string("evenly to its end");
    repeat.slots["count"] = std::string("40");
    const Error near = faultOf(p.part);
    CHECK(near.code == "repeat.overlap");
    REQUIRE(near.remedies.size() == 1);
    repeat.slots["count"] = near.remedies[0].value;
    built(p.part);
}

TEST_CASE("What runs out at a border is repeated, too: tabs at a floor, notches in a rim") {
    // A ring of 60 to 75, 20 high.
    Drawing rings = circleLine(75);
    rings.draw(StrokeKind::Circle, {{0, 0}}, {60});
    Part p = block(rings, "20 mm");
    const double ring = volumeOf(built(p));
    SECTION("tabs that begin at the floor") {
        add(p, "draw",
            {{"name", std::string("tab")},
             {"plane", std::string("ground")},
             {"drawing", DrawingSlot(rectangle({54, -4}, {65, 4}))}});
        add(p, "extrude",
            {{"outline", std::string("tab")},
             {"length", std::string("6 mm")},
             {"does", std::string("adding to")}});
        const double one = volumeOf(built(p)) - ring;
        add(p, "repeat",
            {{"what", References{"everything of step 4"}},
             {"way", std::string("around")},
             {"count", std::string("6")}});
        const auto r = built(p);
        CHECK(volumeOf(r) - ring == Approx(6 * one).epsilon(1e-7));
        CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
        CHECK(resolveFaces(r.state.bodies.begin()->second.value,
                           **parseFaceRef("copy at place 3 of end of step 4"))
                  ->items.size() == 1);
    }
    SECTION("notches through the rim") {
        add(p, "draw",
            {{"name", std::string("notch")},
             {"plane", std::string("end of step 2")},
             {"drawing", DrawingSlot(rectangle({55, -5}, {80, 5}))}});
        add(p, "extrude",
            {{"outline", std::string("notch")},
             {"length", std::string("7 mm")},
             {"way", std::string("backward")},
             {"does", std::string("taking from")}});
        const double one = ring - volumeOf(built(p));
        add(p, "repeat",
            {{"what", References{"everything of step 4"}},
             {"way", std::string("around")},
             {"count", std::string("8")}});
        const auto r = built(p);
        CHECK(ring - volumeOf(r) == Approx(8 * one).epsilon(1e-7));
        CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    }
}

TEST_CASE("Without a curve it says what to pick; a body goes along one, too") {
    Plate p({40, 0}, circleLine(40));
    Step& repeat = p.repeat({});
    repeat.slots["curve"] = References{};
    CHECK(faultOf(p.part).code == "repeat.curve");
    Part q = block(rectangle({36, -4}, {44, 4}), "10 mm");
    const std::string line = addDrawing(q, circleLine(40), "ground");
    add(q, "repeat",
        {{"subject", std::string("the body")},
         {"becomes", std::string("as bodies of their own")},
         {"way", std::string("along")},
         {"curve", References{line}},
         {"count", std::string("5")}});
    const auto r = built(q);
    CHECK(r.state.bodies.size() == 5);
}
