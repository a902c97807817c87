#include "core/base/angles.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf revolveProbe("revolve", [] {
    Probe p{cup(), 2};
    p.shows = {{"angle", text("angle", "300°")},
               {"about", text("about", "upright axis")},
               {"way", {{"angle", std::string("90°")}, {"way", std::string("both ways together")}}},
               {"second",
                {{"angle", std::string("90°")},
                 {"way", std::string("forward, and back by")},
                 {"second", std::string("20°")}}}};
    p.hides = {{"way of a whole turn", text("way", "backward")},
               {"face of a turn by an angle", {{"face", References{"top of step 2"}}}},
               {"sense of a turn by an angle", text("sense", "backward")}};
    return p;
});

/// A rectangle in the front plane, from the axis out or beside it.
Part drawn(Vec2 low, Vec2 high) {
    Part p;
    add(p, "draw", {{"drawing", DrawingSlot(rectangle(low, high))}});
    return p;
}

Box boxOf(const RegenResult& r) {
    return envelope(r.state.bodies.rbegin()->second.value);
}

} // namespace

TEST_CASE("A part of a turn has its share of the whole, and its two flat ends are named") {
    Part p = cup();
    p.steps.pop_back();
    const double whole = volumeOf(built(p), "cup");
    p.findStep(2)->slots["angle"] = std::string("75°");
    const auto part = built(p);
    CHECK(volumeOf(part, "cup") == Approx(whole * 75 / 360).epsilon(1e-9));
    for (const char* end : {"start of step 2", "end of step 2"})
        CHECK(resolveFaces(part.state.body("cup"), **parseFaceRef(end))->items.size() == 1);
}

TEST_CASE("A turn goes forward, backward, both ways together or by two angles") {
    Part p = drawn({5, 0}, {10, 4});
    const double whole = kPi * (100 - 25) * 4;
    for (const auto& [way, from, to] : {std::tuple{"forward", 0.0, 40.0},
                                        {"backward", -40.0, 0.0},
                                        {"both ways together", -20.0, 20.0},
                                        {"forward, and back by", -25.0, 40.0}}) {
        Part q = p;
        add(q, "revolve",
            {{"angle", std::string("40°")}, {"way", std::string(way)}, {"second", std::string("25°")}});
        const auto r = built(q);
        INFO(way);
        CHECK(volumeOf(r) == Approx(whole * (to - from) / 360).epsilon(1e-9));
        // The front plane is seen from -y: forward about the upright axis is toward +y.
        CHECK(boxOf(r).high.y == Approx(10 * std::sin(std::max(0.0, to) * kPi / 180)).margin(1e-6));
        CHECK(boxOf(r).low.y == Approx(10 * std::sin(std::min(0.0, from) * kPi / 180)).margin(1e-6));
    }
    add(p, "revolve",
        {{"angle", std::string("200°")},
         {"way", std::string("forward, and back by")},
         {"second", std::string("170°")}});
    CHECK(faultOf(p).code == "revolve.over");
}

TEST_CASE("About any axis in the drawing's plane: Pappus' rule holds, on either side of it") {
    for (const auto& [about, radius] : {std::pair{"cross axis", 12.0}, {"upright axis", 7.5}}) {
        Part p = drawn({5, 10}, {10, 14});
        add(p, "revolve", {{"about", std::string(about)}});
        CHECK(volumeOf(built(p)) == Approx(2 * kPi * radius * 20).epsilon(1e-9));
        Part q = drawn({-10, -14}, {-5, -10});
        add(q, "revolve", {{"about", std::string(about)}, {"angle", std::string("90°")}});
        CHECK(volumeOf(built(q)) == Approx(kPi / 2 * radius * 20).epsilon(1e-9));
    }
    // About a drawn line that leans, beside the area: its middle is so far from it.
    Part p;
    Drawing d = rectangle({5, 10}, {10, 14});
    const int line = d.draw(StrokeKind::Line, {{0, 0}, {3, 20}});
    d.findStroke(line)->helper = true;
    add(p, "draw", {{"drawing", DrawingSlot(d)}});
    add(p, "revolve", {{"about", "stroke " + std::to_string(line) + " of step 1"}});
    const double away = cross(Vec2{7.5, 12}, Vec2{3, 20}) / std::hypot(3, 20);
    CHECK(volumeOf(built(p)) == Approx(2 * kPi * away * 20).epsilon(1e-9));
    // About an edge of another body, adding to it.
    Part q;
    add(q, "draw", {{"drawing", DrawingSlot(rectangle({0, 0}, {20, 10}))}});
    const int block = add(q, "extrude", text("length", "6 mm")).id;
    add(q, "draw", {{"drawing", DrawingSlot(rectangle({20, 2}, {25, 8}))}});
    const auto strokes = q.steps[0].drawing("drawing").strokes;
    const std::string edge = "where side " + std::to_string(strokes[1].id) + " of step " +
                             std::to_string(block) + " meets start of step " + std::to_string(block);
    add(q, "revolve",
        {{"about", edge},
         {"angle", std::string("90°")},
         {"way", std::string("backward")},
         {"does", std::string("adding to")}});
    CHECK(volumeOf(built(q)) == Approx(20 * 10 * 6 + kPi * 25 * 6 / 4).epsilon(1e-9));
}

