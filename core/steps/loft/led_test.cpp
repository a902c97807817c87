// Lofts that are led: by guides, around a spine, by the walls that they go on from, and rings.

#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/places.hpp"
#include "core/sketch/splines.hpp"
#include "tests/support/handle_looks.hpp"
#include "tests/support/sections.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS.hxx>
#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kHundredth = 0.01 * kPi / 180; // of a degree

std::vector<int> allFaces(const Body& body) {
    std::vector<int> out;
    for (int f = 0; f < faceCount(body); ++f) out.push_back(f);
    return out;
}

/// The greatest distance of the places of a drawing from the body.
double offBody(const Body& body, const Drawing& d, const Plane& plane) {
    double worst = 0;
    for (const Stroke& s : d.strokes)
        for (const Curve2& c : curvesOf(d, s))
            for (int i = 0; i <= 60; ++i) {
                const Vec3 at = plane.at(c.at(i / 60.0));
                const auto near = nearestOnFaces(body, allFaces(body), at);
                worst = std::max(worst, near ? length(near->at - at) : 1e9);
            }
    return worst;
}

Plane level(double z) {
    return {{0, 0, z}, {1, 0, 0}, {0, 1, 0}};
}

Drawing bulge(double side, double low, double high, double out, double height) {
    Drawing d;
    d.draw(StrokeKind::Poles, {{side * low, 0},
                               {side * (low + out), height * 0.35},
                               {side * (high + out * 0.4), height * 0.7},
                               {side * high, height}});
    return d;
}

/// Round below, round above, and guides before and beside it.
Part guided(const std::vector<std::pair<Drawing, std::string>>& guides, const Slots& more = {}) {
    Part p;
    References sections{addSection(p, circleLine(20), 0), addSection(p, circleLine(12), 40)}, refs;
    for (const auto& [d, plane] : guides) refs.push_back(addDrawing(p, d, plane));
    Slots slots{{"sections", sections}, {"led", std::string("guided by")}, {"guides", refs}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "loft", slots);
    return p;
}

/// The one face that is not flat and rests on the last step alone.
int wallOf(const Body& body, int step) {
    for (int f = 0; f < faceCount(body); ++f) {
        const auto refs = referencesForFace(body, f);
        if (!planeOfFace(body, f) && !refs.empty() &&
            refs.front().find("of step " + std::to_string(step)) != std::string::npos)
            return f;
    }
    return -1;
}

struct Look {
    gp_Vec normal;
    double bend = 0; ///< normal curvature upwards, square to the level
};

/// Of a face at a place, in the direction that is level with its normal turned up.
Look lookAt(const Body& body, int face, const gp_Pnt& at) {
    const Handle(Geom_Surface) s = BRep_Tool::Surface(TopoDS::Face(body.shape().faces(face + 1)));
    GeomAPI_ProjectPointOnSurf foot(at, s);
    double u = 0, v = 0;
    foot.LowerDistanceParameters(u, v);
    gp_Pnt p;
    gp_Vec du, dv, duu, dvv, duv;
    s->D2(u, v, p, du, dv, duu, dvv, duv);
    Look out;
    out.normal = du.Crossed(dv).Normalized();
    const gp_Vec level(-at.Y(), at.X(), 0);
    const gp_Vec d = out.normal.Crossed(level.Normalized()).Normalized();
    const double e = du.Dot(du), f = du.Dot(dv), g = dv.Dot(dv), det = e * g - f * f;
    const double a = (d.Dot(du) * g - d.Dot(dv) * f) / det, b = (d.Dot(dv) * e - d.Dot(du) * f) / det;
    out.bend = a * a * duu.Dot(out.normal) + 2 * a * b * duv.Dot(out.normal) + b * b * dvv.Dot(out.normal);
    if (out.normal.Dot(gp_Vec(at.X(), at.Y(), 0)) < 0) out.normal.Reverse(), out.bend = -out.bend;
    return out;
}

} // namespace

