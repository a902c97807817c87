#pragma once
/// \file For .cpp files: the place of a surface that is nearest to a point, from a place near it.

#include <Geom_Surface.hxx>
#include <gp_Pnt.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec.hxx>

#include <optional>

namespace gc {

/// A place of a surface with its derivatives.
struct SurfacePlace {
    gp_Pnt2d uv;
    gp_Pnt at;
    gp_Vec du, dv, duu, dvv, duv;

    /// Of length 1, along du x dv; nothing at a pole.
    std::optional<gp_Vec> normal() const;
    /// Of the surface cut along a tangent direction, towards that normal, 1/mm (do Carmo, Differential
    /// geometry of curves and surfaces, 3.2).
    double curvature(const gp_Vec& direction, const gp_Vec& normal) const;
};

SurfacePlace placeOf(const Geom_Surface& surface, const gp_Pnt2d& uv);

/// By Newton's method; on a surface with borders it stays within them, else it may go on over the period.
/// Nothing where that leads nowhere. \param mayCross a seam where the surface closes up without a period
std::optional<SurfacePlace> footPoint(const Geom_Surface& surface, const gp_Pnt& p, const gp_Pnt2d& near,
                                      bool mayCross = true);

} // namespace gc
