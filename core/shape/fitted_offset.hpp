#pragma once
/// \file For .cpp files only: B-splines in place of offsets of B-splines.

#include <Geom_BSplineSurface.hxx>
#include <Geom_OffsetSurface.hxx>

namespace gc {

/// Interpolates the offset of a B-spline surface on the same (u, v) by a B-spline of degree 5, with knots
/// added along u or along v until it is within the tolerance between its own points. Null when the basis is
/// no B-spline or when that takes more than 60,000 poles. \param tolerance mm
Handle(Geom_BSplineSurface) fittedOffset(const Geom_OffsetSurface& surface, double tolerance);

/// A surface without a kernel's offset in it, the same within the tolerance: of a surface of revolution the
/// offset profile revolved, of one of extrusion extruded, of a B-spline a fit. Null for anything else. \param
/// surface an offset surface
Handle(Geom_Surface) plainOffset(const Handle(Geom_Surface) & surface, double tolerance);

} // namespace gc
