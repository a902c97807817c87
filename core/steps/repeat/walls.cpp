#include "core/steps/repeat/walls.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/edge_work.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <gp_Ax2.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

gp_Pnt2d middleOf(const Mouth& mouth) {
    constexpr int kPlaces = 24;
    const TopoDS_Face face = TopoDS::Face(mouth.host.Oriented(TopAbs_FORWARD));
    gp_XY sum;
    double weight = 0;
    for (BRepTools_WireExplorer x(mouth.loop, face); x.More(); x.Next()) {
        double a = 0, b = 0;
        const Handle(Geom2d_Curve) c = BRep_Tool::CurveOnSurface(x.Current(), face, a, b);
        for (int i = 0; i < kPlaces; ++i) {
            const gp_Pnt2d p = c->Value(a + (b - a) * i / kPlaces),
                           q = c->Value(a + (b - a) * (i + 1) / kPlaces);
            const double l = p.Distance(q);
            sum += (p.XY() + q.XY()) * (0.5 * l);
            weight += l;
        }
    }
    return gp_Pnt2d(weight > 0 ? sum / weight : sum);
}

std::optional<gp_Pnt2d> KnownPlaces::nearTo(const gp_Pnt& p) const {
    if (m_known.empty()) return std::nullopt;
    return std::min_element(m_known.begin(), m_known.end(),
                            [&](const auto& a, const auto& b) {
                                return a.first.SquareDistance(p) < b.first.SquareDistance(p);
                            })
        ->second;
}

std::optional<gp_Pnt2d> KnownPlaces::footOf(const gp_Pnt& p) const {
    if (const auto near = nearTo(p))
        if (const auto foot = footPoint(*m_surface, p, *near)) return foot->uv;
    const GeomAPI_ProjectPointOnSurf all(p, m_surface);
    if (all.NbPoints() == 0) return std::nullopt;
    double u = 0, v = 0;
    all.LowerDistanceParameters(u, v);
    return gp_Pnt2d(u, v);
}

