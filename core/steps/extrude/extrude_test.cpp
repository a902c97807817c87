#include "core/base/angles.hpp"
#include "core/document/areas.hpp"
#include "core/inspect/mass.hpp"
#include "core/sketch/splines.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

/// The block with a disc of radius 6 drawn on the ground and extruded by 30: steps 3 and 4.
Part withDisc(const std::string& does, Vec2 at = {0, 0}) {
    Part p = block();
    Drawing disc;
    disc.draw(StrokeKind::Circle, {at}, {6});
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(disc)}});
    add(p, "extrude", {{"length", std::string("30 mm")}, {"does", does}});
    return p;
}

const ProbeOf extrudeProbe("extrude", [] {
    Probe p{withDisc("taking from"), 4};
    p.shows = {
        {"length", text("length", "12 mm")},
        {"way", text("way", "both ways together")},
        {"second length", {{"way", std::string("forward, and back by")}, {"second", std::string("7 mm")}}},
        {"level", {{"begin", std::string("a level at")}, {"level", std::string("4 mm")}}},
        {"end", text("end", "to the far side")},
        {"face", {{"end", std::string("to")}, {"face", References{"end of step 2"}}}},
        {"gap", {{"end", std::string("short of")}, {"face", References{"end of step 2"}}}},
        {"sense",
         {{"end", std::string("to the next wall")},
          {"sense", std::string("backward")},
          {"begin", std::string("a level at")},
          {"level", std::string("10 mm")}}},
        {"does", text("does", "adding to")}};
    p.hides = {{"length back of one way", text("second", "7 mm")},
               {"distance of no face", text("gap", "7 mm")},
               {"level where it begins at the drawing", text("level", "7 mm")}};
    return p;
});

} // namespace

TEST_CASE("An oval stands on any plane") {
    for (const char* plane : {"front", "ground", "side"}) {
        Part p;
        Drawing oval;
        oval.draw(StrokeKind::Ellipse, {{3, 2}, {3 + 16, 2 + 12}}, {12});
        add(p, "draw", {{"plane", std::string(plane)}, {"drawing", DrawingSlot(oval)}});
        add(p, "extrude", {{"length", std::string("15 mm")}});
        const auto r = Engine().regenerate(p);
        INFO(plane << faults(r));
        REQUIRE(allFine(r));
        const auto m = massProperties(r.state.bodies.begin()->second.value, Density(1e-3));
        CHECK(m->volume == Approx(std::numbers::pi * 20 * 12 * 15).epsilon(1e-9));
    }
}

TEST_CASE("A drawn area is moved along by a length, one way, the other or both ways together") {
    for (const auto& [way, low, high] :
         {std::tuple{"forward", 0.0, 20.0}, {"backward", -20.0, 0.0}, {"both ways together", -10.0, 10.0}}) {
        Part p = block();
        p.steps.back().slots["way"] = std::string(way);
        const auto r = built(p);
        INFO(way);
        CHECK(volumeOf(r) == Approx(40 * 30 * 20).epsilon(1e-12));
        const Box box = envelope(r.state.body("body"));
        CHECK(box.low.z == Approx(low).margin(1e-6));
        CHECK(box.high.z == Approx(high).margin(1e-6));
        CHECK(faceCount(r.state.body("body")) == 6);
    }
}

TEST_CASE("What is added, taken away and kept in common has the volume of its closed form") {
    const double whole = 40 * 30 * 20, disc = kPi * 36;
    CHECK(volumeOf(built(withDisc("adding to"))) == Approx(whole + disc * 10).epsilon(1e-10));
    CHECK(volumeOf(built(withDisc("taking from"))) == Approx(whole - disc * 20).epsilon(1e-10));
    CHECK(volumeOf(built(withDisc("common with"))) == Approx(disc * 20).epsilon(1e-10));
    const auto apart = built(withDisc("as new body", {60, 0}));
    CHECK(apart.state.bodies.size() == 2);
    CHECK(volumeOf(apart, "body") == Approx(whole).epsilon(1e-12));
    CHECK(volumeOf(apart, "body 2") == Approx(disc * 30).epsilon(1e-10));
}

