#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/regen/guides.hpp"
#include "core/shape/space_pieces.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf curveProbe("curve", [] {
    Probe p{block(), 0};
    p.step = add(p.part, "curve").id;
    p.shows = {{"hand", text("hand", "left-handed")},
               {"pitch", text("pitch", "7 mm")},
               {"points",
                {{"way", std::string("through points")},
                 {"points", References{"spot 0 0 20 on end of step 2", "spot 9 0 20 on end of step 2"}}}}};
    p.hides = {{"height that is not asked for", text("height", "30 mm")}};
    return p;
});

const SpacePieces& piecesOf(const RegenResult& r) {
    REQUIRE(!r.state.curves.empty());
    return r.state.curves.rbegin()->second.value.pieces();
}

double lengthOf(const SpacePieces& p) {
    double sum = 0;
    for (const LengthCurve& c : p.curves) sum += c.length();
    return sum;
}

Part helix(const Slots& slots) {
    Part p;
    add(p, "curve", slots);
    return p;
}

/// A tube of radius 20, 60 high, and a wavy line drawn before it.
Part tubeWithLine() {
    Part p;
    Drawing foot;
    foot.draw(StrokeKind::Circle, {{0, 0}}, {20});
    add(p, "draw",
        {{"name", std::string("foot")}, {"plane", std::string("ground")}, {"drawing", DrawingSlot(foot)}});
    add(p, "extrude", {{"outline", std::string("foot")}, {"length", std::string("60 mm")}});
    add(p, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("40 mm")}});
    Drawing wave;
    wave.draw(StrokeKind::Poles, {{-12, 25}, {-6, 32}, {0, 25}, {6, 35}, {12, 30}});
    add(p, "draw",
        {{"name", std::string("wave")}, {"plane", std::string("before")}, {"drawing", DrawingSlot(wave)}});
    return p;
}

References wave(const Part& p) {
    return {"chain of stroke " + std::to_string(p.steps[3].drawing("drawing").strokes[0].id) + " of step 4"};
}

References wall(const Part& p) {
    return {"side " + std::to_string(p.steps[0].drawing("drawing").strokes[0].id) + " of step 2"};
}

} // namespace

TEST_CASE("A helix is as long as its equation says, and goes where it says") {
    const auto even = built(helix(
        {{"radius", std::string("12 mm")}, {"pitch", std::string("8 mm")}, {"turns", std::string("5")}}));
    CHECK(lengthOf(piecesOf(even)) == Approx(5 * std::hypot(2 * kPi * 12, 8)).epsilon(1e-9));
    const LengthCurve& c = piecesOf(even).curves.front();
    for (int i = 0; i <= 40; ++i) {
        const gp_Pnt p = c.at(c.length() * i / 40);
        const double angle = 2 * kPi * 5 * i / 40;
        CHECK(p.Distance({12 * std::cos(angle), 12 * std::sin(angle), 40. * i / 40}) < 1e-6);
    }
    // The same by other sizes; the other hand; begun elsewhere.
    const auto byHeight = built(helix({{"sized", std::string("by height and turns")},
                                       {"height", std::string("40 mm")},
                                       {"turns", std::string("5")}}));
    CHECK(lengthOf(piecesOf(byHeight)) == Approx(lengthOf(piecesOf(even))).epsilon(1e-9));
    const auto left = built(helix({{"sized", std::string("by height and pitch")},
                                   {"height", std::string("40 mm")},
                                   {"pitch", std::string("8 mm")},
                                   {"hand", std::string("left-handed")},
                                   {"start", std::string("90°")},
                                   {"level", std::string("3 mm")}}));
    const LengthCurve& l = piecesOf(left).curves.front();
    CHECK(l.start().Distance({0, 12, 3}) < 1e-6);
    CHECK(l.at(l.length() / 20).Distance({12, 0, 5}) < 1e-6); // a quarter on
    // Tapering: the arc length of a conical spiral, by Simpson's rule.
    const auto cone = built(helix({{"shape", std::string("tapering to")},
                                   {"far radius", std::string("4 mm")},
                                   {"turns", std::string("3")},
                                   {"pitch", std::string("5 mm")}}));
    double sum = 0;
    const int n = 2000;
    for (int i = 0; i <= n; ++i) {
        const double r = 12 - 8. * i / n, speed = std::sqrt(64 + std::pow(2 * kPi * 3 * r, 2) + 225);
        sum += speed * (i == 0 || i == n ? 1 : i % 2 ? 4 : 2);
    }
    CHECK(lengthOf(piecesOf(cone)) == Approx(sum / n / 3).epsilon(1e-8));
    CHECK(faultOf(helix({{"sized", std::string("by height and pitch")},
                         {"height", std::string("4000 mm")},
                         {"pitch", std::string("0.5 mm")}}))
              .code == "curve.turns");
}