TEST_CASE("Guides and sections are met") {
    const Drawing right = bulge(1, 20, 12, 9, 40), left = bulge(-1, 20, 12, 3, 40);
    for (const std::size_t count : {1, 2, 4}) {
        std::vector<std::pair<Drawing, std::string>> guides{{right, "front"}};
        if (count > 1) guides.push_back({left, "front"});
        if (count > 2) {
            guides.push_back({bulge(1, 20, 12, -3, 40), "side"});
            guides.push_back({bulge(-1, 20, 12, 5, 40), "side"});
        }
        INFO(count << " guides");
        const auto r = built(guided(guides));
        const Body& body = lastBody(r);
        CHECK(faceCount(body) == 3);
        CHECK(offBody(body, circleLine(20), level(0)) < 1e-3);
        CHECK(offBody(body, circleLine(12), level(40)) < 1e-3);
        for (const auto& [d, plane] : guides)
            CHECK(offBody(body, d, plane == "front" ? Plane() : Plane{{}, {0, 1, 0}, {0, 0, 1}}) < 1e-3);
    }
}

TEST_CASE("A guide that misses a section is told with how far and where") {
    const auto e = faultOf(guided({{bulge(1, 20, 12.5, 9, 40), "front"}}));
    CHECK(e.code == "loft.guide-misses");
    CHECK(e.sentence.text().find("0.5") != std::string::npos);
    REQUIRE(e.place);
    CHECK(length(*e.place - Vec3{12.5, 0, 40}) < 1e-6);
    // Its point is held where the section runs through its plane: then it meets, now and when the section
    // grows.
    REQUIRE(e.remedies.size() == 1);
    CHECK(e.remedies.front().sentence.text() == "Meet section 2 here");
    Part p = guided({{bulge(1, 20, 12.5, 9, 40), "front"}});
    const auto tie = [&] {
        const auto fault = faultOf(p);
        REQUIRE(fault.remedies.size() == 1);
        const Remedy& r = fault.remedies.front();
        typeIntoSlot(p, r.step, r.slot, r.value);
    };
    tie();
    CHECK(offBody(lastBody(built(p)), circleLine(12), level(40)) < 1e-3);
    p.steps[3].slots["drawing"] = DrawingSlot(circleLine(13));
    CHECK(offBody(lastBody(built(p)), circleLine(13), level(40)) < 1e-3);
    // The other end, too, when the first section grows.
    p.steps[1].slots["drawing"] = DrawingSlot(circleLine(20.4));
    tie();
    CHECK(offBody(lastBody(built(p)), circleLine(20.4), level(0)) < 1e-3);
}

namespace {

/// A dome's foot: an arc turned about the axis up to a rim, and a loft from there on.
Part onADome(const std::string& leave) {
    Part p;
    Drawing d; // a quarter of a circle of 40 about (-10, 0), cut at a height of 20
    const double x = -10 + std::sqrt(40. * 40 - 20 * 20), half = std::asin(0.5) / 2;
    d.draw(StrokeKind::Line, {{0, 0}, {30, 0}});
    drawArcThrough(d, {30, 0}, {-10 + 40 * std::cos(half), 40 * std::sin(half)}, {x, 20});
    d.draw(StrokeKind::Line, {{x, 20}, {0, 20}});
    d.draw(StrokeKind::Line, {{0, 20}, {0, 0}});
    add(p, "draw", {{"name", std::string("dome")}, {"drawing", DrawingSlot(d)}});
    const int turned =
        add(p, "revolve", {{"outline", std::string("dome")}, {"body", std::string("dome")}}).id;
    const std::string top = "side " + std::to_string(d.strokes[2].id) + " of step " + std::to_string(turned);
    const std::string oval = addSection(p, ellipseLine(12, 7), 55);
    add(p, "loft",
        {{"sections", References{"rim of " + top, oval}},
         {"leave", leave},
         {"does", std::string("adding to")}});
    return p;
}

} // namespace