TEST_CASE("A wall that is a spline moved along is measured as the drawing's area says") {
    // The kernel's own quadrature is off by some per cent here: ours must not be.
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 0}, {60, 0}});
    d.draw(StrokeKind::Line, {{60, 0}, {60, 10}});
    std::vector<Vec2> nodes;
    for (int i = 0; i <= 12; ++i) {
        nodes.push_back({60 - 5.0 * i, 10 + 4 * std::sin(1.1 * i)});
        nodes.push_back({});
    }
    nodes.front() = {60, 10};
    nodes[nodes.size() - 2] = {0, 12};
    std::vector<Vec2> at;
    for (std::size_t i = 0; i < nodes.size(); i += 2) at.push_back(nodes[i]);
    relaxHandles(nodes, spansFor(at), {});
    d.draw(StrokeKind::Spline, nodes);
    d.draw(StrokeKind::Line, {{0, 12}, {0, 0}});
    const auto regions = findRegions(d).regions;
    REQUIRE(regions.size() == 1);
    double area = 0; // Green: the integral of x dy round the region
    for (const Side& s : regions[0].outer.sides) {
        constexpr int n = 20000;
        for (int i = 0; i < n; ++i) {
            const double t = (i + 0.5) / n;
            area += s.curve.at(t).x * s.curve.slope(t).y / n;
        }
    }
    Part p;
    add(p, "draw", {{"drawing", DrawingSlot(d)}});
    add(p, "extrude", text("length", "7 mm"));
    CHECK(volumeOf(built(p)) == Approx(std::fabs(area) * 7).epsilon(1e-6));
}

TEST_CASE("Faces are named by the strokes that made them and keep their names through a cut") {
    Part p = withDisc("taking from");
    const auto r = built(p);
    const Body& body = r.state.body("body");
    const auto stroke = [&](int step, std::size_t k) {
        return "side " + std::to_string(p.findStep(step)->drawing("drawing").strokes[k].id) + " of step " +
               std::to_string(step + 1);
    };
    for (std::size_t k = 0; k < 4; ++k)
        CHECK(resolveFaces(body, **parseFaceRef(stroke(1, k)))->items.size() == 1);
    for (const char* cap : {"start of step 2", "end of step 2"})
        CHECK(resolveFaces(body, **parseFaceRef(cap))->items.size() == 1);
    CHECK(resolveFaces(body, **parseFaceRef(stroke(3, 0)))->items.size() == 1);
    CHECK_FALSE(resolveFaces(body, **parseFaceRef("end of step 4")).ok()); // above the block
    // Read aloud, a face is called by its stroke.
    CHECK(referenceInWords(stroke(1, 2), p).find("line 3") != std::string::npos);
}

TEST_CASE("What cannot be extruded says why") {
    Part p = block();
    p.steps[0].slots["drawing"] = DrawingSlot(lineFrom({0, 0}, {5, 5}));
    CHECK(faultOf(p).code == "extrude.open");
    p = cup();
    add(p, "extrude", {{"outline", std::string("line of cup")}, {"does", std::string("as new body")}});
    CHECK(faultOf(p).code == "extrude.stations");
    CHECK(faultOf(withDisc("taking from", {80, 0})).code == "combine.apart");
    CHECK(faultOf(withDisc("adding to", {80, 0})).code == "combine.apart");
    CHECK(faultOf(withDisc("common with", {80, 0})).code == "combine.apart");
    CHECK_FALSE(faultOf(withDisc("adding to", {26, 0})).code.empty()); // touches along a line
    p = block();
    Drawing two = rectangle({0, 0}, {5, 5});
    for (const Vec2 low : {Vec2{20, 0}}) {
        const Vec2 at[] = {low, low + Vec2{5, 0}, low + Vec2{5, 5}, low + Vec2{0, 5}};
        for (std::size_t i = 0; i < 4; ++i) two.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]});
    }
    p.steps[0].slots["drawing"] = DrawingSlot(two);
    CHECK(faultOf(p).code == "becoming.areas");
    p = withDisc("adding to");
    p.steps.back().slots["target"] = std::string("lid");
    CHECK(faultOf(p).code == "becoming.body");
}

TEST_CASE("Several areas of a drawing are chosen, and each is meant once") {
    Part p = block();
    Drawing d;
    const int a = d.draw(StrokeKind::Circle, {{-10, 0}}, {3}), b = d.draw(StrokeKind::Circle, {{0, 0}}, {2}),
              c = d.draw(StrokeKind::Circle, {{10, 0}}, {4});
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude", {{"length", std::string("30 mm")}, {"does", std::string("taking from")}});
    const double whole = 40 * 30 * 20;
    const auto left = [&](const Areas& areas) {
        p.steps.back().slots["area"] = areaText(areas);
        return volumeOf(built(p));
    };
    CHECK(left({{a}, {c}}) == Approx(whole - kPi * 20 * (9 + 16)).epsilon(1e-10));
    CHECK(left({{b}}) == Approx(whole - kPi * 20 * 4).epsilon(1e-10));
    CHECK(left({{b}, {b}}) == Approx(whole - kPi * 20 * 4).epsilon(1e-10));
    CHECK(left({}) == Approx(whole - kPi * 20 * (9 + 4 + 16)).epsilon(1e-10));
    p.steps.back().slots["area"] = std::string("999");
    CHECK(faultOf(p).code == "extrude.area");
    p.steps.back().slots["does"] = std::string("as new body");
    p.steps.back().slots["area"] = areaText({{a}, {c}});
    CHECK(faultOf(p).code == "becoming.areas");
}
