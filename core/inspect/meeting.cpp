#include "core/inspect/meeting.hpp"

#include <BRep_Tool.hxx>
#include <TopoDS.hxx>

#include <cmath>

namespace gc {

EdgeMeeting::Beside::Beside(const TopoDS_Edge& edge, const TopoDS_Face& face) : m_face(face) {
    const TopoDS_Edge own = asIn(face, edge);
    double a = 0, b = 0;
    m_on = BRep_Tool::CurveOnSurface(own, face, a, b);
    m_backward = own.Orientation() == TopAbs_REVERSED;
}

EdgeMeeting::EdgeMeeting(const TopoDS_Edge& edge, const TopoDS_Face& one, const TopoDS_Face& other)
    : m_one(edge, one), m_other(edge, other), m_curve(BRep_Tool::Curve(edge, m_from, m_to)) {}

std::optional<FaceMeeting> EdgeMeeting::at(double share) const {
    const double t = m_from + share * (m_to - m_from);
    const SurfacePlace p = m_one.at(t), q = m_other.at(t);
    const auto n = m_one.outward(p), m = m_other.outward(q);
    gp_Pnt at;
    gp_Vec along;
    m_curve->D1(t, at, along);
    if (!n || !m || along.Magnitude() < 1e-12) return std::nullopt;
    along.Normalize();
    FaceMeeting out;
    out.at = toVec(at);
    out.kink = n->Angle(*m);
    // From the edge into the first face: it lies to the left of its borders.
    const gp_Vec into = n->Crossed(m_one.left() ? along : -along);
    out.hollow = into.Dot(*m) > 0;
    const gp_Vec middle = *n + *m;
    if (middle.Magnitude() > 1e-3) {
        const gp_Vec normal = middle.Normalized(), across = normal.Crossed(along);
        out.jump = std::fabs(p.curvature(across, *n) - q.curvature(across, *m));
    }
    return out;
}

} // namespace gc