TEST_CASE("A loft goes on from a wall in its direction, and with its curvature") {
    for (const bool curved : {false, true}) {
        const auto r = built(onADome(curved ? "on evenly curved" : "on from the walls there"));
        const Body& body = lastBody(r);
        const double x = -10 + std::sqrt(40. * 40 - 20 * 20);
        const int loft = r.steps.back().id;
        const int above = wallOf(body, loft);
        REQUIRE(above >= 0);
        for (int i = 0; i < 40; ++i) {
            const double w = 2 * kPi * (i + 0.4) / 40;
            const gp_Pnt at(x * std::cos(w), x * std::sin(w), 20);
            const Look up = lookAt(body, above, at);
            // Below, the normal looks away from the arc's middle; it is bent to a radius of 40.
            const gp_Vec below = gp_Vec((x + 10) * std::cos(w), (x + 10) * std::sin(w), 20).Normalized();
            CHECK(up.normal.Angle(below) < kHundredth);
            if (curved) CHECK(up.bend == Approx(-1. / 40).margin(1e-3));
        }
    }
    const auto free = built(onADome("freely"));
    const double x = -10 + std::sqrt(40. * 40 - 20 * 20);
    const Look up = lookAt(lastBody(free), wallOf(lastBody(free), free.steps.back().id), gp_Pnt(x, 0, 20));
    CHECK(up.normal.Angle(gp_Vec(x + 10, 0, 20)) > 0.1);
}

namespace {

/// Circles of 5 around the axis, 30 from it.
References roundTheAxis(Part& p) {
    constexpr int kCount = 6;
    Drawing spokes;
    for (int i = 0; i < kCount; ++i)
        spokes.draw(StrokeKind::Line, {{0, 0}, turnedBy({50, 0}, 2 * kPi * i / kCount)});
    const int drawn = add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(spokes)}}).id;
    References refs;
    for (int i = 0; i < kCount; ++i) {
        const std::string name = "through spoke " + std::to_string(i);
        const std::string edge =
            "stroke " + std::to_string(spokes.strokes[static_cast<std::size_t>(i)].id) + " of step ";
        add(p, "plane",
            {{"name", name},
             {"way", std::string("through an edge")},
             {"edge", References{edge + std::to_string(drawn)}},
             {"angle", std::string("90°")}});
        const auto so = built(p);
        const Plane plane = so.state.planes.rbegin()->second.value;
        const double w = 2 * kPi * i / kCount;
        refs.push_back(
            addDrawing(p, circleLine(5, plane.foot({30 * std::cos(w), 30 * std::sin(w), 0})), name));
    }
    return refs;
}

} // namespace

TEST_CASE("Sections around an axis close to a ring with one smooth wall") {
    Part p;
    const References refs = roundTheAxis(p);
    add(p, "loft", {{"sections", refs}, {"round", std::string("closed")}});
    const auto r = built(p);
    CHECK(faceCount(lastBody(r)) == 1);
    // Splines through six sections come near to the torus: 2 pi^2 R r^2.
    CHECK(volumeOf(r) == Approx(2 * kPi * kPi * 30 * 25).epsilon(0.02));
}

TEST_CASE("A ring is guided by closed lines that run round with it") {
    constexpr double kTorus = 2 * kPi * kPi * 30 * 25;
    Part p;
    const References refs = roundTheAxis(p);
    Slots slots{{"sections", refs}, {"round", std::string("closed")}};
    Part free = p;
    add(free, "loft", slots);
    const auto unguided = built(free);
    // Drawn against each other, and beginning elsewhere than at the first section.
    const Drawing outer = circleLine(35);
    Drawing inner;
    inner.draw(StrokeKind::Ellipse, {{0, 0}, {15, 20}}, {25});
    slots["led"] = std::string("guided by");
    slots["guides"] = References{addDrawing(p, outer, "ground"), addDrawing(p, inner, "ground")};
    Part both = p;
    add(both, "loft", slots);
    const auto r = built(both);
    CHECK(faceCount(lastBody(r)) == 1);
    CHECK(checkBody(lastBody(r)).valid);
    for (const Drawing* d : std::initializer_list<const Drawing*>{&outer, &inner}) {
        CHECK(offBody(lastBody(unguided), *d, level(0)) > 1e-2);
        CHECK(offBody(lastBody(r), *d, level(0)) < 1e-3);
    }
    CHECK(std::fabs(volumeOf(r) / kTorus - 1) < 0.3 * std::fabs(volumeOf(unguided) / kTorus - 1));
    // Where the line begins and ends, the wall goes on without a kink.
    const int wall = wallOf(lastBody(r), both.steps.back().id);
    for (const double turn : {0.0, kPi / 3, 2.0}) {
        const auto normalAt = [&](double angle) {
            return lookAt(lastBody(r), wall, gp_Pnt(30 * std::cos(angle), 30 * std::sin(angle), 5)).normal;
        };
        CHECK(normalAt(turn - 1e-7).Angle(normalAt(turn + 1e-7)) < 1e-4);
    }
    // What ends does not run round.
    Part open = p;
    Drawing half;
    drawArcThrough(half, {35, 0}, {0, 35}, {-35, 0});
    slots["guides"] = References{addDrawing(open, half, "ground")};
    add(open, "loft", slots);
    CHECK(Engine().regenerate(open).steps.back().error->code == "loft.guide-ends");
    slots["led"] = std::string("around the spine");
    Part spined = p;
    add(spined, "loft", slots);
    CHECK(Engine().regenerate(spined).steps.back().error->code == "loft.ring-spine");
}

