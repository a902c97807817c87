#include "core/steps/shared/supports.hpp"

#include "core/shape/foot_point.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/face_normal.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Lin.hxx>
#include <gp_Pln.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include <algorithm>
#include <cmath>
#include <memory>
#include <numbers>
#include <optional>

namespace gc {

namespace {

constexpr double kSunk = 1e-3;                          // of the radius
constexpr double kOffRadius = 0.02;                     // of the radius
constexpr double kKink = 1 * std::numbers::pi / 180;    // rad
constexpr double kNoRail = 25 * std::numbers::pi / 180; // an edge across the round is no rail of it

/// Distances from the whole surface under a face: a round reaches beyond where the face was cut.
class Support {
  public:
    explicit Support(const TopoDS_Face& face) : m_face(face), m_surface(face, false) {
        TopLoc_Location place;
        Handle(Geom_Surface) s = BRep_Tool::Surface(face, place);
        if (!place.IsIdentity()) s = Handle(Geom_Surface)::DownCast(s->Transformed(place.Transformation()));
        m_geometry = s;
        m_any = new ShapeAnalysis_Surface(s);
    }
    /// Distances are looked for from the middle of an edge of the face.
    void startAt(const TopoDS_Edge& edge) {
        const GeomAbs_SurfaceType type = m_surface.GetType();
        if (type <= GeomAbs_Torus && type != GeomAbs_Cone) return; // by a formula
        double a = 0, b = 0;
        const auto on = BRep_Tool::CurveOnSurface(edge, m_face, a, b);
        if (!on.IsNull()) m_near = on->Value((a + b) / 2);
    }
    /// How far the distance of a place is from a radius, as a share of it.
    double off(const gp_Pnt& p, double radius) const { return std::fabs(distance(p) - radius) / radius; }
    /// Does a ball there sink into the face itself?
    bool holds(const gp_Pnt& centre, double radius) const {
        const double least = (1 - kSunk) * radius;
        if (distance(centre) >= least) return false; // not even into its whole surface
        const BRepExtrema_DistShapeShape d(BRepBuilderAPI_MakeVertex(centre).Vertex(), m_face);
        return d.IsDone() && d.NbSolution() > 0 && d.Value() < least;
    }

  private:
    double distance(const gp_Pnt& p) const {
        switch (m_surface.GetType()) {
        case GeomAbs_Plane:
            return m_surface.Plane().Distance(p);
        case GeomAbs_Cylinder:
            return std::fabs(gp_Lin(m_surface.Cylinder().Axis()).Distance(p) - m_surface.Cylinder().Radius());
        case GeomAbs_Sphere:
            return std::fabs(m_surface.Sphere().Location().Distance(p) - m_surface.Sphere().Radius());
        case GeomAbs_Torus: {
            const gp_Torus t = m_surface.Torus();
            const double out = gp_Lin(t.Axis()).Distance(p),
                         up = gp_Vec(t.Location(), p).Dot(gp_Vec(t.Axis().Direction()));
            return std::fabs(std::hypot(out - t.MajorRadius(), up) - t.MinorRadius());
        }
        default: {
            // From where the last one was: places come one beside the other, and are asked for again.
            if (m_known && m_last.IsEqual(p, 0)) return *m_known;
            const auto foot = m_near ? footPoint(*m_geometry, p, *m_near) : std::nullopt;
            m_near = foot ? foot->uv : m_any->ValueOfUV(p, 1e-7);
            m_last = p;
            m_known = (foot ? foot->at : m_any->Value(*m_near)).Distance(p);
            return *m_known;
        }
        }
    }

    TopoDS_Face m_face;
    BRepAdaptor_Surface m_surface;
    Handle(Geom_Surface) m_geometry;
    Handle(ShapeAnalysis_Surface) m_any;
    mutable std::optional<gp_Pnt2d> m_near; ///< where the last place was
    mutable std::optional<double> m_known;  ///< its distance
    mutable gp_Pnt m_last;
};

class Check {
  public:
    Check(BRepFilletAPI_MakeFillet& fillet, const NamedShape& before, const TopoDS_Shape& after)
        : m_fillet(fillet), m_before(before), m_supports(static_cast<std::size_t>(before.faces.Extent())) {
        TopExp::MapShapesAndAncestors(after, TopAbs_EDGE, TopAbs_FACE, m_facesOfEdge);
        TopExp::MapShapes(after, TopAbs_FACE, m_faces);
    }

    bool contour(int c, double radius) {
        std::vector<const Support*> any;
        for (int k = 1; k <= m_fillet.NbEdges(c); ++k)
            for (const TopoDS_Shape& f : facesBeside(m_before, m_fillet.Edge(c, k))) {
                any.push_back(&support(f));
                support(f).startAt(m_fillet.Edge(c, k));
            }
        for (int k = 1; k <= m_fillet.NbEdges(c); ++k) {
            const TopoDS_Edge edge = m_fillet.Edge(c, k);
            const auto faces = facesBeside(m_before, edge);
            if (faces.empty()) continue;
            for (const TopoDS_Shape& made : toVector(m_fillet.Generated(edge))) {
                if (made.ShapeType() != TopAbs_FACE || !m_faces.Contains(made)) continue;
                const TopoDS_Face round = TopoDS::Face(made);
                if (radius > 0 && !touches(round, support(faces.front()), support(faces.back()), any, radius))
                    return false;
                if (!runsOn(round, faces)) return false;
            }
        }
        return true;
    }

