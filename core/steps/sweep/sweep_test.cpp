#include "core/sketch/arcs.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kPi = std::numbers::pi;

std::string chainOfStep(const Part& p, std::size_t step) {
    return "chain of stroke " + std::to_string(p.steps[step].drawing("drawing").strokes[0].id) + " of step " +
           std::to_string(p.steps[step].id);
}

/// Up 20, a quarter turn of 10 to the right, and 30 along; in the front plane from the origin. Lines and an
/// arc.
Drawing hook() {
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 0}, {0, 20}});
    drawArcThrough(d, {0, 20}, {10 - 10 * std::cos(kPi / 4), 20 + 10 * std::sin(kPi / 4)}, {10, 30});
    d.draw(StrokeKind::Line, {{10, 30}, {40, 30}});
    return d;
}

Part swept(const Drawing& path, const Drawing& section, const Slots& more = {},
           const std::string& plane = "ground") {
    Part p;
    add(p, "draw", {{"name", std::string("way")}, {"drawing", DrawingSlot(path)}});
    add(p, "draw", {{"name", std::string("section")}, {"plane", plane}, {"drawing", DrawingSlot(section)}});
    Slots slots{{"outline", std::string("section")}, {"path", References{chainOfStep(p, 0)}}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "sweep", slots);
    return p;
}

int facesOf(const RegenResult& r) {
    return faceCount(r.state.bodies.rbegin()->second.value);
}

const ProbeOf probe("sweep", [] {
    Probe p{swept(hook(), circleLine(2)), 3};
    p.shows = {{"begin", text("begin", "from its end")}, {"section", text("change", "turning by")}};
    p.hides = {};
    return p;
});

} // namespace

TEST_CASE("A section along lines and arcs is exact, wherever it was drawn") {
    const double length = 20 + 5 * kPi + 30;
    const double area = 6 * 3 - (4 - kPi) * 0.8 * 0.8;
    for (const char* plane : {"ground", "side"}) {
        const auto r = built(swept(hook(), roundedLine(6, 3, 0.8), {}, plane));
        CHECK(volumeOf(r) == Approx(area * length).epsilon(1e-9));
        CHECK(facesOf(r) == 8 * 3 + 2);
    }
    const auto wire = built(swept(hook(), circleLine(1)));
    CHECK(volumeOf(wire) == Approx(kPi * length).epsilon(1e-9));
}

namespace {

Drawing wave() {
    Drawing d;
    d.draw(StrokeKind::Poles, {{0, 0}, {2, 14}, {14, 24}, {28, 20}, {36, 34}, {50, 44}});
    return d;
}

double lengthOf(const Drawing& d) {
    double sum = 0;
    for (const Stroke& s : d.strokes)
        for (const Curve2& c : curvesOf(d, s)) sum += c.length();
    return sum;
}

/// It closes smoothly.
Drawing ring() {
    Drawing d;
    d.draw(StrokeKind::Ellipse, {{0, 0}, {30, 0}}, {18});
    return d;
}

Drawing corners(const std::vector<Vec2>& at) {
    Drawing d;
    for (std::size_t i = 0; i + 1 < at.size(); ++i) d.draw(StrokeKind::Line, {at[i], at[i + 1]});
    return d;
}

} // namespace

TEST_CASE("Along a spline the volume is the area by the length of its middle's way (Pappus)") {
    const double length = lengthOf(wave());
    const auto round = built(swept(wave(), circleLine(2)));
    CHECK(volumeOf(round) == Approx(kPi * 4 * length).epsilon(1e-6));
    CHECK(facesOf(round) == 3);
    const double area = 5 * 3 - (4 - kPi) * 0.6 * 0.6;
    CHECK(volumeOf(built(swept(wave(), roundedLine(5, 3, 0.6)))) == Approx(area * length).epsilon(1e-6));
    // Turned on its way it stays the same; growing, its area goes with the square of its size.
    CHECK(volumeOf(built(swept(wave(), roundedLine(5, 3, 0.6),
                               {{"change", std::string("turning by")}, {"turn", std::string("360°")}}))) ==
          Approx(area * length).epsilon(1e-5));
    const double s = 0.4;
    CHECK(volumeOf(built(swept(wave(), roundedLine(5, 3, 0.6),
                               {{"change", std::string("growing to")}, {"size", std::string("0.4")}}))) ==
          Approx(area * length * (1 + s + s * s) / 3).epsilon(1e-6));
}

