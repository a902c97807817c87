#include "core/base/angles.hpp"
#include "core/document/part_file.hpp"
#include "core/document/planes.hpp"
#include "core/document/trace_source.hpp"
#include "core/inspect/mass.hpp"
#include "core/regen/engine.hpp"
#include "core/regen/guides.hpp"
#include "core/steps/shared/find_traces.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using test::built;

namespace {

const test::ProbeOf planeProbe("plane", [] {
    using namespace gc::test;
    Probe p{cup(), 0};
    p.step = add(p.part, "plane").id;
    p.shows = {{"distance", text("distance", "11 mm")},
               {"from", text("from", "side")},
               {"way",
                {{"way", std::string("through points")},
                 {"points", References{"spot 0 0 0 on floor of step 2", "spot 9 0 0 on floor of step 2",
                                       "spot 0 9 0 on floor of step 2"}}}}};
    p.hides = {{"angle", text("angle", "30°")}, {"to", text("to", "front")}};
    return p;
});

/// A frustum, 80 and 100 across, turned by an angle: step 1 its stations, step 2 the turn.
Part frustum(const std::string& angle = "90°", const std::string& height = "100 mm") {
    Part p;
    p.steps.push_back(newStep(p, "outline"));
    p.steps.back().slots["stations"] = Stations{{"0 mm", "80 mm", false, ""}, {height, "100 mm", false, ""}};
    p.steps.back().slots["tolerance"] = std::string("0 mm");
    p.steps.push_back(newStep(p, "revolve"));
    p.steps.back().slots["angle"] = angle;
    return p;
}

using SlotList = std::map<std::string, SlotValue>;

Plane planeOf(Part p, const SlotList& slots) {
    Step step = newStep(p, "plane");
    for (const auto& [key, v] : slots) step.slots[key] = v;
    p.steps.push_back(step);
    const auto r = built(p);
    return r.state.planes.at(*r.state.planeNamed("datum")).value;
}

std::string faultOfPlane(Part p, const SlotList& slots) {
    Step step = newStep(p, "plane");
    for (const auto& [key, v] : slots) step.slots[key] = v;
    p.steps.push_back(step);
    const auto r = Engine().regenerate(p);
    return r.steps.back().error ? r.steps.back().error->code : std::string();
}

void checkSame(Vec3 a, Vec3 b, double within = 1e-7) {
    CHECK(length(a - b) < within);
}

SlotList way(const std::string& words, SlotList more) {
    more["way"] = words;
    return more;
}

} // namespace

TEST_CASE("Every fixed plane has a right-handed frame that is looked at from outside") {
    for (const char* name : kFixedPlanes) {
        const Plane p = *fixedPlane(name);
        CHECK(dot(p.across, p.up) == Approx(0).margin(1e-15));
        CHECK(length(p.normal()) == Approx(1));
        checkSame(p.at(p.foot({3, 4, 5})) + p.normal() * p.before({3, 4, 5}), {3, 4, 5});
    }
    checkSame(fixedPlane("front")->normal(), {0, -1, 0});
    checkSame(fixedPlane("ground")->up, {0, 1, 0});
    checkSame(fixedPlane("side")->across, {0, 1, 0});
    // Four quarter turns, and two flips, are none.
    const Plane side = *fixedPlane("side");
    CHECK(turned(side, 4) == side);
    CHECK(flipped(flipped(side)) == side);
    checkSame(turned(side, 1).up, -side.across);
    checkSame(asItLies(side, "from behind", "upside down").normal(), {-1, 0, 0});
    checkSame(asItLies(side, "from before", "upside down").up, {0, 0, -1});
}

TEST_CASE("Planes away from others keep their distance when what they lean on moves") {
    const Plane above = planeOf(frustum(), way("away from", {{"from", "ground"}, {"distance", "12 mm"}}));
    checkSame(above.origin, {0, 0, 12});
    checkSame(above.normal(), {0, 0, 1});
    for (const char* height : {"100 mm", "130 mm"}) {
        const Plane below = planeOf(frustum("90°", height),
                                    way("away from", {{"from", "top of step 2"}, {"distance", "-5 mm"}}));
        CHECK(below.origin.z == Approx(std::atof(height) - 5));
        checkSame(below.normal(), {0, 0, 1});
    }
    // The floor looks down: away from it is below it.
    const Plane under =
        planeOf(frustum(), way("away from", {{"from", "floor of step 2"}, {"distance", "3 mm"}}));
    checkSame(under.origin, {0, 0, -3});
    checkSame(under.normal(), {0, 0, -1});
    CHECK(faultOfPlane(frustum(), way("away from", {{"from", "wall of step 2"}})) == "plane.curved");
    CHECK(faultOfPlane(frustum(), way("away from", {{"from", "no such plane"}})) == "plane.lost");
}

