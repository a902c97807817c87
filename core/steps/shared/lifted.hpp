#pragma once
/// \file For .cpp files: the surface at the far end of a relief, on the same parameters as its wall's.

#include "core/steps/shared/far_sides.hpp"

#include <Adaptor3d_Surface.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Pnt2d.hxx>

namespace gc {

/// What a relief needs of its wall's parameters.
struct Window {
    double u0 = 1e300, u1 = -1e300, v0 = 1e300, v1 = -1e300;
    void add(const gp_Pnt2d& p);
    gp_Pnt2d middle() const { return {0.5 * (u0 + u1), 0.5 * (v0 + v1)}; }
};

struct LiftedSurface {
    Handle(Geom_Surface) surface;
    double off = 0; ///< mm by which it leaves what it stands for
};

/// The place that lies a relief's height above one of a face; nothing at a pole. \param surface the face's
std::optional<gp_Pnt> liftedPlace(const TopoDS_Face& face, const Adaptor3d_Surface& surface,
                                  const ReliefShape& shape, const gp_Pnt2d& uv);

/// Planes, cylinders, cones, spheres and rings are such again, others are fitted to 1e-4 mm.
/// Errors: "emboss.folds" where the wall is bent more closely than the relief is deep, or too uneven.
Result<LiftedSurface> liftedSurface(const TopoDS_Face& face, const ReliefShape& shape, const Window& window);

} // namespace gc