TEST_CASE("Kept parallel, a section fills its area by the height of the path over it") {
    const auto r =
        built(swept(wave(), roundedLine(5, 3, 0.6), {{"stand", std::string("kept parallel")}}, "ground"));
    // Its plane is brought square onto the path's beginning; the way over it is what counts.
    const Drawing d = wave();
    const Curve2 first = curvesOf(d, d.strokes[0]).front();
    const Vec2 t = unit(first.slope(0)), end{50, 44};
    CHECK(volumeOf(r) == Approx((15 - (4 - kPi) * 0.36) * dot(end, t)).epsilon(1e-6));
}

TEST_CASE("A section that stands aslant to its path fills what of its area looks along it") {
    // Carried without turning about itself, an area fills that times the way of its middle.
    const Drawing d = wave();
    const double along = unit(curvesOf(d, d.strokes[0]).front().slope(0)).y; // over the ground
    REQUIRE(along < 0.99);
    const Slots asDrawn{{"placing", std::string("where it is drawn")}};
    const auto r = built(swept(d, circleLine(2), asDrawn));
    CHECK(volumeOf(r) == Approx(kPi * 4 * along * lengthOf(d)).epsilon(1e-6));
    CHECK(checkBody(r.state.bodies.rbegin()->second.value).faults.empty());
}

TEST_CASE("A closed path makes a ring, a section with a hole a hose") {
    const double length = lengthOf(ring());
    CHECK(volumeOf(built(swept(ring(), circleLine(3)))) == Approx(kPi * 9 * length).epsilon(1e-6));
    Drawing hose = circleLine(3);
    hose.draw(StrokeKind::Circle, {{0, 0}}, {2});
    CHECK(volumeOf(built(swept(ring(), hose))) == Approx(kPi * 5 * length).epsilon(1e-6));
    CHECK(volumeOf(built(swept(hook(), hose))) == Approx(kPi * 5 * (50 + 5 * kPi)).epsilon(1e-9));
    CHECK(volumeOf(built(swept(wave(), hose))) == Approx(kPi * 5 * lengthOf(wave())).epsilon(1e-6));
}

TEST_CASE("Corners are mitred exactly: area by length") {
    for (const auto& [at, length] :
         {std::pair{std::vector<Vec2>{{0, 0}, {0, 20}, {20, 20}, {20, 40}}, 60.0},
          {{{0, 0}, {0, 20}, {10 * std::sqrt(3.0), 10}, {10 * std::sqrt(3.0), 30}}, 60.0}}) {
        CHECK(volumeOf(built(swept(corners(at), circleLine(1.5)))) ==
              Approx(kPi * 2.25 * length).epsilon(1e-7));
        CHECK(volumeOf(built(swept(corners(at), rectangle({-2, -1}, {2, 1})))) ==
              Approx(8 * length).epsilon(1e-9));
    }
    // A frame that closes, and a corner between a line and an arc.
    const auto frame =
        swept(corners({{0, 0}, {40, 0}, {40, 30}, {0, 30}, {0, 0}}), rectangle({-2, -1}, {2, 1}));
    CHECK(volumeOf(built(frame)) == Approx(8 * 140).epsilon(1e-9));
    Drawing bow = corners({{0, 0}, {0, 20}});
    drawArcThrough(bow, {0, 20}, {20 * std::sin(kPi / 4), 20 * std::cos(kPi / 4)}, {20, 0});
    // Within the corner the arc has begun to bend, so a little less than that.
    CHECK(volumeOf(built(swept(bow, circleLine(1.5)))) == Approx(kPi * 2.25 * (20 + 10 * kPi)).epsilon(5e-4));
}

TEST_CASE("Round corners: the outer half of the section turns about the corner") {
    // Area by length, and at each corner (turn - 2 tan(turn / 2)) by the first moment of the outer half more.
    for (const auto& [at, turn] :
         {std::pair{std::vector<Vec2>{{0, 0}, {0, 20}, {20, 20}, {20, 40}}, kPi / 2},
          {{{0, 0}, {0, 20}, {10 * std::sqrt(3.0), 10}, {10 * std::sqrt(3.0), 30}}, 2 * kPi / 3}}) {
        const double more = 2 * (turn - 2 * std::tan(turn / 2));
        const Slots rounded{{"corners", std::string("rounded")}};
        CHECK(volumeOf(built(swept(corners(at), circleLine(1.5), rounded))) ==
              Approx(kPi * 2.25 * 60 + more * 2 / 3. * 1.5 * 1.5 * 1.5).epsilon(1e-7));
        CHECK(volumeOf(built(swept(corners(at), rectangle({-2, -1}, {2, 1}), rounded))) ==
              Approx(8 * 60 + more * 4).epsilon(1e-7));
    }
}

