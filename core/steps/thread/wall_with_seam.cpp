#include "core/steps/thread/wall_with_seam.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

std::optional<WallWithSeam> WallWithSeam::of(const TopoDS_Face& face, const std::vector<CoilShape>& coils) {
    WallWithSeam out;
    out.m_face = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
    out.m_surface = BRep_Tool::Surface(face);
    double v0 = 1e300, v1 = -1e300;
    for (const CoilShape& c : coils)
        for (const double turned : {0.0, c.all()})
            for (const double side : {-1.0, 1.0}) {
                const double v = out.placeOf(c.at(turned, 0, side)).Y();
                v0 = std::min(v0, v), v1 = std::max(v1, v);
            }
    for (TopExp_Explorer x(out.m_face, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge edge = TopoDS::Edge(x.Current());
        if (!BRep_Tool::IsClosed(edge, out.m_face)) {
            if (!out.keepsClear(edge, v0, v1)) return std::nullopt;
            out.m_borders.push_back(edge);
        } else if (out.m_seam.IsNull()) {
            out.m_seam = TopoDS::Edge(edge.Oriented(TopAbs_FORWARD));
        } else if (!out.m_seam.IsSame(edge)) {
            return std::nullopt;
        }
    }
    if (out.m_seam.IsNull() || !out.readSeam(v0, v1)) return std::nullopt;
    return out;
}

gp_Pnt2d WallWithSeam::placeOf(const gp_Pnt& p) const {
    double u = 0, v = 0;
    const GeomAdaptor_Surface s(m_surface);
    if (s.GetType() == GeomAbs_Cone)
        ElSLib::Parameters(s.Cone(), p, u, v);
    else
        ElSLib::Parameters(s.Cylinder(), p, u, v);
    return {u, v};
}

std::vector<TopoDS_Edge> WallWithSeam::seamPieces() {
    if (m_crossings.size() % 2 != 0) return {};
    std::sort(m_crossings.begin(), m_crossings.end(),
              [](const auto& a, const auto& b) { return a.first < b.first; });
    TopoDS_Vertex at = TopExp::FirstVertex(m_seam), last = TopExp::LastVertex(m_seam);
    double v = vOf(m_from), end = vOf(m_to);
    if (m_along < 0) std::swap(at, last), std::swap(v, end);
    std::vector<TopoDS_Edge> out;
    for (std::size_t i = 0; i <= m_crossings.size(); i += 2) {
        const bool isLast = i == m_crossings.size();
        const double next = isLast ? end : m_crossings[i].first;
        if (next - v < kSamePoint) return {};
        const TopoDS_Edge piece = seamBetween(v, at, next, isLast ? last : m_crossings[i].second);
        out.push_back(TopoDS::Edge(piece.Oriented(TopAbs_FORWARD)));
        out.push_back(TopoDS::Edge(piece.Oriented(TopAbs_REVERSED)));
        if (!isLast) v = m_crossings[i + 1].first, at = m_crossings[i + 1].second;
    }
    return out;
}

bool WallWithSeam::keepsClear(const TopoDS_Edge& edge, double v0, double v1) const {
    constexpr int kPlaces = 32;
    constexpr double kClear = 1e-3; // mm
    double a = 0, b = 0;
    const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(edge, m_face, a, b);
    for (int i = 0; i <= kPlaces; ++i) {
        const double v = on->Value(a + (b - a) * i / kPlaces).Y();
        if (v > v0 - kClear && v < v1 + kClear) return false;
    }
    return true;
}

bool WallWithSeam::readSeam(double v0, double v1) {
    constexpr double kStraight = 1e-9; // of a parameter
    m_first = BRep_Tool::CurveOnSurface(m_seam, m_face, m_from, m_to);
    m_second = BRep_Tool::CurveOnSurface(TopoDS::Edge(m_seam.Reversed()), m_face, m_from, m_to);
    const gp_Pnt2d a = m_first->Value(m_from), b = m_first->Value(m_to),
                   m = m_first->Value(0.5 * (m_from + m_to));
    m_along = (b.Y() - a.Y()) / (m_to - m_from);
    m_left = std::min(a.X(), m_second->Value(m_from).X());
    return std::fabs(a.X() - b.X()) < kStraight && std::fabs(m_along) > kStraight &&
           m.Distance(gp_Pnt2d(0.5 * (a.XY() + b.XY()))) < kStraight && std::min(a.Y(), b.Y()) < v0 &&
           std::max(a.Y(), b.Y()) > v1;
}

TopoDS_Edge WallWithSeam::seamBetween(double v, const TopoDS_Vertex& low, double w,
                                      const TopoDS_Vertex& high) const {
    double a = 0, b = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(m_seam, a, b);
    const double tolerance = BRep_Tool::Tolerance(m_seam);
    const double from = std::min(atV(v), atV(w)), to = std::max(atV(v), atV(w));
    const TopoDS_Edge out =
        edgeBetween(curve, from, to, m_along > 0 ? low : high, m_along > 0 ? high : low, tolerance);
    BRep_Builder().UpdateEdge(out, m_first, m_second, m_face, tolerance);
    return out;
}

} // namespace gc
