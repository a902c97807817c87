#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/wound.hpp"

#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_Surface.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Dir.hxx>
#include <gp_Vec.hxx>

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

void blend(Part& p, const References& edges, const std::string& radius = "6 mm",
           const std::string& tension = "1.1") {
    add(p, "blend", {{"edges", edges}, {"radius", radius}, {"tension", tension}});
}

const ProbeOf blendProbe("blend", [] {
    Probe p{block(rectangle({0, 0}, {40, 30}), "20 mm"), 0};
    p.step = add(p.part, "blend",
                 {{"edges", References{"where end of step 2 meets " + side(p.part, 0)}},
                  {"radius", std::string("5 mm")}})
                 .id;
    p.shows = {{"radius", text("radius", "6 mm")},
               {"tension", text("tension", "1.3")},
               {"edges", {{"edges", References{"where end of step 2 meets " + side(p.part, 2)}}}}};
    return p;
});

/// The section of a blend in a right angle whose corner is the origin, from (-r, 0) to (0, -r), and what lies
/// between it and the corner: area, and moment about the line x = 0.
struct CutOff {
    double area = 0, moment = 0;
};
CutOff cutOff(double r, double tension) {
    const double a = tension * r * std::numbers::sqrt2;
    const Vec2 b[6] = {{-r, 0},         {-r + a / 5, 0}, {-r + 2 * a / 5, 0}, {0, -r + 2 * a / 5},
                       {0, -r + a / 5}, {0, -r}};
    const double choose[6] = {1, 5, 10, 10, 5, 1};
    const auto at = [&](double t) {
        Vec2 sum;
        for (int i = 0; i < 6; ++i) sum = sum + b[i] * (choose[i] * std::pow(1 - t, 5 - i) * std::pow(t, i));
        return sum;
    };
    CutOff out;
    constexpr int n = 4000;
    for (int i = 0; i < n; ++i) { // fans of triangles from the corner
        const Vec2 p = at(double(i) / n), q = at(double(i + 1) / n);
        const double piece = std::fabs(cross(p, q)) / 2;
        out.area += piece;
        out.moment += piece * (p.x + q.x) / 3;
    }
    return out;
}

/// Of a surface, across an edge, by its principal curvatures (Euler): towards the normal that is given.
double curvatureAcross(const TopoDS_Face& face, const TopoDS_Edge& edge, double t, const gp_Vec& along,
                       gp_Vec& normal) {
    double a = 0, b = 0;
    const auto on = BRep_Tool::CurveOnSurface(edge, face, a, b);
    const gp_Pnt2d uv = on->Value(a + t * (b - a));
    GeomLProp_SLProps props(BRep_Tool::Surface(face), uv.X(), uv.Y(), 2, 1e-9);
    gp_Dir most, least;
    gp_Vec n(props.Normal());
    if (normal.Magnitude() < 0.5) normal = n;
    const double sign = n.Dot(normal) < 0 ? -1 : 1;
    CHECK(std::fabs(n.Dot(normal)) > std::cos(0.02 * kPi / 180));
    const gp_Vec across = n.Crossed(along).Normalized();
    props.CurvatureDirections(most, least);
    const double c = gp_Vec(most).Dot(across), s = gp_Vec(least).Dot(across);
    return sign * (props.MaxCurvature() * c * c + props.MinCurvature() * s * s);
}

/// Across every border between a blend and what is not one.
double worstJump(const Body& body) {
    const NamedShape& s = body.shape();
    const auto isBlend = [&](const TopoDS_Shape& f) { return s.namesOf(f).front()->role == "blend"; };
    double worst = 0;
    int seen = 0;
    for (int i = 1; i <= s.facesOfEdge.Extent(); ++i) {
        const auto faces = toVector(s.facesOfEdge(i));
        if (faces.size() != 2 || isBlend(faces[0]) == isBlend(faces[1])) continue;
        const TopoDS_Edge e = TopoDS::Edge(s.facesOfEdge.FindKey(i));
        const TopoDS_Face f = TopoDS::Face(faces[0]), g = TopoDS::Face(faces[1]);
        double a = 0, b = 0;
        const auto curve = BRep_Tool::Curve(e, a, b);
        for (const double t : {0.11, 0.29, 0.5, 0.64, 0.93}) {
            gp_Pnt p;
            gp_Vec d, n;
            curve->D1(a + t * (b - a), p, d);
            // An end of the strip is no border that is to be smooth.
            double x = 0, y = 0;
            const gp_Pnt2d u = BRep_Tool::CurveOnSurface(e, f, x, y)->Value(x + t * (y - x)),
                           v = BRep_Tool::CurveOnSurface(e, g, x, y)->Value(x + t * (y - x));
            GeomLProp_SLProps one(BRep_Tool::Surface(f), u.X(), u.Y(), 1, 1e-9),
                other(BRep_Tool::Surface(g), v.X(), v.Y(), 1, 1e-9);
            if (std::fabs(one.Normal().Dot(other.Normal())) < 0.9) continue;
            const double k = curvatureAcross(f, e, t, d, n), l = curvatureAcross(g, e, t, d, n);
            worst = std::max(worst, std::fabs(k - l));
            ++seen;
        }
    }
    CHECK(seen > 5);
    return worst;
}
const Body& only(const RegenResult& r) {
    return r.state.bodies.rbegin()->second.value;
}

} // namespace