namespace {

/// Over a stair of three even steps, in the middle plane y = 0, of a round section that shrinks evenly:
/// cones, and half balls over the corners. Counted on a net, mm³.
double roundedStair(double radius, double size) {
    const std::vector<Vec2> at{{0, 0}, {0, 20}, {20, 20}, {20, 40}};
    constexpr double kNet = 0.1;
    std::size_t inside = 0;
    for (double x = -3 + kNet / 2; x < 23; x += kNet)
        for (double z = kNet / 2; z < 40; z += kNet)
            for (double y = kNet / 2; y < 3; y += kNet) {
                const Vec2 p{x, z};
                bool in = false;
                for (std::size_t i = 0; i + 1 < at.size() && !in; ++i) {
                    const Vec2 u = unit(at[i + 1] - at[i]), d = p - at[i];
                    const double along = dot(d, u), r = radius * (1 + (size - 1) * (20. * i + along) / 60);
                    in = along > 0 && along < 20 && std::hypot(cross(u, d), y) < r;
                }
                for (std::size_t i = 1; i + 1 < at.size() && !in; ++i) {
                    const Vec2 d = p - at[i], u = unit(at[i] - at[i - 1]), v = unit(at[i + 1] - at[i]);
                    const double r = radius * (1 + (size - 1) * 20. * i / 60);
                    in = dot(d, u) > 0 && dot(d, v) < 0 && std::hypot(length(d), y) < r;
                }
                inside += in;
            }
    return 2 * static_cast<double>(inside) * kNet * kNet * kNet;
}

} // namespace

TEST_CASE("Round corners a section grows, turns, and stands as it stood") {
    const Drawing stair = corners({{0, 0}, {0, 20}, {20, 20}, {20, 40}});
    const Slots shrinking{{"corners", std::string("rounded")},
                          {"change", std::string("growing to")},
                          {"size", std::string("0.4")}};
    const auto shrunk = built(swept(stair, circleLine(2.5), shrinking));
    CHECK(volumeOf(shrunk) == Approx(roundedStair(2.5, 0.4)).epsilon(1e-3));
    CHECK(checkBody(shrunk.state.bodies.rbegin()->second.value).faults.empty());
    // What turns keeps its area: a square turned by whole quarters fills what it fills unturned, but for the
    // corners, which are met at a third and two thirds of the way, by quarters too.
    const auto turning = [](const char* turn) {
        return Slots{{"corners", std::string("rounded")},
                     {"change", std::string("turning by")},
                     {"turn", std::string(turn)}};
    };
    const auto turned = built(swept(stair, rectangle({-1, -1}, {1, 1}), turning("270°")));
    const double still = volumeOf(built(swept(stair, rectangle({-1, -1}, {1, 1}), turning("0.001°"))));
    CHECK(volumeOf(turned) == Approx(still).epsilon(2e-3));
    CHECK(checkBody(turned.state.bodies.rbegin()->second.value).faults.empty());
    // Mitred it cannot: that is said, with what can be done.
    Slots mitred = shrinking;
    mitred["corners"] = std::string("mitred");
    CHECK(faultOf(swept(stair, circleLine(2.5), mitred)).code == "sweep.corners");
    // Kept parallel it goes on as it stands: its area by the height over it.
    const auto parallel = built(
        swept(corners({{0, 0}, {10, 20}, {0, 40}}), circleLine(3),
              {{"stand", std::string("kept parallel")}, {"placing", std::string("where it is drawn")}}));
    CHECK(volumeOf(parallel) == Approx(kPi * 9 * 40).epsilon(1e-6));
}