  private:
    Support& support(const TopoDS_Shape& face) {
        auto& s = m_supports[static_cast<std::size_t>(m_before.faces.FindIndex(face)) - 1];
        if (!s) s = std::make_unique<Support>(TopoDS::Face(face));
        return *s;
    }

    /// On one of its two sides the centres lie a radius from both faces; where pieces of a chain meet, from
    /// any two of the chain.
    bool touches(const TopoDS_Face& round, const Support& a, const Support& b,
                 const std::vector<const Support*>& any, double radius) const {
        constexpr int kNet = 5;
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(round, u0, u1, v0, v1);
        const BRepAdaptor_Surface surface(round, false);
        BRepTopAdaptor_FClass2d inside(round, 1e-6);
        bool fits[2] = {true, true};
        for (int i = 1; i <= kNet; ++i)
            for (int j = 1; j <= kNet; ++j) {
                const gp_Pnt2d uv(u0 + (u1 - u0) * i / (kNet + 1), v0 + (v1 - v0) * j / (kNet + 1));
                if (inside.Perform(uv) != TopAbs_IN) continue;
                gp_Pnt p;
                const auto n = outwardNormal(surface, round.Orientation() == TopAbs_REVERSED, uv, p);
                if (!n) continue;
                const auto centreAt = [&](int side) { return p.Translated(*n * (side ? radius : -radius)); };
                const auto plainly = [&](int side) {
                    return fits[side] && a.off(centreAt(side), radius) <= kOffRadius &&
                           b.off(centreAt(side), radius) <= kOffRadius;
                };
                if (const bool first = plainly(0); first || plainly(1)) {
                    fits[first ? 1 : 0] = false;
                    continue;
                }
                for (int side = 0; side < 2; ++side)
                    fits[side] = fits[side] && rollsOnOthers(centreAt(side), a, b, any, radius);
                if (!fits[0] && !fits[1]) return false;
            }
        return true;
    }

    /// The ball rolls on others than the two beside the edge; into these it must not sink.
    static bool rollsOnOthers(const gp_Pnt& centre, const Support& a, const Support& b,
                              const std::vector<const Support*>& any, double radius) {
        const auto touched = std::count_if(
            any.begin(), any.end(), [&](const Support* s) { return s->off(centre, radius) <= kOffRadius; });
        return touched > 1 && !a.holds(centre, radius) && !b.holds(centre, radius);
    }

    bool isBeside(const TopoDS_Shape& face, const std::vector<TopoDS_Shape>& supports) const {
        for (const TopoDS_Shape& s : supports) {
            if (s.IsSame(face)) return true;
            for (const TopoDS_Shape& now : toVector(m_fillet.Modified(s)))
                if (now.IsSame(face)) return true;
        }
        return false;
    }

    /// Along its rails.
    bool runsOn(const TopoDS_Face& round, const std::vector<TopoDS_Shape>& supports) const {
        const BRepAdaptor_Surface own(round, false);
        for (TopExp_Explorer x(round, TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(x.Current());
            const auto* faces = m_facesOfEdge.Seek(edge);
            if (BRep_Tool::Degenerated(edge) || !faces || faces->Extent() != 2) continue;
            const TopoDS_Face other =
                TopoDS::Face(faces->First().IsSame(round) ? faces->Last() : faces->First());
            if (!isBeside(other, supports)) continue;
            double a = 0, b = 0;
            const auto c = BRep_Tool::CurveOnSurface(edge, round, a, b),
                       d = BRep_Tool::CurveOnSurface(edge, other, a, b);
            if (c.IsNull() || d.IsNull()) continue;
            const BRepAdaptor_Surface beside(other, false);
            double kink = 0;
            for (int i = 1; i <= 5; ++i) {
                const double t = a + (b - a) * i / 6;
                gp_Pnt p;
                const auto n = outwardNormal(own, round.Orientation() == TopAbs_REVERSED, c->Value(t), p),
                           m = outwardNormal(beside, other.Orientation() == TopAbs_REVERSED, d->Value(t), p);
                if (n && m) kink = std::max(kink, n->Angle(*m));
            }
            if (kink > kKink && kink < kNoRail) return false;
        }
        return true;
    }

    BRepFilletAPI_MakeFillet& m_fillet;
    const NamedShape& m_before;
    TopTools_IndexedDataMapOfShapeListOfShape m_facesOfEdge;
    TopTools_IndexedMapOfShape m_faces;
    std::vector<std::unique_ptr<Support>> m_supports;
};

} // namespace

bool touchesBothSides(BRepFilletAPI_MakeFillet& fillet, const NamedShape& before, const TopoDS_Shape& after,
                      const std::function<double(int contour)>& radius) {
    Check check(fillet, before, after);
    for (int c = 1; c <= fillet.NbContours(); ++c)
        if (!check.contour(c, radius(c))) return false;
    return true;
}

} // namespace gc
