#include "core/base/angles.hpp"
#include "core/sketch/arcs.hpp"
#include "core/steps/shared/frames.hpp"
#include "tests/support/swept.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

int facesOf(const RegenResult& r) {
    return faceCount(r.state.bodies.rbegin()->second.value);
}

const ProbeOf sweepProbe("sweep", [] {
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

/// It closes smoothly.
Drawing ring() {
    Drawing d;
    d.draw(StrokeKind::Ellipse, {{0, 0}, {30, 0}}, {18});
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

TEST_CASE("A direction is carried over no way at all as it is") {
    // Where one piece of a path ends and the next begins there is only noise, which may point anywhere.
    const gp_Vec along(0, 0, 1), across(1, 0, 0);
    const gp_Pnt from(3, 4, 5);
    for (const gp_Vec& noise :
         {gp_Vec(4e-15, 0, 0), gp_Vec(0, 3e-14, 0), gp_Vec(1e-13, 2e-14, 5e-15), gp_Vec()})
        CHECK(carried(from, along, across, from.Translated(noise), along).Angle(across) < 1e-9);
    // Over a quarter of a circle it turns with that.
    const gp_Vec turned = carried({0, 0, 0}, along, across, {10, 0, 10}, {1, 0, 0});
    CHECK(turned.Angle(gp_Vec(0, 0, -1)) < 1e-9);
}
