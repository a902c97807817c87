#include "core/steps/shared/profile.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/loop_runs.hpp"
#include "core/steps/shared/find_curve.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRep_Tool.hxx>
#include <GeomConvert_CompCurveToBSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BezierCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Ellipse.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Ax2.hxx>
#include <gp_Pln.hxx>

#include <cmath>

namespace gc {

namespace {

gp_Pnt inSpace(Vec2 p) {
    return {p.x, 0, p.y};
}
gp_Dir direction(Vec2 v) {
    return {v.x, 0, v.y};
}

Handle(Geom_BSplineCurve) toKernel(const BSpline2& c) {
    std::vector<double> knots;
    std::vector<int> multiplicities;
    for (const double k : c.knots)
        if (!knots.empty() && k - knots.back() < 1e-12)
            ++multiplicities.back();
        else {
            knots.push_back(k);
            multiplicities.push_back(1);
        }
    TColgp_Array1OfPnt poles(1, c.poleCount());
    for (int i = 0; i < c.poleCount(); ++i) poles(i + 1) = inSpace(c.poles[static_cast<std::size_t>(i)]);
    const int n = static_cast<int>(knots.size());
    TColStd_Array1OfReal k(1, n);
    TColStd_Array1OfInteger m(1, n);
    for (int i = 0; i < n; ++i) {
        k(i + 1) = knots[static_cast<std::size_t>(i)];
        m(i + 1) = multiplicities[static_cast<std::size_t>(i)];
    }
    return new Geom_BSplineCurve(poles, k, m, c.degree);
}

/// Level to the wall, up the wall, level back, down the axis.
std::vector<ProfileEdge> edgesOfWall(const BSpline2& wall) {
    const Vec2 start = wall.at(0), end = wall.at(1);
    const gp_Pnt corners[4] = {inSpace({0, start.y}), inSpace(start), inSpace(end), inSpace({0, end.y})};
    TopoDS_Vertex v[4];
    for (int i = 0; i < 4; ++i) v[i] = BRepBuilderAPI_MakeVertex(corners[i]);
    return {{BRepBuilderAPI_MakeEdge(v[0], v[1]).Edge(), {"floor"}},
            {BRepBuilderAPI_MakeEdge(toKernel(wall), v[1], v[2]).Edge(), {"wall"}},
            {BRepBuilderAPI_MakeEdge(v[2], v[3]).Edge(), {"top"}},
            {BRepBuilderAPI_MakeEdge(v[3], v[0]).Edge(), {}, true}};
}

TopoDS_Edge ellipseEdge(const Curve2& c, const TopoDS_Vertex& a, const TopoDS_Vertex& b) {
    // Counter-clockwise in the drawing is about -y in space.
    const double r = length(c.p[1]), s = length(c.p[2]);
    const bool left = cross(c.p[1], c.p[2]) > 0;
    const bool forward = (c.turn > 0) == left;
    const bool majorFirst = r >= s;
    const Vec2 major = majorFirst ? c.p[1] : c.p[2];
    // Angles run from the kernel's main axis; with the second vector as that axis they are a quarter behind.
    const gp_Dir normal = forward ? gp_Dir(0, -1, 0) : gp_Dir(0, 1, 0);
    const gp_Ax2 place(inSpace(c.p[0]), normal, direction(major));
    const auto angleOf = [&](double t) {
        const Vec2 q = c.at(t) - c.p[0];
        const Vec2 u = major * (1 / length(major)), n{-u.y, u.x};
        const double x = dot(q, u) / std::max(r, s), y = dot(q, n) / (majorFirst ? s : r);
        return std::atan2(forward ? y : -y, x);
    };
    Handle(Geom_Curve) curve;
    if (c.isCircular())
        curve = new Geom_Circle(place, r);
    else
        curve = new Geom_Ellipse(place, std::max(r, s), std::min(r, s));
    const double from = angleOf(0), turn = std::fabs(c.turn);
    if (c.closed()) return BRepBuilderAPI_MakeEdge(curve, a, a, from, from + 2 * M_PI).Edge();
    return BRepBuilderAPI_MakeEdge(curve, a, b, from, from + turn).Edge();
}

Handle(Geom_BoundedCurve) bezier(const Curve2& c) {
    if (c.kind == Curve2::Kind::Conic) {
        TColgp_Array1OfPnt poles(1, 3);
        TColStd_Array1OfReal weights(1, 3);
        for (int i = 0; i < 3; ++i)
            poles(i + 1) = inSpace(c.p[static_cast<std::size_t>(i)]), weights(i + 1) = i == 1 ? c.weight : 1;
        return new Geom_BezierCurve(poles, weights);
    }
    TColgp_Array1OfPnt poles(1, 4);
    for (int i = 0; i < 4; ++i) poles(i + 1) = inSpace(c.p[static_cast<std::size_t>(i)]);
    return new Geom_BezierCurve(poles);
}

TopoDS_Edge edgeOf(const LoopRun& run, const TopoDS_Vertex& a, const TopoDS_Vertex& b) {
    const Curve2& c = run.curves.front();
    if (c.kind == Curve2::Kind::Line) return BRepBuilderAPI_MakeEdge(a, b).Edge();
    if (c.kind == Curve2::Kind::Ellipse) return ellipseEdge(c, a, b);
    if (run.curves.size() == 1 && c.kind == Curve2::Kind::Conic)
        return BRepBuilderAPI_MakeEdge(bezier(c), a, b).Edge();
    GeomConvert_CompCurveToBSplineCurve whole(bezier(c));
    for (std::size_t i = 1; i < run.curves.size(); ++i) whole.Add(bezier(run.curves[i]), 1e-7, true);
    const Handle(Geom_BSplineCurve) spline = whole.BSplineCurve();
    // What a drawing joins the kernel would not always: it wants ends ten times as near.
    for (const auto& [pole, vertex] : {std::pair{1, a}, {spline->NbPoles(), b}}) {
        const gp_Pnt end = BRep_Tool::Pnt(vertex);
        if (spline->Pole(pole).Distance(end) < 2 * kSamePoint) spline->SetPole(pole, end);
    }
    return BRepBuilderAPI_MakeEdge(spline, a, b, spline->FirstParameter(), spline->LastParameter()).Edge();
}

std::vector<ProfileEdge> edgesOfLoop(const Outline& outline, const Loop& loop) {
    const std::vector<LoopRun> runs = runsOf(loop);
    std::vector<TopoDS_Vertex> corners;
    for (const LoopRun& r : runs) corners.push_back(BRepBuilderAPI_MakeVertex(inSpace(r.start())));
    std::vector<ProfileEdge> edges;
    for (std::size_t i = 0; i < runs.size(); ++i) {
        const LoopRun& r = runs[i];
        const bool onAxis = r.curves.size() == 1 && r.curves[0].kind == Curve2::Kind::Line &&
                            std::fabs(r.start().x) < kSamePoint && std::fabs(r.end().x) < kSamePoint;
        ProfileEdge edge{edgeOf(r, corners[i], corners[(i + 1) % runs.size()]), outline.rolesOf(r.stroke),
                         onAxis};
        edges.push_back(std::move(edge));
    }
    return edges;
}

TopoDS_Wire wireOf(std::vector<ProfileEdge>& edges) {
    BRepBuilderAPI_MakeWire wire;
    for (ProfileEdge& e : edges) {
        wire.Add(e.edge);
        e.edge = wire.Edge();
    }
    return wire.Wire();
}

} // namespace

TopoDS_Edge edgeOfStroke(const std::vector<Curve2>& curves) {
    const LoopRun run{0, curves};
    const TopoDS_Vertex start = BRepBuilderAPI_MakeVertex(inSpace(run.start()));
    const bool ring = curves.size() == 1 ? curves[0].closed() : length(run.start() - run.end()) < 1e-9;
    return edgeOf(run, start, ring ? start : BRepBuilderAPI_MakeVertex(inSpace(run.end())).Vertex());
}

namespace {

/// The plane is given, so that it does not depend on the curve. Stations run with x then z clockwise about
/// -y, drawings counter-clockwise.
Profile placed(const Outline& outline, std::vector<ProfileEdge> edges, const std::vector<Loop>& holes) {
    Profile out;
    out.edges = std::move(edges);
    const gp_Pln plane(gp_Ax3(gp::Origin(), -gp::DY(), gp::DX()));
    BRepBuilderAPI_MakeFace face(plane, wireOf(out.edges), true);
    for (const Loop& hole : holes) {
        auto inner = edgesOfLoop(outline, hole);
        face.Add(wireOf(inner));
        out.edges.insert(out.edges.end(), inner.begin(), inner.end());
    }
    out.face = face.Face();
    return outline.plane == Plane() ? out : moved(std::move(out), placementOf(outline.plane));
}

} // namespace

Profile moved(Profile profile, const gp_Trsf& by) {
    // Put there in its geometry: of an ellipse that is only located there the kernel makes invalid prisms.
    BRepBuilderAPI_Transform put(profile.face, by, true);
    profile.face = TopoDS::Face(put.Shape());
    for (ProfileEdge& e : profile.edges) e.edge = TopoDS::Edge(put.ModifiedShape(e.edge));
    return profile;
}

Profile profileOf(const Outline& outline, const Region& area) {
    return placed(outline, edgesOfLoop(outline, area.outer), area.holes);
}

Profile profileOf(const Outline& outline) {
    if (!outline.regions.empty()) return profileOf(outline, outline.regions.front());
    return placed(outline, edgesOfWall(outline.wall.curve), {});
}

} // namespace gc
