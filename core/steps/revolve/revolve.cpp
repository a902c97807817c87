#include "core/shape/kernel.hpp"
#include "core/steps/step_run.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <gp_Ax1.hxx>
#include <gp_Pln.hxx>

#include <numbers>

namespace gc {

namespace {

gp_Pnt inSpace(Vec2 p) {
    return {p.x, 0, p.y};
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

struct ProfileEdge {
    TopoDS_Edge edge;
    std::string role; ///< the role of the face that it makes; empty for the axis
};

/// The closed half profile: level to the wall, up the wall, level back, down the axis.
std::vector<ProfileEdge> profileEdges(const Outline& outline, TopoDS_Face& face) {
    const Vec2 start = outline.wall.curve.at(0), end = outline.wall.curve.at(1);
    const gp_Pnt corners[4] = {inSpace({0, start.y}), inSpace(start), inSpace(end), inSpace({0, end.y})};
    TopoDS_Vertex v[4];
    for (int i = 0; i < 4; ++i) v[i] = BRepBuilderAPI_MakeVertex(corners[i]);
    const std::vector<ProfileEdge> raw{
        {BRepBuilderAPI_MakeEdge(v[0], v[1]).Edge(), "floor"},
        {BRepBuilderAPI_MakeEdge(toKernel(outline.wall.curve), v[1], v[2]).Edge(), "wall"},
        {BRepBuilderAPI_MakeEdge(v[2], v[3]).Edge(), "top"},
        {BRepBuilderAPI_MakeEdge(v[3], v[0]).Edge(), ""}};
    BRepBuilderAPI_MakeWire wire;
    std::vector<ProfileEdge> edges;
    for (const ProfileEdge& e : raw) {
        wire.Add(e.edge);
        edges.push_back({wire.Edge(), e.role});
    }
    // The plane is given, so that it does not depend on the curve. Its normal is -y: x then z is clockwise.
    face =
        BRepBuilderAPI_MakeFace(gp_Pln(gp_Ax3(gp::Origin(), -gp::DY(), gp::DX())), wire.Wire(), true).Face();
    return edges;
}

/// On a full turn the kernel does not report the face of an edge square to the axis although it is there:
/// it is the unnamed face at the middle of that edge.
void nameUnreported(NameBuilder& names, const TopoDS_Edge& edge, NamePtr name) {
    const BRepAdaptor_Curve curve(edge);
    const TopoDS_Vertex middle =
        BRepBuilderAPI_MakeVertex(curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter())));
    for (int i = 1; i <= names.faces().Extent(); ++i)
        if (!names.named(names.faces()(i)) &&
            BRepExtrema_DistShapeShape(middle, names.faces()(i)).Value() < 1e-6)
            return names.add(names.faces()(i), name);
}

} // namespace

Result<StepChange> runRevolve(const StepArguments& args, const ModelState& state) {
    Error e;
    const auto it = state.outlines.find(args.text("outline"));
    if (it == state.outlines.end()) {
        e.code = "revolve.outline";
        e.sentence = "There is no outline called \"" + args.text("outline") + "\" before this step.";
        return e;
    }
    if (state.bodies.count(args.text("body"))) {
        e.code = "revolve.name";
        e.sentence =
            "There is a body called \"" + args.text("body") + "\" already. Give this one another name.";
        return e;
    }
    return guarded("revolve.failed", "The outline cannot be revolved. Check its stations.",
                   [&]() -> Result<StepChange> {
                       TopoDS_Face profile;
                       const auto edges = profileEdges(*it->second, profile);
                       const double angle = args.number("angle");
                       const bool full = angle > 2 * std::numbers::pi - 1e-9;
                       const gp_Ax1 axis(gp::Origin(), gp::DZ());
                       BRepPrimAPI_MakeRevol revolve = full ? BRepPrimAPI_MakeRevol(profile, axis)
                                                            : BRepPrimAPI_MakeRevol(profile, axis, angle);
                       NameBuilder names(onlySolid(revolve.Shape()));
                       if (!full) {
                           names.add(revolve.FirstShape(), internName(args.id, "start"));
                           names.add(revolve.LastShape(), internName(args.id, "end"));
                       }
                       for (const ProfileEdge& edge : edges) {
                           if (edge.role.empty()) continue;
                           const NamePtr name = internName(args.id, edge.role);
                           bool found = false;
                           for (const TopoDS_Shape& face : toVector(revolve.Generated(edge.edge)))
                               if (names.has(face)) {
                                   names.add(face, name);
                                   found = true;
                               }
                           if (!found) nameUnreported(names, edge.edge, name);
                       }
                       auto body = names.finish(args.content);
                       if (!body) return body.error();
                       StepChange change;
                       change.bodyName = args.text("body");
                       change.body = *body;
                       return change;
                   });
}

} // namespace gc