TEST_CASE("A blended edge of a block loses the area of its section by the length") {
    for (const char* tension : {"0.8", "1.1", "1.5"}) {
        Part p = block(rectangle({0, 0}, {60, 40}), "30 mm");
        const double before = volumeOf(built(p));
        blend(p, {"where end of step 2 meets " + side(p, 0)}, "6 mm", tension);
        const auto r = built(p);
        CHECK(before - volumeOf(r) == Approx(60 * cutOff(6, std::stod(tension)).area).epsilon(1e-6));
        CHECK(worstJump(only(r)) < 1e-6);
        CHECK(r.steps.back().notes.empty());
    }
}

TEST_CASE("A blended rim of a disc loses what Pappus says, and bends on from both sides") {
    Part p = block(circleLine(20), "30 mm");
    const double before = volumeOf(built(p));
    blend(p, {"where end of step 2 meets " + side(p, 0)});
    const auto r = built(p);
    const CutOff c = cutOff(6, 1.1);
    CHECK(before - volumeOf(r) == Approx(2 * kPi * (20 * c.area + c.moment)).epsilon(1e-5));
    CHECK(worstJump(only(r)) < 1e-4);
    CHECK(meshedVolume(only(r)) == Approx(volumeOf(r)).epsilon(2e-4));
}

TEST_CASE("A blend goes round the bends of a chain") {
    Part p = block(roundedLine(60, 40, 12), "30 mm");
    const double before = volumeOf(built(p));
    blend(p, {"rim of end of step 2"});
    const auto r = built(p);
    const CutOff c = cutOff(6, 1.1);
    const double straight = 2 * (60 + 40) - 8 * 12;
    CHECK(before - volumeOf(r) ==
          Approx(straight * c.area + 2 * kPi * (12 * c.area + c.moment)).epsilon(1e-5));
    CHECK(worstJump(only(r)) < 1e-4);
    CHECK(meshedVolume(only(r)) == Approx(volumeOf(r)).epsilon(2e-4));
    // It is there for later steps: a shell from below.
    add(p, "shell", {{"open", References{"start of step 2"}}, {"wall", std::string("2 mm")}});
    CHECK(allFine(Engine().regenerate(p)));
}

TEST_CASE("A blend in a hollow, and one that ends on a face aslant") {
    SECTION("where a boss stands on a plate") {
        Part p = block(rectangle({-30, -30}, {60, 60}), "10 mm");
        add(p, "draw", {{"plane", std::string("end of step 2")}, {"drawing", DrawingSlot(circleLine(12))}});
        add(p, "extrude", {{"length", std::string("20 mm")}});
        const double before = volumeOf(built(p));
        blend(p,
              {"where side " + std::to_string(p.steps[2].drawing("drawing").strokes[0].id) +
               " of step 4 meets end of step 2"},
              "5 mm");
        const auto r = built(p);
        const CutOff c = cutOff(5, 1.1);
        CHECK(volumeOf(r) - before == Approx(2 * kPi * (12 * c.area - c.moment)).epsilon(1e-5));
        CHECK(worstJump(only(r)) < 1e-4);
    }
    SECTION("a bar cut off aslant") {
        Part p = block(closedLine({{0, 0}, {60, 0}, {45, 30}, {-10, 30}}), "20 mm");
        blend(p, {"where end of step 2 meets " + side(p, 0)}, "5 mm");
        const auto r = built(p);
        CHECK(worstJump(only(r)) < 1e-3);
        CHECK(meshedVolume(only(r)) == Approx(volumeOf(r)).epsilon(2e-4));
    }
}

TEST_CASE("The rim of a loft is blended with hardly a jump") {
    Part p = lofted({{circleLine(30), 0}, {ellipseLine(34, 22), 60}});
    blend(p, {"rim of end of step 5"}, "5 mm");
    const auto r = built(p);
    CHECK(worstJump(only(r)) < 1e-3);
    CHECK(meshedVolume(only(r)) == Approx(volumeOf(r)).epsilon(2e-4));
}

TEST_CASE("One edge of a rim that runs round bends brings the whole rim along") {
    Part p = block(roundedLine(60, 40, 12), "30 mm");
    Part whole = p;
    blend(p, {"where " + side(p, 0) + " meets end of step 2"});
    blend(whole, {"rim of end of step 2"});
    CHECK(volumeOf(built(p)) == Approx(volumeOf(built(whole))).epsilon(1e-9));
}

TEST_CASE("What cannot be blended says why, and where") {
    SECTION("an edge that ends on a bent face") {
        // Half a disc: the flat side's upper edge ends in the round wall, in sharp corners.
        Drawing d;
        const int line = d.draw(StrokeKind::Line, {{-20, 0}, {20, 0}});
        d.draw(StrokeKind::Arc, {{20, 0}, {-20, 0}, {0, 0}}, {20});
        Part p = block(d, "30 mm");
        blend(p, {"where end of step 2 meets side " + std::to_string(line) + " of step 2"}, "3 mm");
        const Error e = faultOf(p);
        CHECK(e.code == "blend.end");
        CHECK(e.place.has_value());
    }
    SECTION("too large") {
        Part p = block(rectangle({0, 0}, {60, 40}), "5 mm");
        blend(p, {"where end of step 2 meets " + side(p, 0)}, "30 mm");
        const Error e = faultOf(p);
        CHECK(e.code == "blend.too-large");
        CHECK(e.place.has_value());
    }
}