TEST_CASE("The strength of an end is an arrow along the wall there, and goes with it") {
    Part p;
    const References sections{addSection(p, circleLine(20), 0), addSection(p, circleLine(12), 40)};
    add(p, "loft",
        {{"sections", sections},
         {"leave", std::string("squarely")},
         {"leave strength", std::string("1.5")},
         {"arrive", std::string("squarely")}});
    const auto r = built(p);
    const Handle& leaves = handleOf(r, "leave strength");
    CHECK(leaves.value == Approx(1.5));
    CHECK(leaves.from.z == Approx(0).margin(1e-9));
    CHECK(leaves.direction.z == Approx(1));
    CHECK(handleOf(r, "arrive strength").direction.z == Approx(-1));
    // A third of the way to the next section for each 1: the pole of a cubic.
    const double chord = std::hypot(40, 8);
    CHECK(tipOf(leaves).z == Approx(1.5 * chord / 3));
    p.steps.back().slots["leave"] = std::string("freely");
    const auto freely = built(p);
    for (const Handle& h : freely.steps.back().aids.handles) CHECK(h.slot != "leave strength");
}

TEST_CASE("Around a spine the middle follows it") {
    Part p;
    Drawing spine; // a quarter of a circle of 40, from the origin up and over
    drawArcThrough(spine, {0, 0}, {40 - 40 * std::cos(kPi / 4), 40 * std::sin(kPi / 4)}, {40, 40});
    const std::string way = addDrawing(p, spine, "front");
    const std::string first = addSection(p, circleLine(6), 0);
    add(p, "plane",
        {{"name", std::string("far")}, {"from", std::string("side")}, {"distance", std::string("40 mm")}});
    const std::string last = addDrawing(p, circleLine(6, {0, 40}), "far");
    add(p, "loft",
        {{"sections", References{first, last}},
         {"led", std::string("around the spine")},
         {"spine", References{way}}});
    // A quarter of a torus (Pappus).
    CHECK(volumeOf(built(p)) == Approx(kPi * 36 * 20 * kPi).epsilon(1e-6));
}

namespace {

/// Half of an oval that is upright: from below to above on the right of the middle, with level tangents
/// there, closed by a line in the middle.
Drawing halfOval(double wide, double low, double high) {
    Drawing d;
    d.draw(StrokeKind::Poles,
           {{0, low}, {wide * 0.7, low}, {wide * 1.25, (low + high) / 2}, {wide * 0.6, high}, {0, high}});
    d.draw(StrokeKind::Line, {{0, high}, {0, low}});
    return d;
}

/// The right half of a grip along y: four halves of ovals, and guides through their highest and lowest
/// points.
Part halfGrip() {
    Part p;
    const double at[] = {0, 30, 75, 120}, wide[] = {9, 12, 10, 14}, low[] = {-10, -14, -12, -15},
                 high[] = {10, 13, 12, 16};
    References sections;
    for (int i = 0; i < 4; ++i) {
        const std::string name = "across " + std::to_string(i);
        add(p, "plane", {{"name", name}, {"from", std::string("front")}, {"distance", inMm(-at[i])}});
        sections.push_back(addDrawing(p, halfOval(wide[i], low[i], high[i]), name));
    }
    // In the side plane: y across, z up. Splines through the four.
    const auto through = [&](const double(&z)[4]) {
        Drawing d;
        std::vector<Vec2> nodes;
        for (int i = 0; i < 4; ++i) {
            nodes.push_back({at[i], z[i]});
            nodes.push_back({at[i] + 8, z[i]});
        }
        const std::vector<double> spans = spansFor(std::vector<Vec2>{nodes[0], nodes[2], nodes[4], nodes[6]});
        relaxHandles(nodes, spans, std::vector<bool>(4, false));
        d.draw(StrokeKind::Spline, nodes, spans);
        return d;
    };
    const std::string above = addDrawing(p, through(high), "side"),
                      below = addDrawing(p, through(low), "side");
    add(p, "loft",
        {{"sections", sections}, {"led", std::string("guided by")}, {"guides", References{above, below}}});
    return p;
}

} // namespace

