#include "core/inspect/corners.hpp"

#include "core/base/angles.hpp"
#include "core/inspect/meeting.hpp"

#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// A corner while its edges are gathered. Around it the faces cut a small ball in a polygon of great arcs,
/// whose angles are those of the material at the edges; so its area is their sum less (n - 2) pi (Girard).
struct Corner {
    double sum = 0; ///< rad
    int edges = 0, kinks = 0;
    double solid() const { return sum - (edges - 2) * kPi; }
};

/// The full angle of the round cone of a solid angle: 2 pi (1 - cos of half of it).
double coneOf(double solidAngle) {
    return 2 * std::acos(std::clamp(1 - solidAngle / (2 * kPi), -1.0, 1.0));
}

/// Beside its very end, where a face has no normal there.
std::optional<FaceMeeting> nearEnd(const EdgeMeeting& meeting, bool last) {
    for (const double inside : {0.0, 1e-3})
        if (const auto m = meeting.at(last ? 1 - inside : inside)) return m;
    return std::nullopt;
}

/// The full angle of the tip of a face that closes in a point, by the slant of its normals around it; nothing
/// where it is smooth there, or hollow.
std::optional<double> tipOf(const TopoDS_Face& face, const TopoDS_Edge& point, const gp_Pnt& tip) {
    constexpr int kAround = 16;
    constexpr double kInside = 1e-4; // of the face: at the point itself there is no normal
    const FaceSurface surface(face);
    double a = 0, b = 0, u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(asIn(face, point), face, a, b);
    if (on.IsNull()) return std::nullopt;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    const gp_Pnt2d from = on->Value(a), to = on->Value(b);
    const bool alongU = std::fabs(to.X() - from.X()) > std::fabs(to.Y() - from.Y());
    std::vector<gp_Vec> normals;
    gp_Vec sum, into;
    for (int i = 0; i < kAround; ++i) {
        gp_Pnt2d at = on->Value(a + (b - a) * i / kAround);
        if (alongU)
            at.SetY(at.Y() + kInside * (0.5 * (v0 + v1) - at.Y()));
        else
            at.SetX(at.X() + kInside * (0.5 * (u0 + u1) - at.X()));
        const SurfacePlace place = placeOf(surface.surface(), at);
        const auto n = surface.outward(place);
        if (!n) return std::nullopt;
        normals.push_back(*n);
        sum += *n;
        into += gp_Vec(tip, place.at);
    }
    if (sum.Magnitude() < 1e-9 || into.Dot(sum) >= 0) return std::nullopt;
    double slant = 0;
    for (const gp_Vec& n : normals) slant += n.Angle(sum) / kAround;
    if (slant < kMeantSmooth) return std::nullopt;
    return kPi - 2 * slant;
}

class Points {
  public:
    explicit Points(const Body& body)
        : m_body(body), m_shape(body.shape()), m_corners(std::size_t(m_shape.vertices.Extent())) {}

    void add(const TopoDS_Edge& edge, const std::vector<TopoDS_Shape>& faces) {
        if (BRep_Tool::Degenerated(edge)) return addTip(edge, TopoDS::Face(faces.front()));
        if (faces.size() != 2 || !m_shape.isRealEdge(edge)) return;
        const EdgeMeeting meeting(edge, TopoDS::Face(faces[0]), TopoDS::Face(faces[1]));
        if (!meeting.known()) return;
        for (const bool last : {false, true}) {
            const TopoDS_Edge ahead = TopoDS::Edge(edge.Oriented(TopAbs_FORWARD));
            Corner* corner = cornerAt(last ? TopExp::LastVertex(ahead) : TopExp::FirstVertex(ahead));
            const auto m = nearEnd(meeting, last);
            if (!corner || !m) continue;
            corner->sum += kPi + (m->hollow ? m->kink : -m->kink);
            ++corner->edges;
            corner->kinks += m->kink > kMeantSmooth;
        }
    }

    std::optional<SharpPoint> sharpest() {
        constexpr double kLeast = 1e-3; // of a solid angle, sr: less is no corner but a fault of measuring
        for (std::size_t i = 0; i < m_corners.size(); ++i) {
            const Corner& c = m_corners[i];
            if (c.kinks < 3 || c.solid() < kLeast || c.solid() >= 2 * kPi) continue;
            const TopoDS_Shape& v = m_shape.vertices(int(i) + 1);
            take(coneOf(c.solid()), BRep_Tool::Pnt(TopoDS::Vertex(v)),
                 m_shape.facesOfVertex.FindFromKey(v).First());
        }
        return m_best;
    }

  private:
    Corner* cornerAt(const TopoDS_Vertex& v) {
        const int i = m_shape.vertices.FindIndex(v);
        return i > 0 ? &m_corners[std::size_t(i - 1)] : nullptr;
    }
    void addTip(const TopoDS_Edge& edge, const TopoDS_Face& face) {
        const gp_Pnt at = BRep_Tool::Pnt(TopExp::FirstVertex(edge));
        if (const auto angle = tipOf(face, edge, at)) take(*angle, at, face);
    }
    void take(double angle, const gp_Pnt& at, const TopoDS_Shape& face) {
        if (m_best && m_best->angle <= angle + 1e-9) return;
        m_best = SharpPoint{angle, toVec(at), m_shape.wordsFor(face)};
    }

    const Body& m_body;
    const NamedShape& m_shape;
    std::vector<Corner> m_corners;
    std::optional<SharpPoint> m_best;
};

} // namespace

std::optional<SharpPoint> sharpestPoint(const Body& body, const Stop& stop) {
    const NamedShape& s = body.shape();
    Points points(body);
    for (int i = 1; i <= s.facesOfEdge.Extent(); ++i) {
        if (stop && stop()) return std::nullopt;
        points.add(TopoDS::Edge(s.facesOfEdge.FindKey(i)), toVector(s.facesOfEdge(i)));
    }
    return points.sharpest();
}

} // namespace gc