TEST_CASE("A loop with a single corner is closed there") {
    Drawing drop;
    drawArcThrough(drop, {10, 10}, {0, 10 + 10 * std::sqrt(2.0) + 10}, {-10, 10});
    drop.draw(StrokeKind::Line, {{-10, 10}, {0, 0}});
    drop.draw(StrokeKind::Line, {{0, 0}, {10, 10}});
    // The arc leaves the lines squarely enough to be round there: a drop about (0, 20).
    double length = 0;
    for (const Stroke& s : drop.strokes)
        for (const Curve2& c : curvesOf(drop, s)) length += c.length();
    const auto r = built(swept(drop, circleLine(1.5)));
    CHECK(checkBody(r.state.bodies.rbegin()->second.value).faults.empty());
    CHECK(volumeOf(r) == Approx(kPi * 2.25 * length).epsilon(2e-2));
    // A spline that comes back to where it left.
    Drawing loop;
    loop.draw(StrokeKind::Poles, {{0, 0}, {30, 10}, {20, 40}, {-20, 40}, {-30, 10}, {0, 0}});
    const auto closed = built(swept(loop, circleLine(1.5)));
    CHECK(checkBody(closed.state.bodies.rbegin()->second.value).faults.empty());
    const auto curves = curvesOf(loop, loop.strokes[0]);
    length = 0;
    for (const Curve2& c : curves) length += c.length();
    CHECK(volumeOf(closed) == Approx(kPi * 2.25 * length).epsilon(1e-3));
}

TEST_CASE("What cannot be swept says where and what would fit") {
    // A bend of radius 10 and a section that reaches 12 into it.
    const Error e = faultOf(swept(hook(), circleLine(12)));
    CHECK(e.code == "sweep.fold");
    CHECK(e.place);
    CHECK(e.sentence.text().find("radius of 10 mm") != std::string::npos);
    CHECK(e.sentence.text().find("82 %") != std::string::npos); // 10 of 12
    CHECK(faultOf(swept(corners({{0, 0}, {0, 3}, {20, 3}}), circleLine(4))).code == "sweep.corner");
    CHECK(faultOf(swept(corners({{0, 0}, {0, 20}, {1, 0}}), circleLine(0.4))).code == "sweep.back");
    Part p = swept(hook(), circleLine(2));
    p.steps[2].slots["path"] = References{};
    CHECK(faultOf(p).code == "path.none");
    p.steps[2].slots["path"] = References{"chain of stroke 99 of step 1"};
    CHECK(faultOf(p).code == "reference.lost");
    const Drawing d = hook();
    const auto stroke = [&](std::size_t k) {
        return "stroke " + std::to_string(d.strokes[k].id) + " of step 1";
    };
    p.steps[2].slots["path"] = References{stroke(0), stroke(2)};
    CHECK(faultOf(p).code == "path.gap");
    p.steps[2].slots["path"] = References{stroke(1), stroke(0)};
    CHECK(volumeOf(built(p)) == Approx(kPi * 4 * (20 + 5 * kPi)).epsilon(1e-9));
}

namespace {

/// A handle's line: out of a wall at x = 0, round and back; over a block from x = -20 to 0, 80 high.
Part withHandle(double in, const Slots& more) {
    Part p;
    add(p, "draw",
        {{"name", std::string("foot")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({-20, -15}, {0, 15}))}});
    add(p, "extrude", {{"outline", std::string("foot")}, {"length", std::string("80 mm")}});
    Drawing way = corners({{-in, 20}, {10, 20}});
    drawArcThrough(way, {10, 20}, {30, 40}, {10, 60});
    way.draw(StrokeKind::Line, {{10, 60}, {-in, 60}});
    add(p, "draw", {{"name", std::string("handle")}, {"drawing", DrawingSlot(way)}});
    add(p, "draw",
        {{"name", std::string("grip")},
         {"plane", std::string("side")},
         {"drawing", DrawingSlot(circleLine(4))}});
    Slots slots{{"outline", std::string("grip")}, {"path", References{chainOfStep(p, 2)}}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "sweep", slots);
    return p;
}

} // namespace

