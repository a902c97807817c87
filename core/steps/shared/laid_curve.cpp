#include "core/steps/shared/laid_curve.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColgp_Array1OfPnt2d.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The place of a face near which a curve begins, by a border of the face that runs near it.
gp_Pnt2d beginsNear(const gp_Pnt& start, const TopoDS_Edge& border, bool alike, const TopoDS_Face& face) {
    constexpr int kPlaces = 64;
    double a = 0, b = 0;
    const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(asIn(face, border), face, a, b);
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
    if (!alike)
        std::swap(a, b); // a border that runs round begins and ends there, at two places of the surface
    gp_Pnt2d best = on->Value(a);
    double least = 1e300;
    for (int i = 0; i <= kPlaces; ++i) {
        const gp_Pnt2d uv = on->Value(a + (b - a) * i / kPlaces);
        const double d = surface->Value(uv.X(), uv.Y()).Distance(start);
        if (d < least - kSamePoint) least = d, best = uv;
    }
    return best;
}

gp_Pnt scaledBy(const gp_Pnt2d& uv, double su, double sv) {
    return {uv.X() * su, uv.Y() * sv, 0};
}

} // namespace

bool runsAlike(const Geom_Curve& curve, const TopoDS_Edge& edge) {
    const BRepAdaptor_Curve other(edge);
    gp_Pnt p, q;
    gp_Vec d, e;
    curve.D1(0.5 * (curve.FirstParameter() + curve.LastParameter()), p, d);
    double a = 0, b = 0;
    const Handle(Geom_Curve) was = BRep_Tool::Curve(edge, a, b);
    const GeomAPI_ProjectPointOnCurve near(p, was, a, b);
    other.D1(near.NbPoints() > 0 ? near.LowerDistanceParameter() : 0.5 * (a + b), q, e);
    return d.Dot(e) > 0;
}

LaidCurve::LaidCurve(const Handle(Geom_Curve) & curve, const TopoDS_Face& face, const TopoDS_Edge& along)
    : m_curve(curve), m_surface(BRep_Tool::Surface(face)) {
    m_last = beginsNear(curve->Value(curve->FirstParameter()), along, runsAlike(*curve, along), face);
    walk();
}

Handle(Geom2d_Curve) LaidCurve::onSurface() const {
    const double from = m_curve->FirstParameter(), to = m_curve->LastParameter();
    const gp_Pnt2d middle = m_uv[m_uv.size() / 2];
    const SurfacePlace p = placeOf(*m_surface, middle);
    const double su = std::max(p.du.Magnitude(), 1e-9), sv = std::max(p.dv.Magnitude(), 1e-9);
    const auto scaledAt = [&](double t) { return std::vector{scaledBy(at(t), su, sv)}; };
    const auto direction = directionFor({from, to}, scaledAt, kSurfaceFit);
    if (!direction) return {};
    const Handle(Geom_BSplineCurve) c = curvesThrough(*direction, scaledAt).front();
    return inParameters(c, {su, sv});
}

void LaidCurve::walk() {
    constexpr int kPlaces = 128;
    const double from = m_curve->FirstParameter(), to = m_curve->LastParameter();
    gp_Pnt2d near = m_last;
    for (int i = 0; i <= kPlaces; ++i) {
        const gp_Pnt p = m_curve->Value(from + (to - from) * i / kPlaces);
        const auto foot = footPoint(*m_surface, p, near, false);
        if (foot) {
            near = foot->uv;
            m_off = std::max(m_off, foot->at.Distance(p));
        } else
            m_off = 1e300;
        m_uv.push_back(near);
    }
}

gp_Pnt2d LaidCurve::at(double t) const {
    const double from = m_curve->FirstParameter(), to = m_curve->LastParameter();
    const double share = (t - from) / (to - from) * static_cast<double>(m_uv.size() - 1);
    const auto i = std::min(static_cast<std::size_t>(std::max(share, 0.0)), m_uv.size() - 2);
    const double rest = share - static_cast<double>(i);
    const gp_Pnt2d near(m_uv[i].XY() * (1 - rest) + m_uv[i + 1].XY() * rest);
    const auto foot = footPoint(*m_surface, m_curve->Value(t), near, false);
    return foot ? foot->uv : near;
}

} // namespace gc