TEST_CASE("A spring: a section swept along a helix is its area by the helix's length") {
    Part p = helix(
        {{"radius", std::string("12 mm")}, {"pitch", std::string("8 mm")}, {"turns", std::string("5")}});
    Drawing wire;
    wire.draw(StrokeKind::Circle, {{0, 0}}, {1.5});
    add(p, "draw",
        {{"name", std::string("wire")}, {"plane", std::string("front")}, {"drawing", DrawingSlot(wire)}});
    add(p, "sweep", {{"outline", std::string("wire")}, {"path", References{"curve of step 1"}}});
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(kPi * 2.25 * 5 * std::hypot(2 * kPi * 12, 8)).epsilon(1e-6));
    CHECK(sentenceText(p.steps.back(), p).find("along curve from") != std::string::npos);
    // Too tight a pitch: the turns would touch.
    p.steps[0].slots["pitch"] = std::string("2.5 mm");
    const Error e = faultOf(p);
    CHECK(e.code == "sweep.near");
    CHECK(e.place);
}

TEST_CASE("A line laid on a wall lies on it, straight before where it was drawn") {
    Part p = tubeWithLine();
    add(p, "curve", {{"way", std::string("a line on faces")}, {"line", wave(p)}, {"faces", wall(p)}});
    const auto r = built(p);
    const Drawing& drawn = p.steps[3].drawing("drawing");
    const auto curves = curvesOf(drawn, drawn.strokes[0]);
    for (const LengthCurve& c : piecesOf(r).curves)
        for (int i = 0; i <= 50; ++i) {
            const gp_Pnt q = c.at(c.length() * i / 50);
            CHECK(std::fabs(std::hypot(q.X(), q.Y()) - 20) < 2e-5);
            CHECK(q.Y() < 0); // the near side
            double away = 1e300;
            for (const Curve2& k : curves)
                away = std::min(away, length(k.at(k.nearest({q.X(), q.Z()})) - Vec2{q.X(), q.Z()}));
            CHECK(away < 2e-5);
        }
    // A groove: a round section along it, taken away.
    Drawing round;
    round.draw(StrokeKind::Circle, {{0, 0}}, {1.5});
    add(p, "draw",
        {{"name", std::string("round")}, {"plane", std::string("side")}, {"drawing", DrawingSlot(round)}});
    const double whole = volumeOf(r);
    add(p, "sweep",
        {{"outline", std::string("round")},
         {"path", References{"curve of step 5"}},
         {"does", std::string("taking from")}});
    const double taken = whole - volumeOf(built(p)), canal = kPi * 2.25 * lengthOf(piecesOf(r));
    CHECK(taken > 0.42 * canal); // a little less than half of it lies within a round wall
    CHECK(taken < 0.5 * canal);
    // Off the faces it is told where.
    Part q = tubeWithLine();
    Drawing wide;
    wide.draw(StrokeKind::Line, {{-30, 20}, {30, 40}});
    q.steps[3].slots["drawing"] = DrawingSlot(wide);
    add(q, "curve", {{"way", std::string("a line on faces")}, {"line", wave(q)}, {"faces", wall(q)}});
    const Error e = faultOf(q);
    CHECK(e.code == "curve.miss");
    CHECK(e.place);
}

