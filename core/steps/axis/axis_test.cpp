#include "core/document/axes.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf axisProbe("axis", [] {
    Probe p{cup(), 0};
    p.step = add(p.part, "axis", {{"line", std::string("wall of step 2")}}).id;
    p.shows = {{"line", text("line", "depth axis")},
               {"planes", text("way", "where planes meet")},
               {"points",
                {{"way", std::string("through points")},
                 {"points", References{"spot 0 0 0 on floor of step 2", "spot 9 0 0 on floor of step 2"}}}}};
    p.hides = {{"plane that is not asked for", text("from", "ground")}};
    return p;
});

Axis axisOf(Part p, const Slots& slots) {
    add(p, "axis", slots);
    const auto r = built(p);
    REQUIRE(r.state.axes.size() == 1);
    return r.state.axes.begin()->second.value;
}

std::string faultWith(Part p, const Slots& slots) {
    add(p, "axis", slots);
    return faultOf(p).code;
}

void checkSame(const Axis& a, Vec3 through, Vec3 along) {
    CHECK(length(a.direction - unit(along)) < 1e-9);
    const Vec3 away = a.origin - through;
    CHECK(length(away - unit(along) * dot(away, unit(along))) < 1e-7);
}

std::string sideOf(const Part& p, std::size_t stroke) {
    return "side " + std::to_string(p.steps[0].drawing("drawing").strokes[stroke].id) + " of step 2";
}

} // namespace

TEST_CASE("Axes of edges, faces, planes, points and areas lie where geometry says") {
    const Part p = block();
    const std::string right = sideOf(p, 1), low = sideOf(p, 0);
    checkSame(axisOf(p, {{"line", "where " + right + " meets " + low}}), {20, -15, 0}, {0, 0, 1});
    checkSame(axisOf(p, {{"line", "where " + right + " meets end of step 2"}}), {20, 0, 20}, {0, -1, 0});
    checkSame(axisOf(cup(), {{"line", std::string("wall of step 2")}}), {0, 0, 0}, {0, 0, 1});
    checkSame(axisOf(cup(), {{"line", std::string("where wall of step 2 meets floor of step 2")}}), {0, 0, 0},
              {0, 0, 1});
    checkSame(axisOf(p, {{"way", std::string("where planes meet")},
                         {"from", right},
                         {"to", std::string("end of step 2")}}),
              {20, 0, 20}, {0, -1, 0});
    checkSame(
        axisOf(p, {{"way", std::string("through points")},
                   {"points", References{"spot 1 2 20 on end of step 2", "spot 4 6 20 on end of step 2"}}}),
        {1, 2, 20}, {-3, -4, 0});
    checkSame(axisOf(p, {{"way", std::string("square to a face")},
                         {"face", References{right}},
                         {"point", References{"spot 1 2 20 on end of step 2"}}}),
              {1, 2, 20}, {1, 0, 0});
    // The middle of an area with a hole to one side: a square of 40 less a disc of radius 5 at 10.
    Part q;
    Drawing d = rectangle({-20, -20}, {20, 20});
    d.draw(StrokeKind::Circle, {{10, 0}}, {5});
    add(q, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
    const double disc = 25 * std::numbers::pi;
    checkSame(
        axisOf(q, {{"way", std::string("through the middle of")}, {"outline", q.steps[0].slots["name"]}}),
        {-10 * disc / (1600 - disc), 0, 0}, {0, 0, 1});
}

TEST_CASE("An axis that is not there says what to pick instead") {
    const Part p = block();
    CHECK(faultWith(p, {{"line", std::string()}}) == "axis.none");
    CHECK(faultWith(p, {{"line", std::string("no such axis")}}) == "axis.lost");
    CHECK(faultWith(p, {{"line", sideOf(p, 0)}}) == "axis.straight");
    CHECK(faultWith(p, {{"way", std::string("where planes meet")},
                        {"from", std::string("ground")},
                        {"to", std::string("end of step 2")}}) == "axis.parallel");
    CHECK(faultWith(p, {{"way", std::string("through points")},
                        {"points", References{"spot 1 2 20 on end of step 2"}}}) == "axis.points");
    Part q;
    Drawing d = rectangle({0, 0}, {5, 5});
    d.draw(StrokeKind::Circle, {{20, 0}}, {3});
    add(q, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
    CHECK(faultWith(q, {{"way", std::string("through the middle of")},
                        {"outline", q.steps[0].slots["name"]}}) == "axis.areas");
}

TEST_CASE("An axis has a name that other slots use; its name is no word that means something else") {
    Part p = block();
    const int axis = add(p, "axis", {{"line", std::string("depth axis")}, {"name", std::string("hinge")}}).id;
    CHECK(axisInWords(p, "hinge") == "hinge");
    CHECK(axisInWords(p, "upright axis") == "the upright axis");
    CHECK_FALSE(renameThing(p, axis, "name", "cross axis").empty());
    CHECK_FALSE(renameThing(p, axis, "name", kOwnAxis).empty());
    const int turned = add(p, "revolve", {{"about", std::string("hinge")}}).id;
    CHECK(renameThing(p, axis, "name", "pin").empty());
    CHECK(p.findStep(turned)->text("about") == "pin");
}
