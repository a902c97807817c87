#include "core/steps/shared/over_face.hpp"

#include "core/base/tolerance.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>
#include <optional>

namespace gc {

namespace {

/// Of a face with straight edges, by its corners; nothing for others. The kernel keeps no curves in a plane
/// and projects each edge anew whenever it is asked for one, which is most of what looking over a face costs.
std::optional<FaceSpan> spanByCorners(const TopoDS_Face& face, const gp_Pln& plane) {
    FaceSpan s{1e300, -1e300, 1e300, -1e300, false};
    std::vector<gp_Pnt2d> corners;
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge& edge = TopoDS::Edge(x.Current());
        if (BRep_Tool::Degenerated(edge) || BRepAdaptor_Curve(edge).GetType() != GeomAbs_Line) return {};
        for (TopExp_Explorer y(edge, TopAbs_VERTEX); y.More(); y.Next()) {
            gp_Pnt2d p;
            const gp_Pnt at = BRep_Tool::Pnt(TopoDS::Vertex(y.Current()));
            ElSLib::Parameters(plane, at, p.ChangeCoord().ChangeCoord(1), p.ChangeCoord().ChangeCoord(2));
            s = {std::min(s.u0, p.X()), std::max(s.u1, p.X()), std::min(s.v0, p.Y()), std::max(s.v1, p.Y()),
                 false};
            corners.push_back(p);
        }
    }
    constexpr std::size_t kOfFour = 8; // each edge has two
    const auto isEnd = [](double a, double low, double high) {
        return std::min(std::fabs(a - low), std::fabs(a - high)) < kKernelPoint;
    };
    s.filled =
        corners.size() == kOfFour && std::all_of(corners.begin(), corners.end(), [&](const gp_Pnt2d& p) {
            return isEnd(p.X(), s.u0, s.u1) && isEnd(p.Y(), s.v0, s.v1);
        });
    return corners.empty() ? std::nullopt : std::optional(s);
}

} // namespace

FaceSpan spanOf(const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face, false);
    if (surface.GetType() == GeomAbs_Plane)
        if (const auto s = spanByCorners(face, surface.Plane())) return *s;
    FaceSpan s;
    BRepTools::UVBounds(face, s.u0, s.u1, s.v0, s.v1);
    return s;
}

std::vector<gp_Pnt> placesOver(const TopoDS_Face& face, int each, double inset) {
    const FaceSpan s = spanOf(face);
    const double edge = inset < 0 ? 0.5 / each : inset;
    const auto at = [&](double low, double high, int k) {
        return low + (high - low) * (edge + (1 - 2 * edge) * k / (each - 1));
    };
    std::optional<BRepTopAdaptor_FClass2d> inside;
    if (!s.filled) inside.emplace(face, kKernelPoint);
    const BRepAdaptor_Surface surface(face, false);
    std::vector<gp_Pnt> out;
    for (int i = 0; i < each; ++i)
        for (int j = 0; j < each; ++j)
            if (const gp_Pnt2d p(at(s.u0, s.u1, i), at(s.v0, s.v1, j));
                !inside || inside->Perform(p) == TopAbs_IN)
                out.push_back(surface.Value(p.X(), p.Y()));
    return out;
}

Crossings::Crossings(const std::vector<TopoDS_Shape>& shapes) {
    for (const TopoDS_Shape& s : shapes) {
        m_all.push_back(std::make_unique<IntCurvesFace_ShapeIntersector>());
        m_all.back()->Load(s, kKernelPoint);
    }
}

std::vector<double> Crossings::of(const gp_Lin& line, double far) {
    std::vector<double> out;
    for (auto& one : m_all) {
        one->Perform(line, 0, far);
        for (int i = 1; one->IsDone() && i <= one->NbPnt(); ++i) out.push_back(one->WParameter(i));
    }
    std::sort(out.begin(), out.end());
    return out;
}

} // namespace gc