TEST_CASE("A handle that begins within a wall, or goes on to one, is one piece with it") {
    const double block = 20 * 30 * 80, outside = kPi * 16 * (2 * 10 + 20 * kPi);
    const auto within = built(withHandle(3, {}));
    CHECK(within.state.bodies.size() == 1);
    CHECK(volumeOf(within) == Approx(block + outside).epsilon(1e-7));
    // Drawn short of the wall by 3 at its end it goes on to it.
    Part p = withHandle(3, {});
    Drawing way = p.steps[2].drawing("drawing");
    way.strokes.pop_back();
    way.draw(StrokeKind::Line, {{10, 60}, {3, 60}});
    p.steps[2].slots["drawing"] = DrawingSlot(way);
    CHECK(volumeOf(built(p)) == Approx(block + outside - kPi * 16 * 3).epsilon(1e-7));
    p.steps[4].slots["end"] = std::string("on to");
    p.steps[4].slots["end face"] =
        References{"side " + std::to_string(p.steps[0].drawing("drawing").strokes[1].id) + " of step 2"};
    CHECK(volumeOf(built(p)) == Approx(block + outside).epsilon(1e-7));
    p.steps[4].slots["end face"] = References{"end of step 2"}; // its top: the path does not come there
    CHECK(faultOf(p).code == "sweep.no-end");
    // Round corners it goes on to the wall as well, mitred or rounded.
    Part q = withHandle(0, {{"end", std::string("on to")}});
    const Drawing angular = corners({{0, 20}, {30, 20}, {30, 60}, {10, 60}});
    q.steps[2].slots["drawing"] = DrawingSlot(angular);
    q.steps[4].slots["path"] = References{chainOfStep(q, 2)};
    q.steps[4].slots["end face"] =
        References{"side " + std::to_string(q.steps[0].drawing("drawing").strokes[1].id) + " of step 2"};
    CHECK(volumeOf(built(q)) == Approx(block + kPi * 16 * 100).epsilon(1e-7));
    q.steps[4].slots["corners"] = std::string("rounded");
    // As much more as a quarter of a ball's half is than what the mitre has there.
    const double more = 2 * (kPi / 2 - 2) * 2 / 3. * 64;
    CHECK(volumeOf(built(q)) == Approx(block + kPi * 16 * 100 + more).epsilon(1e-7));
    q.steps[4].slots["end face"] =
        References{"side " + std::to_string(q.steps[0].drawing("drawing").strokes[0].id) + " of step 2"};
    CHECK(faultOf(q).code == "sweep.end-before");
}

TEST_CASE("A section is led by a line, and open strokes are swept as a wall") {
    // A straight path, a helix about it: the section turns with it, its area stays.
    Part p;
    add(p, "draw", {{"name", std::string("way")}, {"drawing", DrawingSlot(corners({{0, 0}, {0, 40}}))}});
    add(p, "curve",
        {{"radius", std::string("10 mm")},
         {"sized", std::string("by height and turns")},
         {"height", std::string("40 mm")},
         {"turns", std::string("0.5")}});
    add(p, "draw",
        {{"name", std::string("bar")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({-3, -1}, {3, 1}))}});
    add(p, "sweep",
        {{"outline", std::string("bar")},
         {"path", References{chainOfStep(p, 0)}},
         {"stand", std::string("led by")},
         {"lead", References{"curve of step 2"}}});
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(12 * 40).epsilon(1e-6));
    // Turned by half a turn in all; half way the bar stands across.
    const Box box = envelope(r.state.bodies.rbegin()->second.value);
    CHECK(box.size().y == Approx(2 * std::hypot(3, 1)).epsilon(1e-3));
    p.steps[3].slots["lead"] = References{};
    CHECK(faultOf(p).code == "path.none");
    // An open angle as a wall 1 thick, inside of it.
    Part q = swept(hook(), corners({{-4, 4}, {-4, -4}, {4, -4}}),
                   {{"fill", std::string("as a wall of")},
                    {"thickness", std::string("1 mm")},
                    {"wall side", std::string("inside")}});
    const double area = volumeOf(built(q)) / (50 + 5 * kPi);
    CHECK(area > 14);
    CHECK(area < 17); // 8 + 8, less or more by a corner, and its middle is not on the path
}

TEST_CASE("A section is led by a face: it stands on it all along") {
    // A rib along a helix on a tube: its feet stay on the wall, so it reaches as far from the axis
    // everywhere.
    Part p;
    add(p, "draw",
        {{"name", std::string("foot")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(circleLine(20))}});
    add(p, "extrude", {{"outline", std::string("foot")}, {"length", std::string("60 mm")}});
    add(p, "curve",
        {{"radius", std::string("20 mm")},
         {"sized", std::string("by height and turns")},
         {"height", std::string("30 mm")},
         {"turns", std::string("1.5")},
         {"level", std::string("10 mm")}});
    add(p, "draw",
        {{"name", std::string("rib")},
         {"plane", std::string("front")},
         {"drawing", DrawingSlot(rectangle({-1, -1}, {3, 1}))}});
    add(p, "sweep",
        {{"outline", std::string("rib")},
         {"path", References{"curve of step 3"}},
         {"stand", std::string("led by the face")},
         {"lead face",
          References{"side " + std::to_string(p.steps[0].drawing("drawing").strokes[0].id) + " of step 2"}},
         {"does", std::string("as new body")},
         {"body", std::string("rib")}});
    const auto r = built(p);
    const Box box = envelope(r.state.body("rib"));
    // The outer corners stand 3 out and 1 to the side: square to the wall, not to the axis.
    const double far = std::hypot(23, std::cos(std::atan2(30, 2 * kPi * 1.5 * 20)));
    for (const double reach : {-box.low.x, -box.low.y, box.high.y}) CHECK(reach == Approx(far).margin(0.1));
    // 4 by 2 and its middle 1 outside of the helix: longer by its radius, by Pappus' rule for the turn.
    const double per = 2 * kPi * 1.5 * 20, slope = std::hypot(per, 30);
    const double bend = (per / 20) * (per / 20) * 20 / (slope * slope); // of the helix, 1/mm
    CHECK(volumeOf(r, "rib") == Approx(8 * slope * (1 + bend)).epsilon(1e-4));
}

