#include "core/steps/shared/round_faces.hpp"

#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include <cmath>

namespace gc {

std::optional<gp_Ax3> turnAxisOf(const TopoDS_Face& face) {
    const BRepAdaptor_Surface s(face, false);
    switch (s.GetType()) {
    case GeomAbs_Cylinder:
        return s.Cylinder().Position();
    case GeomAbs_Cone:
        return s.Cone().Position();
    case GeomAbs_Sphere:
        return s.Sphere().Position();
    case GeomAbs_Torus:
        return s.Torus().Position();
    case GeomAbs_SurfaceOfRevolution: {
        const gp_Ax1 axis = s.AxeOfRevolution();
        return gp_Ax3(gp_Ax2(axis.Location(), axis.Direction()));
    }
    default:
        return std::nullopt;
    }
}

std::optional<gp_Vec2d> shiftOn(const TopoDS_Face& face, const gp_Trsf& by) {
    constexpr double kSame = 1e-6; // mm
    const BRepAdaptor_Surface s(face, false);
    gp_Vec2d shift;
    if (s.GetType() == GeomAbs_Plane) {
        const gp_Pln plane = s.Plane(), moved = plane.Transformed(by);
        if (!plane.Axis().Direction().IsEqual(moved.Axis().Direction(), 1e-9) ||
            plane.Distance(moved.Location()) > kSame)
            return std::nullopt;
        return shift; // places on a plane are found by projecting
    }
    const auto turn = turnAxisOf(face);
    if (!turn) return std::nullopt;
    const gp_Ax3 moved = turn->Transformed(by);
    const double angle = turn->XDirection().AngleWithRef(moved.XDirection(), turn->Direction());
    shift.SetX(turn->Direct() ? angle : -angle);
    if (s.GetType() == GeomAbs_Cylinder)
        shift.SetY(gp_Vec(turn->Location(), moved.Location()).Dot(gp_Vec(turn->Direction())));
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    for (const double a : {0.1, 0.45, 0.8})
        for (const double b : {0.15, 0.6, 0.9}) {
            const double u = u0 + a * (u1 - u0), v = v0 + b * (v1 - v0);
            if (s.Value(u, v).Transformed(by).Distance(s.Value(u + shift.X(), v + shift.Y())) > kSame)
                return std::nullopt;
        }
    return shift;
}

bool layLoop(const TopoDS_Wire& loop, const TopoDS_Face& on, const TopoDS_Wire& from, const TopoDS_Face& was,
             const gp_Vec2d& shift) {
    constexpr int kPlaces = 32;
    constexpr double kSame = 1e-9, kJoined = 1e-3; // of parameters
    const double period = BRepAdaptor_Surface(on, false).IsUPeriodic() ? 2 * kPi : 0;
    double low = 0, high = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(on, low, high, v0, v1);
    std::vector<std::pair<TopoDS_Edge, Handle(Geom2d_Curve)>> laid;
    TopTools_IndexedMapOfShape corners;
    std::vector<double> cornersAt;
    TopoDS_Iterator now(loop, false), before(from, false);
    for (; now.More() && before.More(); now.Next(), before.Next()) {
        const TopoDS_Edge edge = TopoDS::Edge(now.Value());
        double a = 0, b = 0, least = 1e300, most = -1e300;
        const Handle(Geom2d_Curve) old = BRep_Tool::CurveOnSurface(TopoDS::Edge(before.Value()), was, a, b);
        if (old.IsNull()) return false;
        for (int i = 0; i <= kPlaces; ++i) {
            const double u = old->Value(a + (b - a) * i / kPlaces).X() + shift.X();
            least = std::min(least, u), most = std::max(most, u);
        }
        const double turn = period > 0 ? -period * std::floor((least - low) / period + kSame) : 0;
        if (period > 0 && (least + turn < low - kSame || most + turn > high + kSame)) return false;
        const auto curve = Handle(Geom2d_Curve)::DownCast(old->Copy());
        curve->Translate(gp_Vec2d(shift.X() + turn, shift.Y()));
        // A loop that has a corner on the line is on both sides of it.
        const TopoDS_Edge ahead = TopoDS::Edge(edge.Oriented(TopAbs_FORWARD));
        for (const auto& [corner, at] :
             {std::pair{TopExp::FirstVertex(ahead), a}, {TopExp::LastVertex(ahead), b}}) {
            const int known = corners.FindIndex(corner);
            if (known == 0) {
                corners.Add(corner);
                cornersAt.push_back(curve->Value(at).X());
            } else if (std::fabs(cornersAt[static_cast<std::size_t>(known - 1)] - curve->Value(at).X()) >
                       kJoined) {
                return false;
            }
        }
        laid.emplace_back(edge, curve);
    }
    for (const auto& [edge, curve] : laid)
        BRep_Builder().UpdateEdge(edge, curve, on, BRep_Tool::Tolerance(edge));
    return true;
}

} // namespace gc