TEST_CASE("An area across the axis is refused with the place; an axis out of the plane with how far") {
    Part p = drawn({-2, 0}, {10, 4});
    add(p, "revolve");
    const Error across = faultOf(p);
    CHECK(across.code == "revolve.axis");
    CHECK(across.sentence.text().find("2 mm") != std::string::npos);
    REQUIRE(across.place);
    CHECK(across.place->x == Approx(-2));
    p = drawn({2, 0}, {10, 4});
    add(p, "revolve", {{"about", std::string("depth axis")}});
    CHECK(faultOf(p).code == "revolve.plane");
    p.steps.back().slots["about"] = std::string("no such");
    CHECK(faultOf(p).code == "axis.lost");
}

TEST_CASE("A turn adds, takes and keeps what is common") {
    // A shank of radius 10, 40 high; a groove of 2 by 4 around it; a collar of 3 by 5; then what is within 8.
    Part p = drawn({0, 0}, {10, 40});
    add(p, "revolve");
    const auto ring = [&](Vec2 low, Vec2 high, const char* does) {
        Part q = p;
        add(q, "draw", {{"drawing", DrawingSlot(rectangle(low, high))}});
        add(q, "revolve", {{"outline", q.steps.back().slots["name"]}, {"does", std::string(does)}});
        return volumeOf(built(q));
    };
    const double shank = kPi * 100 * 40;
    CHECK(ring({8, 10}, {12, 14}, "taking from") == Approx(shank - kPi * (100 - 64) * 4).epsilon(1e-9));
    CHECK(ring({8, 10}, {13, 15}, "adding to") == Approx(shank + kPi * (169 - 100) * 5).epsilon(1e-9));
    CHECK(ring({0, 10}, {8, 15}, "common with") == Approx(kPi * 64 * 5).epsilon(1e-9));
}

TEST_CASE("A turn ends at a face, also where that is to be continued") {
    // A wall at x = 0, square to the plane of the drawing, is met after a quarter of a turn.
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({-4, 2}, {0, 30}))}});
    add(p, "extrude", {{"length", std::string("10 mm")}, {"body", std::string("wall")}});
    add(p, "draw", {{"drawing", DrawingSlot(rectangle({5, 0}, {20, 40}))}});
    const std::string face =
        "side " + std::to_string(p.steps[0].drawing("drawing").strokes[1].id) + " of step 2";
    add(p, "revolve",
        {{"outline", p.steps.back().slots["name"]}, {"end", std::string("to")}, {"face", References{face}}});
    CHECK(volumeOf(built(p)) == Approx(kPi * (400 - 25) * 40 / 4).epsilon(1e-8));
    p.steps.back().slots["sense"] = std::string("backward");
    CHECK(volumeOf(built(p)) ==
          Approx(kPi * (400 - 25) * 40 / 4).epsilon(1e-8));     // the plane, on its other side
    p.steps.back().slots["face"] = References{"end of step 2"}; // level: the turn never comes to it whole
    CHECK(faultOf(p).code == "revolve.no-end");
}