TEST_CASE("A bridge goes on from both lines, tangent or with their curvature") {
    Part p;
    Drawing a, b;
    a.draw(StrokeKind::Arc, {{20, 0}, {0, 20}, {0, 0}}, {20});
    b.draw(StrokeKind::Line, {{-30, 40}, {-60, 44}});
    add(p, "draw", {{"name", std::string("arc")}, {"drawing", DrawingSlot(a)}});
    add(p, "draw",
        {{"name", std::string("bar")}, {"plane", std::string("side")}, {"drawing", DrawingSlot(b)}});
    const auto chain = [&](std::size_t step) {
        return References{"chain of stroke " +
                          std::to_string(p.steps[step].drawing("drawing").strokes[0].id) + " of step " +
                          std::to_string(p.steps[step].id)};
    };
    for (const bool even : {false, true}) {
        Part q = p;
        add(q, "curve",
            {{"way", std::string("a bridge between")},
             {"from", chain(0)},
             {"to", chain(1)},
             {"ends", std::string(even ? "with even curvature" : "tangent")}});
        const auto r = built(q);
        const LengthCurve& c = piecesOf(r).curves.front();
        CHECK(c.start().Distance({0, 0, 20}) < 1e-9);
        CHECK(c.tangent(0).Angle(gp_Vec(-1, 0, 0)) < 1e-6);
        const Plane& side = r.state.outlines.at({2, 0}).value->plane;
        const Vec3 end = side.at({-30, 40}), on = side.at({-60, 44}) - end;
        CHECK(c.end().Distance({end.x, end.y, end.z}) < 1e-9);
        CHECK(c.tangent(c.length()).Angle(gp_Vec(on.x, on.y, on.z)) < 1e-6);
        if (!even) continue;
        CHECK((c.bend(0) - gp_Vec(0, 0, -1. / 20)).Magnitude() < 1e-6);
        CHECK(c.bend(c.length()).Magnitude() < 1e-6);
    }
}

TEST_CASE("The line where faces meet, or where a plane runs through them") {
    // A tube of radius 20, 60 high, and a bar of radius 8 square through its middle, 15 above the ground.
    Part p = tubeWithLine();
    Drawing bar;
    bar.draw(StrokeKind::Circle, {{0, 25}}, {8});
    add(p, "draw",
        {{"name", std::string("bar")}, {"plane", std::string("front")}, {"drawing", DrawingSlot(bar)}});
    add(p, "extrude",
        {{"outline", std::string("bar")},
         {"way", std::string("both ways together")},
         {"length", std::string("80 mm")},
         {"does", std::string("as new body")}});
    const References round{"side " + std::to_string(bar.strokes[0].id) + " of step 6"};
    Slots slots{{"way", std::string("where faces meet")}, {"meeting", wall(p)}, {"others", round}};
    add(p, "curve", slots);
    CHECK(faultOf(p).code == "curve.lines"); // before and behind
    p.steps.back().slots["which"] = std::string("the longest line");
    CHECK(faultOf(p).code == "curve.lines"); // which are as long as each other
    p.steps.back().slots["which"] = std::string("the line nearest to");
    p.steps.back().slots["near"] = References{"spot 0 -40 25 on " + round.front()};
    const auto r = built(p);
    const SpacePieces& line = piecesOf(r);
    CHECK(line.closed);
    for (const LengthCurve& c : line.curves)
        for (int i = 0; i <= 60; ++i) {
            const gp_Pnt q = c.at(c.length() * i / 60);
            CHECK(std::fabs(std::hypot(q.X(), q.Y()) - 20) < 1e-4);
            CHECK(std::fabs(std::hypot(q.X(), q.Z() - 25) - 8) < 1e-4);
            CHECK(q.Y() < 0);
        }
    // Its length by its equation: (8 cos t, -sqrt(400 - 64 cos² t), 25 + 8 sin t).
    double length = 0;
    const int n = 4000;
    for (int i = 0; i < n; ++i) {
        const double t = 2 * kPi * i / n,
                     y = 64 * std::cos(t) * std::sin(t) / std::sqrt(400 - 64 * std::cos(t) * std::cos(t));
        length += std::hypot(8, y) * 2 * kPi / n;
    }
    CHECK(lengthOf(line) == Approx(length).epsilon(1e-6));
    // A bead along it.
    Drawing bead;
    bead.draw(StrokeKind::Circle, {{0, 0}}, {1});
    add(p, "draw",
        {{"name", std::string("bead")}, {"plane", std::string("side")}, {"drawing", DrawingSlot(bead)}});
    add(p, "sweep",
        {{"outline", std::string("bead")},
         {"path", References{"curve of step 7"}},
         {"does", std::string("as new body")}});
    const auto beaded = built(p);
    CHECK(volumeOf(beaded) == Approx(kPi * length).epsilon(1e-4));
    // A plane: its rim on the ground.
    Part q = tubeWithLine();
    add(q, "curve",
        {{"way", std::string("where faces meet")},
         {"meeting", wall(q)},
         {"meets", std::string("and the plane")},
         {"plane", std::string("ground")}});
    const auto rim = built(q); // where they join
    CHECK(lengthOf(piecesOf(rim)) == Approx(2 * kPi * 20).epsilon(1e-9));
    q.steps.back().slots["plane"] = std::string("before");
    CHECK(faultOf(q).code == "curve.apart");
}

