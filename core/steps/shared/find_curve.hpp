#pragma once
/// \file For .cpp files only: finding the one curve that a step leans on, an edge of a body or a stroke of a
/// drawing.

#include "core/model/arguments.hpp"

#include <TopoDS_Edge.hxx>
#include <gp_Trsf.hxx>

namespace gc {

/// Errors: those of findEdges; "curve.several" when the reference means more than one edge.
Result<TopoDS_Edge> findCurve(const std::string& reference, ModelReader& model);

/// From the front plane, where profiles are built, to where a drawing lies.
gp_Trsf placementOf(const Plane& plane);

} // namespace gc