TEST_CASE("A plane through three corners contains them; in a row they make none") {
    const std::string wall = "wall of step 2", top = "top of step 2", floor = "floor of step 2",
                      start = "start of step 2", end = "end of step 2";
    const auto corner = [](const std::string& a, const std::string& b, const std::string& c) {
        return "corner of " + a + " and " + b + " and " + c;
    };
    const References three{corner(wall, top, start), corner(wall, top, end), corner(wall, floor, start)};
    const Plane p = planeOf(frustum(), way("through points", {{"points", three}}));
    for (const Vec3 at : {Vec3{50, 0, 100}, {0, 50, 100}, {40, 0, 0}})
        CHECK(p.before(at) == Approx(0).margin(1e-7));
    CHECK(p.normal().z > 0);
    const References row{"middle of where wall of step 2 meets start of step 2", corner(wall, top, start),
                         corner(wall, floor, start)};
    CHECK(faultOfPlane(frustum(), way("through points", {{"points", row}})) == "plane.row");
    CHECK(faultOfPlane(frustum(), way("through points", {{"points", References{row[0]}}})) == "plane.points");
    CHECK(faultOfPlane(frustum(), way("through points",
                                      {{"points", References{row[0], row[1], corner(wall, wall, top)}}})) ==
          "reference.several");
}

TEST_CASE("A plane through an edge has its angle; one across an edge is square to it") {
    const References edge{"where wall of step 2 meets start of step 2"};
    const Vec3 low{40, 0, 0}, high{50, 0, 100};
    for (const double degrees : {0.0, 30.0, -75.0}) {
        const Plane p = planeOf(
            frustum(), way("through an edge",
                           {{"edge", edge}, {"from", "front"}, {"angle", std::to_string(degrees) + "°"}}));
        CHECK(p.before(low) == Approx(0).margin(1e-7));
        CHECK(p.before(high) == Approx(0).margin(1e-7));
        CHECK(std::fabs(dot(p.normal(), Vec3{0, -1, 0})) == Approx(std::cos(degrees * kPi / 180)));
    }
    // A drawing on it swings with the angle, through level and upright, without a jump.
    for (const char* from : {"front", "ground"}) {
        std::optional<Plane> before;
        for (int degrees = -100; degrees <= 100; ++degrees) {
            const Plane p = planeOf(
                frustum(), way("through an edge",
                               {{"edge", edge}, {"from", from}, {"angle", std::to_string(degrees) + "°"}}));
            if (before) {
                CHECK(dot(before->up, p.up) > 0.999);
                CHECK(dot(before->across, p.across) > 0.999);
            }
            before = p;
        }
    }
    const References rim{"where wall of step 2 meets top of step 2"};
    CHECK(faultOfPlane(frustum(), way("through an edge", {{"edge", rim}, {"from", "front"}})) ==
          "plane.bent");
    const Plane across = planeOf(frustum(), way("across an edge", {{"edge", rim}, {"along", "1/2"}}));
    const double r = 50 / std::sqrt(2.0);
    checkSame(across.origin, {r, r, 100}, 1e-6);
    CHECK(std::fabs(dot(across.normal(), unit(Vec3{1, -1, 0}))) == Approx(1));
}

TEST_CASE("A plane touches a cone along its line, and lies midway between two faces") {
    // At 45 degrees round, halfway up: the normal of a cone of slope 10 in 100.
    const double r = 45 / std::sqrt(2.0);
    const References spot{"spot 31.00 32.00 50.00 on wall of step 2"};
    const Plane p =
        planeOf(frustum(), way("touching", {{"face", References{"wall of step 2"}}, {"point", spot}}));
    const double away = length(Vec3{p.origin.x, p.origin.y, 0});
    CHECK(away == Approx(40 + p.origin.z * 0.1));
    const Vec3 normal = unit(Vec3{p.origin.x / away, p.origin.y / away, -0.1});
    checkSame(p.normal(), normal, 1e-6);
    CHECK(length(p.origin - Vec3{r, r, 50}) < 2);

    const Plane level =
        planeOf(frustum(), way("midway between", {{"from", "floor of step 2"}, {"to", "top of step 2"}}));
    CHECK(level.origin.z == Approx(50));
    CHECK(std::fabs(level.normal().z) == Approx(1));
    const Plane wedge = planeOf(
        frustum("60°"), way("midway between", {{"from", "start of step 2"}, {"to", "end of step 2"}}));
    CHECK(wedge.before({0, 0, 30}) == Approx(0).margin(1e-7)); // the axis lies in it
    CHECK(wedge.before({10 * std::cos(kPi / 6), 10 * std::sin(kPi / 6), 0}) == Approx(0).margin(1e-7));
    const Plane between =
        planeOf(frustum(), way("midway between", {{"from", "ground"}, {"to", "top of step 2"}}));
    CHECK(between.origin.z == Approx(50));
}