TEST_CASE("Curves in space stand for axes, and drawings follow them") {
    Part p;
    Drawing a, b;
    a.draw(StrokeKind::Line, {{10, 0}, {10, 20}});
    b.draw(StrokeKind::Line, {{10, 50}, {10, 30}});
    add(p, "draw", {{"name", std::string("low")}, {"drawing", DrawingSlot(a)}});
    add(p, "draw", {{"name", std::string("high")}, {"drawing", DrawingSlot(b)}});
    const auto stroke = [&](std::size_t step) {
        return References{"stroke " + std::to_string(p.steps[step].drawing("drawing").strokes[0].id) +
                          " of step " + std::to_string(p.steps[step].id)};
    };
    add(p, "curve",
        {{"way", std::string("a bridge between")}, {"from", stroke(0)}, {"to", stroke(1)}}); // straight up
    add(p, "axis", {{"name", std::string("post")}, {"line", std::string("curve of step 3")}});
    const auto r = built(p);
    REQUIRE(r.state.axes.size() == 1);
    const Axis found = r.state.axes.begin()->second.value;
    CHECK(std::fabs(found.direction.z) == Approx(1));
    CHECK(found.origin.x == Approx(10));
    // The helix seen from above is its circle, and is met by the front plane twice a turn.
    Part q = helix(
        {{"radius", std::string("12 mm")}, {"pitch", std::string("8 mm")}, {"turns", std::string("2")}});
    Step& above = add(q, "draw", {{"plane", std::string("ground")}});
    const auto seen = followable(q, built(q), above.id);
    int circles = 0;
    for (const Trace& t : seen)
        if (t.source == "projection of curve of step 1")
            circles +=
                t.kind == StrokeKind::Circle || t.kind == StrokeKind::Arc || t.kind == StrokeKind::Spline;
    CHECK(circles >= 1);
    above.slots["plane"] = std::string("front");
    int met = 0;
    for (const Trace& t : followable(q, built(q), above.id)) met += t.source == "meeting of curve of step 1";
    CHECK(met == 5); // at 0, a half, 1, 1 1/2 and 2 turns
}

TEST_CASE("A groove in a bottle: along a line that is laid on its freeform wall, ahead or squarely") {
    for (const char* towards : {"straight ahead", "square to them"}) {
        INFO(towards);
        Part p;
        add(p, "outline",
            {{"name", std::string("bottle line")},
             {"stations", Stations{{"0", "44", false, ""},
                                   {"25", "56", false, ""},
                                   {"50", "40", false, ""},
                                   {"70", "30", false, ""}}}});
        add(p, "revolve", {{"outline", std::string("bottle line")}, {"body", std::string("bottle")}});
        add(p, "plane",
            {{"name", std::string("before")},
             {"from", std::string("front")},
             {"distance", std::string("40 mm")}});
        Drawing wave;
        wave.draw(StrokeKind::Poles, {{-8, 15}, {-4, 30}, {2, 25}, {6, 40}, {8, 55}});
        add(p, "draw",
            {{"name", std::string("wave")},
             {"plane", std::string("before")},
             {"drawing", DrawingSlot(wave)}});
        add(p, "curve",
            {{"way", std::string("a line on faces")},
             {"line", References{"chain of stroke " + std::to_string(wave.strokes[0].id) + " of step 4"}},
             {"faces", References{"wall of step 2"}},
             {"towards", std::string(towards)}});
        const double whole = volumeOf(built(p), "bottle");
        Drawing round;
        round.draw(StrokeKind::Circle, {{0, 0}}, {1.2});
        add(p, "draw",
            {{"name", std::string("round")},
             {"plane", std::string("side")},
             {"drawing", DrawingSlot(round)}});
        add(p, "sweep",
            {{"outline", std::string("round")},
             {"path", References{"curve of step 5"}},
             {"does", std::string("taking from")}});
        const auto r = built(p);
        const double canal = kPi * 1.44 * lengthOf(piecesOf(r)), taken = whole - volumeOf(r, "bottle");
        CHECK(taken > 0.4 * canal);
        CHECK(taken < 0.52 * canal);
        CHECK(checkBody(r.state.body("bottle")).faults.empty());
    }
}
