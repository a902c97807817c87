#pragma once
/// \file For .cpp files only: faces continued beyond their borders, and shifted along their normals: what
/// something ends at need not cover it.

#include <Geom_Surface.hxx>
#include <TopoDS_Face.hxx>

#include <optional>

namespace gc {

/// The face with its surface continued by a length on every side that does not close: planes, cylinders and
/// cones as such (cones not beyond their apex), spheres and tori whole, other surfaces as B-splines with one
/// continuous derivative. Where the face is, it stays. Throws what the kernel throws. \param by mm
TopoDS_Face extendedFace(const TopoDS_Face& face, double by);

/// The face moved along its surface's normal (that of the surface, not of the face) by a distance: analytic
/// surfaces exactly, others by a fitted B-spline within the tolerance. Nothing where there is no such
/// surface: it would shrink to nothing, or fold. \param distance mm, may be negative \param tolerance mm
std::optional<TopoDS_Face> offsetFace(const TopoDS_Face& face, double distance, double tolerance);

/// A plane, cylinder, cone, sphere or ring shifted along its own normal: such again, with the place that lies
/// a distance from another at the same parameters. Null for other surfaces, and where nothing would be left.
/// \param by mm, may be negative
Handle(Geom_Surface) shiftedSurface(const Handle(Geom_Surface) & surface, double by);

} // namespace gc