TEST_CASE("A drawing is turned about its own axis, wherever its plane lies") {
    Drawing square; // 10 by 20, 30 from the axis
    square.draw(StrokeKind::Line, {{30, 0}, {40, 0}}), square.draw(StrokeKind::Line, {{40, 0}, {40, 20}}),
        square.draw(StrokeKind::Line, {{40, 20}, {30, 20}}),
        square.draw(StrokeKind::Line, {{30, 20}, {30, 0}});
    struct Case {
        const char *plane, *seen, *up;
        Vec3 centre;
    };
    for (const Case& c : {Case{"front", "from before", "upright", {0, 0, 10}},
                          Case{"front", "from before", "upside down", {0, 0, -10}},
                          Case{"front", "from before", "turned left", {-10, 0, 0}},
                          Case{"front", "from behind", "turned left", {10, 0, 0}},
                          Case{"ground", "from before", "upright", {0, 10, 0}},
                          Case{"side", "from before", "turned right", {0, 10, 0}},
                          Case{"top of step 2", "from before", "upright", {0, 10, 100}}}) {
        INFO(c.plane << ", " << c.seen << ", " << c.up);
        Part p = frustum();
        Step draw = newStep(p, "draw");
        draw.slots["drawing"] = DrawingSlot(square);
        draw.slots["plane"] = std::string(c.plane);
        draw.slots["seen"] = std::string(c.seen);
        draw.slots["up"] = std::string(c.up);
        p.steps.push_back(draw);
        Step turn = newStep(p, "revolve");
        turn.slots["outline"] = draw.text("name");
        turn.slots["body"] = std::string("ring");
        p.steps.push_back(turn);
        const auto r = built(p);
        INFO((r.steps.back().error ? r.steps.back().error->sentence.text() : std::string()));
        REQUIRE(r.steps.back().ok);
        const auto m = massProperties(r.state.body("ring"), Density(1e-3));
        REQUIRE(m.ok());
        CHECK(m->volume == Approx(2 * kPi * 35 * 200).epsilon(1e-9)); // Pappus
        checkSame(m->centre, c.centre, 1e-6);
        // In the file and back nothing changes.
        CHECK(readPart(writePart(p))->steps[2] == draw);
    }
}

TEST_CASE("Edges, cuts and meetings leave traces of known shape in a plane") {
    const auto state = built(frustum("360°")).state;
    const std::string rim = "where wall of step 2 meets top of step 2";
    const auto traces = [&](TraceSource::Kind kind, const std::string& ref, const Plane& plane) {
        const auto t = tracesOf(toText(TraceSource{kind, ref, {}}), plane, FreeReader(state));
        INFO((t ? std::string() : t.error().sentence.text()));
        REQUIRE(t.ok());
        return *t;
    };
    using Kind = TraceSource::Kind;
    const Plane front, ground = *fixedPlane("ground");
    const auto circle = traces(Kind::Projection, rim, ground);
    REQUIRE(circle.size() == 1);
    CHECK(circle[0].kind == StrokeKind::Circle);
    CHECK(circle[0].sizes[0] == Approx(50));
    const auto line = traces(Kind::Projection, rim, front);
    CHECK(line[0].kind == StrokeKind::Line);
    CHECK(length(line[0].at[0] - line[0].at[1]) == Approx(100));
    CHECK(line[0].at[0].y == Approx(100));
    // Seen at 60 degrees a circle is an ellipse half as deep as it is wide.
    const auto oval =
        traces(Kind::Projection, rim, planeFacing({}, {0, -std::sin(kPi / 3), std::cos(kPi / 3)}));
    CHECK(oval[0].kind == StrokeKind::Ellipse);
    CHECK(length(oval[0].at[1] - oval[0].at[0]) == Approx(50));
    CHECK(oval[0].sizes[0] == Approx(25));

    const auto walls = traces(Kind::Cut, "wall of step 2", front);
    REQUIRE(walls.size() == 2);
    for (const Trace& t : walls) {
        CHECK(t.kind == StrokeKind::Line);
        CHECK(length(t.at[0] - t.at[1]) == Approx(std::hypot(10.0, 100.0)).epsilon(1e-6));
    }
    CHECK(walls[0].at[0].x < 0); // from left to right
    const auto level = traces(Kind::Cut, "wall of step 2", planeFacing({0, 0, 50}, {0, 0, 1}));
    REQUIRE(level.size() == 1);
    CHECK(level[0].kind == StrokeKind::Circle);
    CHECK(level[0].sizes[0] == Approx(45).margin(2e-4));

    const auto points = traces(Kind::Meeting, rim, front);
    REQUIRE(points.size() == 2);
    CHECK(length(points[0].at[0] - Vec2{-50, 100}) < 1e-6);
    CHECK(length(points[1].at[0] - Vec2{50, 100}) < 1e-6);
    CHECK(tracesOf("meeting of " + rim, ground, FreeReader(state)).error().code == "trace.nothing");
    CHECK(tracesOf("shadow of " + rim, ground, FreeReader(state)).error().code == "trace.source");
}