TEST_CASE("A grip's half between guides, mirrored: one body, and no seam to be measured") {
    Part p = halfGrip();
    const auto half = built(p);
    const double volume = volumeOf(half);
    int flat = 0;
    for (int f = 0; f < faceCount(lastBody(half)); ++f) flat += planeOfFace(lastBody(half), f).has_value();
    CHECK(flat == 3); // the middle, and both ends
    add(p, "mirror", {{"plane", std::string("side")}, {"what", std::string("joined with it")}});
    const auto whole = built(p);
    const Body& body = lastBody(whole);
    CHECK(volumeOf(whole) == Approx(2 * volume).epsilon(1e-6));
    // Along the middle both walls look straight up or down: no crease.
    for (int f = 0; f < faceCount(body); ++f) {
        if (planeOfFace(body, f)) continue;
        for (int i = 1; i < 40; ++i)
            for (const double side : {-1.0, 1.0}) {
                const auto near = nearestOnFace(body, f, {0, 3.0 * i, side * 40});
                if (!near || std::fabs(near->at.x) > 1e-4) continue;
                CHECK(std::fabs(near->normal.x) < kHundredth);
            }
    }
    CHECK(faceCount(body) == 4); // two walls, and the ends, which are whole
}

TEST_CASE("A wall along sections is guided, too: both sides of it go as the guides do") {
    const std::vector<std::pair<Drawing, std::string>> guides{{bulge(1, 20, 12, 5, 40), "front"},
                                                              {bulge(-1, 20, 12, 5, 40), "front"},
                                                              {bulge(1, 20, 12, 2, 40), "side"},
                                                              {bulge(-1, 20, 12, 2, 40), "side"}};
    const Plane front{{0, 0, 0}, {1, 0, 0}, {0, 0, 1}}, side{{0, 0, 0}, {0, 1, 0}, {0, 0, 1}};
    struct Case {
        const char* side;
        double inner, outer; // beside the drawing
    };
    for (const Case& c : {Case{"inside", -2, 0}, Case{"outside", 0, 2}, Case{"on both sides", -1, 1}}) {
        INFO(c.side);
        const auto r = built(guided(guides, {{"fill", std::string("as a wall of")},
                                             {"thickness", std::string("2 mm")},
                                             {"wall side", std::string(c.side)},
                                             {"leave", std::string("squarely")}}));
        const Body& body = lastBody(r);
        CHECK(checkBody(body).faults.empty());
        for (const double by : {c.inner, c.outer}) {
            CHECK(offBody(body, bulge(1, 20 + by, 12 + by, 5, 40), front) < 1e-3);
            CHECK(offBody(body, bulge(-1, 20 + by, 12 + by, 2, 40), side) < 1e-3);
        }
    }
    // Straight guides on a tube leave it as it is.
    Part p;
    References sections{addSection(p, roundedLine(40, 30, 5), 0), addSection(p, roundedLine(40, 30, 5), 50)},
        refs;
    for (const double x : {-20., 20.}) {
        Drawing d;
        d.draw(StrokeKind::Line, {{x, 0}, {x, 50}});
        refs.push_back(addDrawing(p, d, "front"));
    }
    add(p, "loft",
        {{"sections", sections},
         {"led", std::string("guided by")},
         {"guides", refs},
         {"fill", std::string("as a wall of")},
         {"thickness", std::string("2 mm")}});
    const double outer = 40 * 30 - (4 - kPi) * 25, inner = 36 * 26 - (4 - kPi) * 9;
    CHECK(volumeOf(built(p)) == Approx((outer - inner) * 50).epsilon(1e-6));
}
