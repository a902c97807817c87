#pragma once
/// \file For .cpp files: what an edge leaves in a plane, seen straight on.

#include "core/base/plane.hpp"
#include "core/sketch/trace.hpp"

#include <Geom_Plane.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>

namespace gc {

/// Lines, circles and ellipses as what they are seen as, other curves as what they come to within 2e-4 mm,
/// else as splines within 1e-3 mm; a line seen from its end is a point.
Trace projected(const TopoDS_Edge& edge, const Plane& plane);

Handle(Geom_Plane) kernelPlane(const Plane& plane);
/// Where a plane cuts through a face; nothing where it does not, or only runs along its border.
std::vector<TopoDS_Edge> cutThrough(const TopoDS_Face& face, const Plane& plane);

} // namespace gc