TEST_CASE("Ends are rounded over: half a ball over a round one, a dome over any other") {
    const double length = 20 + 5 * kPi + 30;
    const Slots round = text("caps", "round");
    CHECK(volumeOf(built(swept(hook(), circleLine(2), round))) ==
          Approx(kPi * 4 * length + 4. / 3 * kPi * 8).epsilon(1e-8));
    CHECK(volumeOf(built(swept(hook(), circleLine(2), text("caps", "round at its end")))) ==
          Approx(kPi * 4 * length + 2. / 3 * kPi * 8).epsilon(1e-8));
    // Every level of a dome is the section, shrunk: its area goes with the square of the cosine, which is two
    // thirds of a prism as high in all. It is as high as the section is half across.
    const double area = 6 * 3 - (4 - kPi) * 0.8 * 0.8;
    const auto r = built(swept(hook(), roundedLine(6, 3, 0.8), round));
    CHECK(volumeOf(r) == Approx(area * length + 2 * area * 1.5 * 2 / 3).epsilon(1e-7));
    CHECK(volumeOf(built(swept(wave(), roundedLine(5, 3, 0.6), round))) >
          volumeOf(built(swept(wave(), roundedLine(5, 3, 0.6)))));
    Drawing hose = circleLine(3);
    hose.draw(StrokeKind::Circle, {{0, 0}}, {2});
    CHECK(faultOf(swept(hook(), hose, round)).code == "sweep.cap-hollow");
    // Closed in itself it has no ends.
    CHECK(volumeOf(built(swept(ring(), circleLine(2), round))) ==
          Approx(volumeOf(built(swept(ring(), circleLine(2))))));
}

TEST_CASE("A section grows by stations: its volume is its area times the square of its size, summed up") {
    const auto part = [](const Stations& rows, const char* change, const Drawing& path) {
        Part p;
        add(p, "outline",
            {{"name", std::string("belly")}, {"stations", rows}, {"tolerance", std::string("0")}});
        add(p, "draw", {{"name", std::string("way")}, {"drawing", DrawingSlot(path)}});
        add(p, "draw",
            {{"name", std::string("section")},
             {"plane", std::string("ground")},
             {"drawing", DrawingSlot(circleLine(3))}});
        add(p, "sweep",
            {{"outline", std::string("section")},
             {"path", References{chainOfStep(p, 1)}},
             {"change", std::string(change)},
             {"turn", std::string("90°")},
             {"shape", std::string("belly")}});
        return p;
    };
    const Stations rows{{"0", "20", false, ""}, {"30", "34", false, ""}, {"70", "16", false, ""}};
    for (const char* change : {"growing as", "turning by and growing as"}) {
        const auto r = built(part(rows, change, wave()));
        // By the outline itself: its radius over its height, by Simpson's rule along its parameter.
        const BSpline2& curve = r.state.outlines.begin()->second.value->wall.curve;
        double sum = 0;
        const int n = 4000;
        for (int i = 0; i <= n; ++i) {
            const double t = double(i) / n, x = curve.at(t).x / 10;
            sum += x * x * curve.at(t, 1).y * (i == 0 || i == n ? 1 : i % 2 ? 4 : 2);
        }
        CHECK(volumeOf(r) == Approx(kPi * 9 * lengthOf(wave()) * sum / (3 * n) / 70).epsilon(1e-6));
    }
    const auto r =
        Engine().regenerate(part({{"0", "20", false, ""}, {"30", "0", false, ""}}, "growing as", wave()));
    CHECK_FALSE(r.steps.back().ok);
    Part p = part(rows, "growing as", wave());
    p.steps.back().slots["shape"] = std::string("way");
    CHECK(faultOf(p).code == "sweep.shape");
    p.steps.back().slots["shape"] = std::string("nobody");
    CHECK(faultOf(p).code == "sweep.shape");
}
