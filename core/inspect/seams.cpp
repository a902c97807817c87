#include "core/inspect/seams.hpp"

#include "core/shape/foot_point.hpp"
#include "core/shape/kernel.hpp"

#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <TopoDS.hxx>

#include <cmath>
#include <numbers>

namespace gc {

namespace {

/// A face beside an edge.
class Beside {
  public:
    Beside(const TopoDS_Edge& edge, const TopoDS_Face& face) : m_face(face) {
        const TopoDS_Edge own = asIn(face, edge);
        double a = 0, b = 0;
        m_on = BRep_Tool::CurveOnSurface(own, face, a, b);
        m_backward = own.Orientation() == TopAbs_REVERSED;
    }
    bool known() const { return !m_on.IsNull(); }
    /// Does it lie to the left of the edge's own direction, seen from outside?
    bool left() const { return !m_backward; }
    SurfacePlace at(double t) const { return placeOf(m_face.surface(), m_on->Value(t)); }
    std::optional<gp_Vec> outward(const SurfacePlace& p) const { return m_face.outward(p); }

  private:
    FaceSurface m_face;
    Handle(Geom2d_Curve) m_on;
    bool m_backward = false;
};

/// One place of an edge.
struct Meeting {
    double kink = 0, jump = 0;
    bool hollow = false;
    Vec3 at;
};

std::optional<Meeting> meetingAt(const Handle(Geom_Curve) & curve, double t, const Beside& one,
                                 const Beside& other) {
    const SurfacePlace p = one.at(t), q = other.at(t);
    const auto n = one.outward(p), m = other.outward(q);
    gp_Pnt at;
    gp_Vec along;
    curve->D1(t, at, along);
    if (!n || !m || along.Magnitude() < 1e-12) return std::nullopt;
    along.Normalize();
    Meeting out;
    out.at = toVec(at);
    out.kink = n->Angle(*m);
    // From the edge into the first face: it lies to the left of its borders.
    const gp_Vec into = n->Crossed(one.left() ? along : -along);
    out.hollow = into.Dot(*m) > 0;
    const gp_Vec middle = *n + *m;
    if (middle.Magnitude() > 1e-3) {
        const gp_Vec normal = middle.Normalized(), across = normal.Crossed(along);
        out.jump = std::fabs(p.curvature(across, *n) - q.curvature(across, *m));
    }
    return out;
}

int orderOf(const Meeting& m) {
    return m.kink > kTangent ? 0 : m.jump > kEven ? 1 : 2;
}

bool isWorse(const Meeting& a, const Seam& b) {
    const int order = orderOf(a);
    if (order != b.order) return order < b.order;
    return order == 0 ? a.kink > b.kink : a.jump > b.jump;
}

} // namespace

SeamField seamsOf(const Body& body, const Stop& stop) {
    constexpr double kPlaces[] = {0.03, 0.2, 0.35, 0.5, 0.65, 0.8, 0.97};
    const NamedShape& s = body.shape();
    SeamField out;
    for (int i = 1; i <= s.facesOfEdge.Extent(); ++i) {
        if (stop && stop()) return out;
        const TopoDS_Edge edge = TopoDS::Edge(s.facesOfEdge.FindKey(i));
        const auto faces = toVector(s.facesOfEdge(i));
        if (faces.size() != 2 || BRep_Tool::Degenerated(edge) || !s.isRealEdge(edge)) continue;
        const Beside one(edge, TopoDS::Face(faces[0])), other(edge, TopoDS::Face(faces[1]));
        double a = 0, b = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, a, b);
        if (!one.known() || !other.known() || curve.IsNull()) continue;
        const auto name = [&] {
            const auto refs = referencesForEdge(body, s.edges.FindIndex(edge) - 1);
            return refs.empty() ? std::string() : refs.front();
        };
        for (const double share : kPlaces) {
            const auto m = meetingAt(curve, a + share * (b - a), one, other);
            if (!m) continue;
            if (m->kink > kMeantSmooth) {
                const double angle = std::numbers::pi - m->kink;
                if (!m->hollow && (!out.sharpest || angle < out.sharpest->angle - 1e-9))
                    out.sharpest = SharpEdge{angle, m->at, name()};
            } else if (!out.worst || isWorse(*m, *out.worst)) {
                out.worst = Seam{orderOf(*m), m->kink, m->jump, m->at, name()};
            }
        }
    }
    return out;
}

} // namespace gc