TEST_CASE("What a drawing follows stays linked when the body changes, and says so when it is lost") {
    Part p = frustum("360°");
    Step draw = newStep(p, "draw");
    draw.slots["plane"] = std::string("ground");
    p.steps.push_back(draw);
    const auto all = followable(p, built(p), draw.id);
    const auto rim = std::find_if(all.begin(), all.end(), [](const Trace& t) {
        return t.kind == StrokeKind::Circle && t.sizes[0] > 49;
    });
    REQUIRE(rim != all.end());
    Drawing d;
    const int followed = followTrace(d, *rim);
    CHECK(followTrace(d, *rim) == followed); // once is enough
    const int inner = d.draw(StrokeKind::Circle, {{1, 2}}, {30});
    d.relate(RelationKind::Concentric, {inner, followed});
    d.relate(RelationKind::Distance, {followed, inner}, "4 mm");
    p.steps.back().slots["drawing"] = DrawingSlot(d);
    for (const double across : {100.0, 90.0, 124.0}) {
        auto stations = p.steps[0].stations("stations");
        stations[1].diameter = std::to_string(across) + " mm";
        p.steps[0].slots["stations"] = stations;
        const auto r = built(p);
        REQUIRE(r.steps.back().ok);
        CHECK(r.steps.back().notes.empty());
        const Outline& o = r.state.outline(draw.text("name"));
        CHECK(o.strokes.at(followed)[0].length() == Approx(kPi * across).epsilon(1e-9));
        CHECK(o.strokes.at(inner)[0].length() == Approx(kPi * (across - 8)).epsilon(1e-9));
    }
    // The file keeps the link.
    CHECK(readPart(writePart(p))->steps.back() == p.steps.back());
    p.steps[1].off = true;
    const auto lost = Engine().regenerate(p);
    CHECK(lost.steps.back().ok);
    REQUIRE_FALSE(lost.steps.back().notes.empty());
    const Outline& kept = lost.state.outline(draw.text("name"));
    CHECK(kept.strokes.at(followed)[0].length() > 0); // it stays where it was
}

TEST_CASE("Strokes of drawings before it are followed, too, and met where they run through the plane") {
    Part p;
    Drawing ring;
    ring.draw(StrokeKind::Circle, {{0, 0}}, {20});
    const int circle = ring.strokes[0].id;
    gc::test::add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(ring)}});
    Step& draw = gc::test::add(p, "draw", {{"plane", std::string("front")}});
    const auto all = followable(p, built(p), draw.id);
    const std::string stroke = "stroke " + std::to_string(circle) + " of step 1";
    const auto of = [&](const std::string& source) {
        std::vector<Trace> out;
        for (const Trace& t : all)
            if (t.source == source) out.push_back(t);
        return out;
    };
    // The circle is seen on edge, as a line, and is met at its left and its right.
    const auto seen = of("projection of " + stroke), met = of("meeting of " + stroke);
    REQUIRE(seen.size() == 1);
    CHECK(seen[0].kind == StrokeKind::Line);
    CHECK(length(seen[0].at[1] - seen[0].at[0]) == Approx(40));
    REQUIRE(met.size() == 2);
    CHECK(length(met[0].at[0] - Vec2{-20, 0}) < 1e-6);
    CHECK(length(met[1].at[0] - Vec2{20, 0}) < 1e-6);
    // What follows goes with the circle.
    Drawing guide;
    guide.draw(StrokeKind::Line, {{20, 0}, {20, 30}});
    const int end = guide.strokes[0].points[0];
    holdPoint(guide, end, met[1]);
    draw.slots["drawing"] = DrawingSlot(guide);
    p.steps[0].slots["drawing"] = DrawingSlot([&] {
        Drawing larger;
        larger.draw(StrokeKind::Circle, {{0, 0}}, {23});
        return larger;
    }());
    const auto r = built(p);
    const Outline& drawn = *r.state.outlines.rbegin()->second.value;
    CHECK(length(drawn.points.at(end) - Vec2{23, 0}) < 1e-6);
}
