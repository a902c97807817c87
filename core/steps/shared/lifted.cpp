#include "core/steps/shared/lifted.hpp"

#include "core/shape/extended_face.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/fitted_offset.hpp"
#include "core/shape/foot_point.hpp"

#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_OffsetSurface.hxx>
#include <Geom_SurfaceOfRevolution.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kTop = 1e-4; // mm: how near a fitted far surface comes

/// The piece of a B-spline that is needed, on its own parameters: the whole of it would take long.
Handle(Geom_BSplineSurface) pieceOf(const Handle(Geom_BSplineSurface) & whole, const Window& w) {
    const auto piece = Handle(Geom_BSplineSurface)::DownCast(whole->Copy());
    if (piece->IsUPeriodic()) piece->SetUNotPeriodic();
    if (piece->IsVPeriodic()) piece->SetVNotPeriodic();
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    piece->Bounds(u0, u1, v0, v1);
    const double du = 0.02 * (w.u1 - w.u0), dv = 0.02 * (w.v1 - w.v0);
    if (w.u0 < u0 || w.u1 > u1 || w.v0 < v0 || w.v1 > v1) return nullptr;
    piece->Segment(std::max(u0, w.u0 - du), std::min(u1, w.u1 + du), std::max(v0, w.v0 - dv),
                   std::min(v1, w.v1 + dv));
    return piece;
}

/// Whatever it is, fitted where it is needed.
Handle(Geom_Surface) fitted(const std::function<gp_Pnt(double, double)>& place, const Window& w) {
    constexpr int kRows = 7, kMost = 300;
    const double du = 0.02 * (w.u1 - w.u0), dv = 0.02 * (w.v1 - w.v0);
    const double u0 = w.u0 - du, u1 = w.u1 + du, v0 = w.v0 - dv, v1 = w.v1 + dv;
    const auto rows = [&](bool alongU) {
        return [&, alongU](double at) {
            std::vector<gp_Pnt> out;
            for (int i = 0; i < kRows; ++i) {
                const double part = double(i) / (kRows - 1);
                out.push_back(alongU ? place(at, v0 + (v1 - v0) * part) : place(u0 + (u1 - u0) * part, at));
            }
            return out;
        };
    };
    const auto u = directionFor({u0, u1}, rows(true), kTop / 2, kMost),
               v = directionFor({v0, v1}, rows(false), kTop / 2, kMost);
    if (!u || !v) return nullptr;
    std::vector<std::vector<gp_Pnt>> places;
    for (const double a : u->points()) {
        places.emplace_back();
        for (const double b : v->points()) places.back().push_back(place(a, b));
    }
    return surfaceThrough(*u, *v, places);
}

Handle(Geom_Surface) squareTo(const Handle(Geom_Surface) & s, double by, const Window& w) {
    if (const auto same = shiftedSurface(s, by); !same.IsNull()) return same;
    if (!Handle(Geom_SurfaceOfRevolution)::DownCast(s).IsNull())
        return plainOffset(new Geom_OffsetSurface(s, by), kTop);
    if (const auto spline = Handle(Geom_BSplineSurface)::DownCast(s); !spline.IsNull())
        if (const auto piece = pieceOf(spline, w); !piece.IsNull())
            return plainOffset(new Geom_OffsetSurface(piece, by), kTop);
    return nullptr;
}

} // namespace

void Window::add(const gp_Pnt2d& p) {
    u0 = std::min(u0, p.X()), u1 = std::max(u1, p.X());
    v0 = std::min(v0, p.Y()), v1 = std::max(v1, p.Y());
}

std::optional<gp_Pnt> liftedPlace(const TopoDS_Face& face, const Adaptor3d_Surface& surface,
                                  const ReliefShape& shape, const gp_Pnt2d& uv) {
    gp_Pnt p;
    gp_Vec du, dv;
    surface.D1(uv.X(), uv.Y(), p, du, dv);
    if (shape.along) return p.Translated(gp_Vec(*shape.along) * shape.height);
    gp_Vec n = du.Crossed(dv);
    if (n.Magnitude() < 1e-12) return std::nullopt;
    n.Normalize();
    return p.Translated(n * (face.Orientation() == TopAbs_REVERSED ? -shape.height : shape.height));
}

Result<LiftedSurface> liftedSurface(const TopoDS_Face& face, const ReliefShape& shape, const Window& window) {
    const auto folds = errorOf("emboss.folds",
                               "The wall is bent more closely than this is high, so its far side would fold. "
                               "Make it lower, or lay it where the wall is more even.");
    const Handle(Geom_Surface) s = BRep_Tool::Surface(face);
    const GeomAdaptor_Surface wall(s);
    const double by = face.Orientation() == TopAbs_REVERSED ? -shape.height : shape.height;
    if (shape.along)
        return LiftedSurface{
            Handle(Geom_Surface)::DownCast(s->Translated(gp_Vec(*shape.along) * shape.height))};
    LiftedSurface out;
    out.surface = squareTo(s, by, window);
    bool even = true;
    if (out.surface.IsNull())
        out.surface = fitted(
            [&](double u, double v) {
                const auto p = liftedPlace(face, wall, shape, {u, v});
                even = even && p;
                return p ? *p : s->Value(u, v);
            },
            window);
    if (out.surface.IsNull() || !even) return folds;
    constexpr int kPlaces = 12;
    for (int i = 0; i <= kPlaces; ++i)
        for (int j = 0; j <= kPlaces; ++j) {
            const gp_Pnt2d uv(window.u0 + (window.u1 - window.u0) * i / kPlaces,
                              window.v0 + (window.v1 - window.v0) * j / kPlaces);
            const auto wanted = liftedPlace(face, wall, shape, uv);
            if (!wanted) return folds;
            out.off = std::max(out.off, wanted->Distance(out.surface->Value(uv.X(), uv.Y())));
            // Where it folds its normal turns round.
            const auto a = placeOf(*s, uv).normal(), b = placeOf(*out.surface, uv).normal();
            if (!a || !b || a->Dot(*b) <= 0) return folds;
        }
    if (out.off > 10 * kTop) return folds;
    return out;
}

} // namespace gc
