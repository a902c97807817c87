// Walls along the strokes of a drawing, moved along and turned.

#include "core/base/angles.hpp"
#include "core/sketch/arcs.hpp"
#include "core/sketch/curve2.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

Slots wall(double thick, const std::string& side, Slots more = {}) {
    more["fill"] = std::string("as a wall of");
    more["thickness"] = formatNumber(thick, 9) + " mm";
    more["wall side"] = side;
    return more;
}

Part drawn(const Drawing& d, const std::string& kind, const Slots& slots) {
    Part p;
    add(p, "draw",
        {{"plane", std::string(kind == "extrude" ? "ground" : "front")}, {"drawing", DrawingSlot(d)}});
    add(p, kind, slots);
    return p;
}

/// Three sides of a box: from (0, 20) down, along, and up to (30, 20).
Drawing channel() {
    Drawing d;
    const Vec2 at[] = {{0, 20}, {0, 0}, {30, 0}, {30, 20}};
    for (int i = 0; i < 3; ++i) d.draw(StrokeKind::Line, {at[i], at[i + 1]});
    return d;
}

} // namespace

TEST_CASE("A wall along open strokes has sharp corners and flat ends") {
    const auto area = [](const std::string& side) {
        return volumeOf(built(drawn(channel(), "extrude", wall(2, side, text("length", "5 mm"))))) / 5;
    };
    CHECK(area("inside") == Approx(2 * 70 - 2 * 4).epsilon(1e-9));
    CHECK(area("outside") == Approx(2 * 70 + 2 * 4).epsilon(1e-9));
    CHECK(area("on both sides") == Approx(2 * 70).epsilon(1e-9));
    // Its faces: where the strokes are, beside them, and at its ends.
    const Part p = drawn(channel(), "extrude", wall(2, "inside", text("length", "5 mm")));
    const auto r = built(p);
    const int second = p.steps[0].drawing("drawing").strokes[1].id;
    for (const std::string& role : {"side " + std::to_string(second), "far side " + std::to_string(second),
                                    std::string("cap 1"), std::string("cap 2")})
        CHECK(resolveFaces(r.state.body("body"), **parseFaceRef(role + " of step 2"))->items.size() == 1);
    CHECK(referenceInWords("far side " + std::to_string(second) + " of step 2", p).find("far side of line") !=
          std::string::npos);
}

TEST_CASE("A wall along closed strokes is a ring, along curves it keeps its thickness") {
    Drawing ring;
    ring.draw(StrokeKind::Circle, {{3, 4}}, {10});
    for (const auto& [side, inner, outer] :
         {std::tuple{"inside", 8.5, 10.0}, {"outside", 10.0, 11.5}, {"on both sides", 9.25, 10.75}})
        CHECK(volumeOf(built(drawn(ring, "extrude", wall(1.5, side, text("length", "4 mm"))))) ==
              Approx(4 * kPi * (outer * outer - inner * inner)).epsilon(1e-9));
    // Beside a smooth open curve of length L that turns by a: an area of L t - a t² / 2 to the inside of the
    // turn.
    Drawing d;
    const int spline = drawSpline(d, {{0, 0}, {12, 7}, {25, 8}, {40, 0}});
    double length = 0;
    const auto curves = curvesOf(d, *d.findStroke(spline));
    for (const Curve2& c : curves) length += c.length();
    const Vec2 a = curves.front().slope(0), b = curves.back().slope(1);
    const double turn = std::fabs(std::atan2(cross(a, b), dot(a, b)));
    CHECK(volumeOf(built(drawn(d, "extrude", wall(1.2, "inside", text("length", "3 mm"))))) / 3 ==
          Approx(length * 1.2 - turn * 1.44 / 2).epsilon(1e-6));
    CHECK(volumeOf(built(drawn(d, "extrude", wall(1.2, "outside", text("length", "3 mm"))))) / 3 ==
          Approx(length * 1.2 + turn * 1.44 / 2).epsilon(1e-6));
    // And leaning.
    Slots s = wall(2, "inside", text("length", "5 mm"));
    s["sides"] = std::string("leaning inward by");
    s["lean"] = std::string("5°");
    const double t = std::tan(5 * kPi / 180), q = 5 * t;
    // The channel's wall: area 132, length 2 * 70 + 2 * 2 - 8 = 136 around, corners 6 convex and 2 reflex: K
    // = 4.
    CHECK(volumeOf(built(drawn(channel(), "extrude", s))) ==
          Approx(132 * 5 - 136 * q * 5 / 2 + 4 * q * q * 5 / 3).epsilon(1e-9));
}

TEST_CASE("An open half profile is turned as a wall: inside is toward the axis") {
    // A cup of straight wall: floor of radius 20 on the ground, up to 30 at a height of 40.
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 0}, {20, 0}});
    d.draw(StrokeKind::Line, {{20, 0}, {20, 40}});
    const auto volume = [&](const std::string& side) {
        return volumeOf(built(drawn(d, "revolve", wall(2, side))));
    };
    CHECK(volume("inside") == Approx(kPi * (400 * 40 - 324 * 38)).epsilon(1e-9));
    CHECK(volume("outside") == Approx(kPi * (484 * 42 - 400 * 40)).epsilon(1e-9));
    // A part of a turn, about another axis: a bent strip.
    Drawing strip;
    strip.draw(StrokeKind::Line, {{10, 5}, {30, 5}});
    Slots s = wall(3, "inside", {{"angle", std::string("90°")}, {"about", std::string("cross axis")}});
    CHECK(volumeOf(built(drawn(strip, "revolve", s))) == Approx(kPi / 4 * (25 - 4) * 20).epsilon(1e-9));
}

TEST_CASE("A wall that cannot be says how thick it may be, or what is in its way") {
    Drawing narrow;
    const Vec2 at[] = {{0, 20}, {0, 0}, {6, 0}, {6, 20}};
    for (int i = 0; i < 3; ++i) narrow.draw(StrokeKind::Line, {at[i], at[i + 1]});
    const Error thick = faultOf(drawn(narrow, "extrude", wall(3.2, "inside")));
    CHECK(thick.code == "wall.fold");
    INFO(thick.sentence.text());
    CHECK((thick.sentence.text().find("3 mm") != std::string::npos ||
           thick.sentence.text().find("2.99") != std::string::npos));
    Drawing branch = channel();
    branch.draw(StrokeKind::Line, {{30, 0}, {45, 0}});
    branch.relate(RelationKind::Coincident,
                  {branch.findStroke(branch.strokes[2].id)->points[0], branch.strokes[3].points[0]});
    CHECK(faultOf(drawn(branch, "extrude", wall(2, "inside"))).code == "wall.tangled");
    CHECK(faultOf(drawn(Drawing(), "extrude", wall(2, "inside"))).code == "wall.none");
    Part p = cup();
    p.steps[1].slots["fill"] = std::string("as a wall of");
    p.steps.resize(2);
    CHECK(faultOf(p).code == "wall.stations");
}
