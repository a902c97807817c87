// Where details stand on a wall after they were moved away from it.

#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/repeat/fitting.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Quaternion.hxx>

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

KnownPlaces::KnownPlaces(Handle(Geom_Surface) surface, const gp_Pnt2d& first)
    : m_surface(std::move(surface)) {
    add(first);
}

gp_Pnt2d KnownPlaces::nearTo(const gp_Pnt& p) const {
    return std::min_element(m_known.begin(), m_known.end(),
                            [&](const auto& a, const auto& b) {
                                return a.first.SquareDistance(p) < b.first.SquareDistance(p);
                            })
        ->second;
}

std::optional<gp_Pnt2d> KnownPlaces::footOf(const gp_Pnt& p) const {
    if (const auto foot = footPoint(*m_surface, p, nearTo(p))) return foot->uv;
    const GeomAPI_ProjectPointOnSurf all(p, m_surface);
    if (all.NbPoints() == 0) return std::nullopt;
    double u = 0, v = 0;
    all.LowerDistanceParameters(u, v);
    return gp_Pnt2d(u, v);
}

namespace {

/// The way that the detail's walls go at its first mouth: an axis, or that of straight edges.
std::optional<gp_Vec> ownWay(const Detail& detail) {
    for (const TopoDS_Face& f : detail.faces) {
        bool atMouth = false;
        TopTools_IndexedMapOfShape mouth;
        TopExp::MapShapes(detail.mouths.front().loop, TopAbs_EDGE, mouth);
        for (TopExp_Explorer x(f, TopAbs_EDGE); x.More(); x.Next())
            atMouth = atMouth || mouth.Contains(x.Current());
        if (!atMouth) continue;
        const BRepAdaptor_Surface s(f, false);
        if (s.GetType() == GeomAbs_Cylinder) return gp_Vec(s.Cylinder().Axis().Direction());
        if (s.GetType() == GeomAbs_Cone) return gp_Vec(s.Cone().Axis().Direction());
        if (s.GetType() == GeomAbs_SurfaceOfExtrusion) return gp_Vec(s.Direction());
        if (s.GetType() != GeomAbs_Plane) continue;
        for (TopExp_Explorer x(f, TopAbs_EDGE); x.More(); x.Next()) {
            const BRepAdaptor_Curve c(TopoDS::Edge(x.Current()));
            bool ends = false;
            for (TopExp_Explorer v(x.Current(), TopAbs_VERTEX); v.More(); v.Next())
                for (TopExp_Explorer m(detail.mouths.front().loop, TopAbs_VERTEX); m.More(); m.Next())
                    ends = ends || m.Current().IsSame(v.Current());
            if (ends && !mouth.Contains(x.Current()) && c.GetType() == GeomAbs_Line)
                return gp_Vec(c.Line().Direction());
        }
    }
    return std::nullopt;
}

} // namespace

Seats::Seats(const Detail& detail, bool square)
    : m_places(BRep_Tool::Surface(detail.mouths.front().host), middleOf(detail.mouths.front())),
      m_reversed(detail.mouths.front().host.Orientation() == TopAbs_REVERSED), m_square(square) {
    const SurfacePlace place = placeOf(m_places.surface(), middleOf(detail.mouths.front()));
    const gp_Vec n = place.normal().value_or(gp_Vec(0, 0, 1));
    m_own = {place.at, gp_Dir(m_reversed ? -n : n)};
    m_way = ownWay(detail).value_or(n);
}

/// The nearest place of the wall, or the one that lies along a way.
std::optional<gp_Pnt2d> Seats::landed(const gp_Pnt& p, const gp_Vec& way) const {
    constexpr int kSteps = 60;
    if (m_square) return m_places.footOf(p);
    // By Newton's method: what is off, seen along the way.
    const Geom_Surface& surface = m_places.surface();
    const gp_Ax2 across{gp_Pnt(), gp_Dir(way)};
    const gp_Vec x(across.XDirection()), y(across.YDirection());
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    surface.Bounds(u0, u1, v0, v1);
    gp_Pnt2d uv = m_places.nearTo(p);
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

std::optional<gp_Trsf> Seats::seated(const gp_Trsf& by) {
    const gp_Pnt p = m_own.at.Transformed(by);
    const gp_Vec up = gp_Vec(m_own.up).Transformed(by);
    const auto uv = landed(p, m_way.Transformed(by));
    if (!uv) return std::nullopt;
    const SurfacePlace place = placeOf(m_places.surface(), *uv);
    const auto n = place.normal();
    if (!n) return std::nullopt;
    m_places.add(*uv);
    gp_Trsf back;
    back.SetTranslation(gp_Vec(p, place.at));
    if (m_square) {
        gp_Trsf turn;
        turn.SetRotation(gp_Quaternion(up, m_reversed ? -*n : *n));
        // About the place itself.
        gp_Trsf there, home;
        there.SetTranslation(gp_Vec(place.at.XYZ()));
        home.SetTranslation(gp_Vec(place.at.XYZ().Reversed()));
        back = there * turn * home * back;
    }
    return back * by;
}

} // namespace gc
