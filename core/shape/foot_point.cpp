#include "core/shape/foot_point.hpp"

#include "core/base/tolerance.hpp"

#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

std::optional<gp_Vec> SurfacePlace::normal() const {
    gp_Vec n = du.Crossed(dv);
    if (n.Magnitude() < kNoDirection) return std::nullopt;
    return n.Normalized();
}

double SurfacePlace::curvature(const gp_Vec& direction, const gp_Vec& towards) const {
    const double e = du * du, f = du * dv, g = dv * dv, d = e * g - f * f;
    if (d <= 0) return 0;
    const double p = direction * du, q = direction * dv;
    const double a = (g * p - f * q) / d, b = (e * q - f * p) / d;
    const double length = e * a * a + 2 * f * a * b + g * b * b;
    return length > 0 ? (duu * towards * a * a + 2 * (duv * towards) * a * b + dvv * towards * b * b) / length
                      : 0;
}

SurfacePlace placeOf(const Geom_Surface& surface, const gp_Pnt2d& uv) {
    SurfacePlace out;
    out.uv = uv;
    surface.D2(uv.X(), uv.Y(), out.at, out.du, out.dv, out.duu, out.dvv, out.duv);
    return out;
}

FaceSurface::FaceSurface(const TopoDS_Face& face)
    : m_surface(BRep_Tool::Surface(face)), m_reversed(face.Orientation() == TopAbs_REVERSED) {}

std::optional<gp_Vec> FaceSurface::outward(const SurfacePlace& place) const {
    const auto n = place.normal();
    return n && m_reversed ? -*n : n;
}

TopoDS_Edge asIn(const TopoDS_Face& face, const TopoDS_Edge& edge) {
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
        if (x.Current().IsSame(edge)) return TopoDS::Edge(x.Current());
    return {};
}

std::optional<SurfacePlace> footPoint(const Geom_Surface& surface, const gp_Pnt& p, const gp_Pnt2d& near,
                                      bool mayCross) {
    constexpr int kSteps = 40, kCrossings = 2;
    constexpr double kSeam = 1e-4; // mm: fitted surfaces close up no better
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    surface.Bounds(u0, u1, v0, v1);
    const auto within = [&](gp_Pnt2d uv) {
        if (!surface.IsUPeriodic()) uv.SetX(std::clamp(uv.X(), u0, u1));
        if (!surface.IsVPeriodic()) uv.SetY(std::clamp(uv.Y(), v0, v1));
        return uv;
    };
    SurfacePlace now = placeOf(surface, within(near));
    int crossed = 0;
    for (int k = 0; k < kSteps; ++k) {
        const gp_Vec r(p, now.at);
        const double f = r * now.du, g = r * now.dv;
        double a = now.du * now.du + r * now.duu, b = now.du * now.dv + r * now.duv,
               c = now.dv * now.dv + r * now.dvv;
        double d = a * c - b * b;
        if (d <= 0 || a <= 0) // no least distance near here: downhill at least
            a = now.du * now.du, b = now.du * now.dv, c = now.dv * now.dv, d = a * c - b * b;
        if (d <= 0) return std::nullopt;
        double su = -(c * f - b * g) / d, sv = -(a * g - b * f) / d;
        // Along a border that it may not cross there is one unknown less.
        const bool stopsU = !surface.IsUPeriodic() &&
                            ((now.uv.X() <= u0 && su < 0) || (now.uv.X() >= u1 && su > 0)),
                   stopsV = !surface.IsVPeriodic() &&
                            ((now.uv.Y() <= v0 && sv < 0) || (now.uv.Y() >= v1 && sv > 0));
        if (stopsU)
            su = 0, sv = stopsV || c <= 0 ? 0 : -g / c;
        else if (stopsV)
            sv = 0, su = a <= 0 ? 0 : -f / a;
        SurfacePlace next;
        double before = r.SquareMagnitude();
        for (int half = 0; half < 20; ++half, su /= 2, sv /= 2) {
            next = placeOf(surface, within({now.uv.X() + su, now.uv.Y() + sv}));
            if (next.at.SquareDistance(p) <= before * (1 + 1e-12) + 1e-24) break;
        }
        const double moved = next.at.Distance(now.at);
        now = next;
        if (moved >= 1e-3 * kKernelPoint) continue;
        if (!mayCross) return now;
        // At the seam of a surface that closes up without a period it goes on at the other side.
        const gp_Vec r2(now.at, p);
        const auto beyond = [&](double at, double from, double to, const gp_Vec& along) {
            const double out = r2 * along / std::max(along.Magnitude(), kNoDirection);
            return (at <= from && out < -kKernelPoint) || (at >= to && out > kKernelPoint);
        };
        const auto meets = [&](double u, double v) { return surface.Value(u, v).Distance(now.at) < kSeam; };
        gp_Pnt2d uv = now.uv;
        const double u = uv.X() <= u0 ? u1 : u0, v = uv.Y() <= v0 ? v1 : v0;
        if (!surface.IsUPeriodic() && beyond(uv.X(), u0, u1, now.du) && meets(u, uv.Y())) uv.SetX(u);
        if (!surface.IsVPeriodic() && beyond(uv.Y(), v0, v1, now.dv) && meets(uv.X(), v)) uv.SetY(v);
        // Where it is not quite smooth there, both sides may send it to the other: then it is the seam.
        if (uv.SquareDistance(now.uv) == 0 || ++crossed > kCrossings) return now;
        now = placeOf(surface, uv);
    }
    return now.at.Distance(p) < kKernelPoint ? std::optional(now) : std::nullopt;
}

std::optional<gp_XYZ> meetingStep(const gp_Vec& du, const gp_Vec& dv, const gp_Vec& along,
                                  const gp_Vec& off) {
    constexpr double kAside = 1e-9;           // of what it is at a right angle
    const double d = du.DotCross(dv, -along); // du a + dv b - along c = off, by Cramer's rule
    if (std::fabs(d) < kAside * du.Magnitude() * dv.Magnitude() * along.Magnitude()) return std::nullopt;
    return gp_XYZ(off.DotCross(dv, -along), du.DotCross(off, -along), du.DotCross(dv, off)) / d;
}

} // namespace gc
