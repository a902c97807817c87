#include "core/steps/shared/geodesics.hpp"

#include "core/shape/foot_point.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

Going Geodesics::along(Going g, double by) const {
    constexpr double kStep = 0.5; // mm
    const int n = std::max(1, static_cast<int>(std::ceil(std::fabs(by) / kStep)));
    const double h = by / n;
    for (int i = 0; i < n; ++i) {
        const gp_Vec2d a1 = g.ahead, b1 = bend(g.at, a1);
        const gp_Vec2d a2 = g.ahead + b1 * (h / 2), b2 = bend(g.at.Translated(a1 * (h / 2)), a2);
        const gp_Vec2d a3 = g.ahead + b2 * (h / 2), b3 = bend(g.at.Translated(a2 * (h / 2)), a3);
        const gp_Vec2d a4 = g.ahead + b3 * h, b4 = bend(g.at.Translated(a3 * h), a4);
        g.at.Translate((a1 + a2 * 2 + a3 * 2 + a4) * (h / 6));
        g.ahead += (b1 + b2 * 2 + b3 * 2 + b4) * (h / 6);
    }
    return g;
}

gp_Vec2d Geodesics::wayOf(const gp_Pnt2d& at, const gp_Vec& direction) const {
    const SurfacePlace p = placeOf(*m_surface, at);
    const double e = p.du.Dot(p.du), f = p.du.Dot(p.dv), g = p.dv.Dot(p.dv), area = e * g - f * f,
                 x = direction.Dot(p.du), y = direction.Dot(p.dv);
    const gp_Vec2d way((x * g - y * f) / area, (y * e - x * f) / area);
    return way / (p.du * way.X() + p.dv * way.Y()).Magnitude();
}

gp_Vec Geodesics::inSpaceOf(const Going& g) const {
    const SurfacePlace p = placeOf(*m_surface, g.at);
    return p.du * g.ahead.X() + p.dv * g.ahead.Y();
}

/// Second derivative by length: what keeps the line's bend square to the surface.
gp_Vec2d Geodesics::bend(const gp_Pnt2d& at, const gp_Vec2d& a) const {
    const SurfacePlace p = placeOf(*m_surface, at);
    const gp_Vec second = p.duu * (a.X() * a.X()) + p.duv * (2 * a.X() * a.Y()) + p.dvv * (a.Y() * a.Y());
    const double e = p.du.Dot(p.du), f = p.du.Dot(p.dv), g = p.dv.Dot(p.dv), area = e * g - f * f,
                 x = second.Dot(p.du), y = second.Dot(p.dv);
    return gp_Vec2d(-(x * g - y * f) / area, -(y * e - x * f) / area);
}

} // namespace gc
