#include "core/steps/fillet/rim_crease.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/edge_work.hpp"

#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

RimCrease::RimCrease(const TopoDS_Edge& edge, const TopoDS_Vertex& corner)
    : m_edge(TopoDS::Edge(edge.Oriented(TopAbs_FORWARD))), m_corner(corner),
      m_curve(BRep_Tool::Curve(m_edge, m_first, m_last)), m_up(TopExp::FirstVertex(m_edge).IsSame(corner)) {}

double RimCrease::farther(double one, double other) const {
    return m_up == (one > other) ? one : other;
}

bool RimCrease::isWithin(double parameter) const {
    const double least = 1e-6 * (m_last - m_first);
    return parameter > m_first + least && parameter < m_last - least;
}

std::optional<double> RimCrease::touchesBoth(const NamedShape& shape, const RimEnd& end,
                                             const MovedFace& other) const {
    constexpr double kSmooth = 0.02, kBeside = 1e-3; // rad; of the crease
    const auto kink = kinkAt(shape, m_edge, m_up ? kBeside : 1 - kBeside);
    if (!kink || *kink < kSmooth) return end.parameter();
    const auto ball = end.border.alongTo(other, end.last, BRep_Tool::Parameters(m_corner, other.face));
    return ball ? end.border.parameterAt(*ball, end.parameter()) : std::nullopt;
}

/// By Newton's method on the way from the one line to the other.
std::optional<gp_Pnt2d> RimCrease::crossedBy(const RimEnd& end, double radius) const {
    constexpr int kSteps = 40;
    constexpr double kNext = 1e-4, kLong = 0.5, kBegin = 0.7; // of the rim's edge; of the radius
    const auto touch = [&](double at) -> std::optional<gp_Pnt> {
        const auto there = end.border.place(at);
        if (!there) return std::nullopt;
        return end.border.faces()[1]->surface->Value(there->uv[1].X(), there->uv[1].Y());
    };
    const double ahead = kNext * (end.border.last() - end.border.first());
    double along = end.parameter(), down = m_up ? m_first : m_last;
    gp_Pnt p;
    gp_Vec d;
    m_curve->D1(down, p, d);
    if (d.Magnitude() < kNoDirection) return std::nullopt;
    down += (m_up ? 1 : -1) * kBegin * radius / d.Magnitude();
    for (int k = 0; k < kSteps; ++k) {
        const auto q = touch(along), r = touch(along + ahead);
        if (!q || !r) return std::nullopt;
        m_curve->D1(down, p, d);
        const gp_Vec off(*q, p), e = gp_Vec(*q, *r) / ahead;
        // The least of |off + d x - e y|.
        const double dd = d * d, de = d * e, ee = e * e, det = dd * ee - de * de;
        if (det < 1e-12 * dd * ee) return std::nullopt;
        const double x = (-(off * d) * ee + (off * e) * de) / det,
                     y = ((off * e) * dd - (off * d) * de) / det;
        const double moves = std::fabs(x) * std::sqrt(dd) + std::fabs(y) * std::sqrt(ee), // mm
            share = std::min(1.0, kLong * radius / (moves + kNoDirection));
        down = std::clamp(down + share * x, m_first, m_last);
        along += share * y;
        if (moves < 10 * kMet)
            return off.Magnitude() < 1e3 * kMet ? std::optional(gp_Pnt2d(along, down)) : std::nullopt;
    }
    return std::nullopt;
}

} // namespace gc
