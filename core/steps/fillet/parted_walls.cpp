#include "core/steps/fillet/parted_walls.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/rounded.hpp"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRep_Tool.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <ShapeUpgrade_ShapeDivideContinuity.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

namespace {

/// Does its bend jump somewhere on the way?
bool bendJumps(const TopoDS_Shape& face) {
    const auto s = Handle(Geom_BSplineSurface)::DownCast(BRep_Tool::Surface(TopoDS::Face(face)));
    return !s.IsNull() && (!s->IsCNu(2) || !s->IsCNv(2));
}

/// The curve's bend at a place, 1/mm, as a vector (do Carmo, Differential geometry of curves and
/// surfaces, 1.5).
gp_Vec bendAt(const Geom_BSplineCurve& curve, double u) {
    gp_Pnt p;
    gp_Vec d, dd;
    curve.D2(u, p, d, dd);
    const double l = d.SquareMagnitude();
    return l > 0 ? (dd - d * (dd * d / l)) / l : gp_Vec();
}

/// Fitted curves are not quite smooth at their knots: only a jump by a good share of the bend is one.
bool jumps(const Geom_BSplineCurve& curve) {
    constexpr double kShare = 0.1, kBeside = 1e-7; // of the bend; of the curve's parameters
    const double off = kBeside * (curve.LastParameter() - curve.FirstParameter());
    for (int k = curve.FirstUKnotIndex() + 1; k < curve.LastUKnotIndex(); ++k) {
        const gp_Vec before = bendAt(curve, curve.Knot(k) - off), after = bendAt(curve, curve.Knot(k) + off);
        if ((after - before).Magnitude() > kShare * std::max(before.Magnitude(), after.Magnitude()) &&
            (after - before).Magnitude() > kShare / 1000)
            return true;
    }
    return false;
}

/// A body parted at the jumps, and what its edges became.
struct Parted {
    Body body;
    Handle(ShapeBuild_ReShape) context;
    std::unique_ptr<BRepBuilderAPI_Copy> copy;

    std::vector<TopoDS_Edge> piecesOf(const TopoDS_Edge& edge) const {
        std::vector<TopoDS_Edge> out;
        for (TopExp_Explorer x(context->Apply(copy->ModifiedShape(edge)), TopAbs_EDGE); x.More(); x.Next())
            out.push_back(TopoDS::Edge(x.Current()));
        return out;
    }
};

std::optional<Parted> parted(const Body& body) {
    const NamedShape& s = body.shape();
    Parted out;
    // Its edges are its own: what the body before shares with others must not change.
    out.copy = std::make_unique<BRepBuilderAPI_Copy>(s.shape);
    ShapeUpgrade_ShapeDivideContinuity divide(out.copy->Shape());
    divide.SetBoundaryCriterion(GeomAbs_C2);
    divide.SetSurfaceCriterion(GeomAbs_C2);
    divide.SetPCurveCriterion(GeomAbs_C2);
    divide.SetTolerance(kSurfaceFit);
    if (!divide.Perform() || divide.Result().IsNull()) return std::nullopt;
    out.context = divide.GetContext();
    NameBuilder names(onlySolid(divide.Result()));
    names.inherit(s);
    for (int i = 1; i <= s.faces.Extent(); ++i)
        for (TopExp_Explorer x(out.context->Apply(out.copy->ModifiedShape(s.faces(i))), TopAbs_FACE);
             x.More(); x.Next())
            if (names.has(x.Current())) names.add(x.Current(), s.namesOf(s.faces(i)));
    auto made = names.finish();
    if (!made || !checkBody(*made).faults.empty()) return std::nullopt;
    out.body = std::move(*made);
    return out;
}

} // namespace

bool bendJumpsAlong(const std::vector<EdgeChain>& chains) {
    return std::any_of(chains.begin(), chains.end(), [](const EdgeChain& c) {
        return std::any_of(c.edges.begin(), c.edges.end(), [](const TopoDS_Edge& e) {
            double a = 0, b = 0;
            const auto curve = Handle(Geom_BSplineCurve)::DownCast(BRep_Tool::Curve(e, a, b));
            return !curve.IsNull() && jumps(*curve);
        });
    });
}

std::optional<Body> roundedParted(const Body& body, const std::vector<EdgeChain>& chains, int step) {
    const NamedShape& s = body.shape();
    const bool jumps = std::any_of(chains.begin(), chains.end(), [&](const EdgeChain& c) {
        return std::any_of(c.edges.begin(), c.edges.end(), [&](const TopoDS_Edge& e) {
            const auto beside = facesBeside(s, e);
            return std::any_of(beside.begin(), beside.end(), bendJumps);
        });
    });
    if (!jumps) return std::nullopt;
    const auto made = guarded("fillet.too-large", "It cannot be rounded there.", [&]() -> Result<Body> {
        const auto apart = parted(body);
        if (!apart) return errorOf("fillet.too-large", "It cannot be rounded there.");
        std::vector<EdgeChain> pieces = chains;
        for (EdgeChain& c : pieces) {
            std::vector<TopoDS_Edge> edges;
            for (const TopoDS_Edge& e : c.edges)
                for (const TopoDS_Edge& piece : apart->piecesOf(e)) edges.push_back(piece);
            c.edges = std::move(edges);
        }
        return rounded(apart->body, pieces, step);
    });
    return made ? std::optional(*made) : std::nullopt;
}

} // namespace gc