Walls::Walls(const NamedShape& shape, const Detail& detail) {
    constexpr int kMost = 40;
    TopTools_IndexedMapOfShape own;
    for (const TopoDS_Face& f : detail.faces) own.Add(f);
    for (const Mouth& m : detail.mouths) m_faces.Add(m.host);
    for (int k = 1; k <= m_faces.Extent() && m_faces.Extent() < kMost; ++k)
        for (TopExp_Explorer x(m_faces(k), TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(x.Current());
            for (const TopoDS_Shape& f : facesBeside(shape, edge))
                if (!own.Contains(f) && !m_faces.Contains(f) && isSmooth(shape, edge)) m_faces.Add(f);
        }
    const BRep_Builder builder;
    for (int k = 1; k <= m_faces.Extent(); ++k) {
        const TopoDS_Face face = TopoDS::Face(m_faces(k));
        One one{KnownPlaces(BRep_Tool::Surface(face)), TopoDS::Face(face.EmptyCopied()), nullptr, 0, 0};
        one.filled.Orientation(TopAbs_FORWARD);
        for (TopoDS_Iterator w(face.Oriented(TopAbs_FORWARD), false); w.More(); w.Next())
            if (std::none_of(detail.mouths.begin(), detail.mouths.end(),
                             [&](const Mouth& m) { return m.loop.IsSame(w.Value()); }))
                builder.Add(one.filled, w.Value());
        for (const Mouth& m : detail.mouths)
            if (m.host.IsSame(face)) one.places.add(middleOf(m));
        one.inside = std::make_unique<BRepTopAdaptor_FClass2d>(one.filled, 1e-7);
        if (BRepAdaptor_Surface(face, false).IsUPeriodic()) {
            double v0 = 0, v1 = 0;
            BRepTools::UVBounds(face, one.low, one.high, v0, v1);
        }
        m_all.push_back(std::move(one));
    }
}

bool Walls::holds(const TopoDS_Face& face, const gp_Pnt2d& uv) const {
    constexpr double kSame = 1e-6; // of a parameter
    const One& one = m_all[static_cast<std::size_t>(m_faces.FindIndex(face) - 1)];
    if (one.inside->Perform(uv, true) == TopAbs_IN) return true;
    // Where the face closes up it has no border.
    const double turn = one.high - one.low;
    return turn > 0 && one.places.surface().IsUClosed() &&
           std::fabs(turn - BRepAdaptor_Surface(face, false).UPeriod()) < kSame &&
           std::fabs(std::remainder(uv.X() - one.low, turn)) < kSame &&
           one.inside->Perform({uv.X() + 2 * kSame, uv.Y()}, true) == TopAbs_IN;
}

KnownPlaces& Walls::placesOf(const TopoDS_Face& face) {
    return m_all[static_cast<std::size_t>(m_faces.FindIndex(face) - 1)].places;
}

std::optional<Walls::Place> Walls::nearest(const gp_Pnt& p, const TopoDS_Face& first) {
    const auto foot = placesOf(first).footOf(p);
    if (foot && holds(first, *foot)) return Place{first, *foot};
    std::optional<Place> best;
    double least = 1e300;
    for (int k = 1; k <= m_faces.Extent(); ++k) {
        const TopoDS_Face face = TopoDS::Face(m_faces(k));
        const auto uv = face.IsSame(first) ? std::nullopt : placesOf(face).footOf(p);
        if (!uv || !holds(face, *uv)) continue;
        const double away = placesOf(face).surface().Value(uv->X(), uv->Y()).Distance(p);
        if (away < least) least = away, best = Place{face, *uv};
    }
    if (best) return best;
    return foot ? std::optional(Place{first, *foot}) : std::nullopt;
}

/// By Newton's method: what is off, seen along the way.
std::optional<gp_Pnt2d> Walls::hit(const One& on, const gp_Pnt& p, const gp_Vec& way) const {
    constexpr int kSteps = 60;
    const Geom_Surface& surface = on.places.surface();
    const gp_Ax2 across{gp_Pnt(), gp_Dir(way)};
    const gp_Vec x(across.XDirection()), y(across.YDirection());
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    surface.Bounds(u0, u1, v0, v1);
    const auto begin = on.places.nearTo(p) ? on.places.nearTo(p) : on.places.footOf(p);
    if (!begin) return std::nullopt;
    gp_Pnt2d uv = *begin;
    for (int k = 0; k < kSteps; ++k) {
        const SurfacePlace s = placeOf(surface, uv);
        const gp_Vec off(s.at, p);
        const double ex = off * x, ey = off * y;
        if (std::hypot(ex, ey) < 1e-3 * kKernelPoint) return uv;
        const double ax = s.du * x, ay = s.du * y, bx = s.dv * x, by = s.dv * y, d = ax * by - bx * ay;
        if (std::fabs(d) < 1e-12 * s.du.Magnitude() * s.dv.Magnitude()) return std::nullopt;
        uv.SetCoord(uv.X() + (ex * by - ey * bx) / d, uv.Y() + (ax * ey - ay * ex) / d);
        if (!surface.IsUPeriodic()) uv.SetX(std::clamp(uv.X(), u0, u1));
        if (!surface.IsVPeriodic()) uv.SetY(std::clamp(uv.Y(), v0, v1));
    }
    return std::nullopt;
}

std::optional<Walls::Place> Walls::along(const gp_Pnt& p, const gp_Vec& way, const TopoDS_Face& first) {
    const int k = m_faces.FindIndex(first);
    if (const auto uv = hit(m_all[static_cast<std::size_t>(k - 1)], p, way); uv && holds(first, *uv))
        return Place{first, *uv};
    std::optional<Place> best;
    double least = 1e300;
    for (int i = 1; i <= m_faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(m_faces(i));
        const auto uv =
            face.IsSame(first) ? std::nullopt : hit(m_all[static_cast<std::size_t>(i - 1)], p, way);
        if (!uv || !holds(face, *uv)) continue;
        const double away = placesOf(face).surface().Value(uv->X(), uv->Y()).Distance(p);
        if (away < least) least = away, best = Place{face, *uv};
    }
    return best;
}

} // namespace gc
