#pragma once
/// \file For .cpp files only: finding the one curve that a step leans on, an edge of a body or a stroke of a
/// drawing.

#include "core/model/arguments.hpp"

#include <Adaptor3d_Curve.hxx>
#include <TopoDS_Edge.hxx>
#include <gp_Trsf.hxx>

namespace gc {

/// Errors: those of findEdges; "curve.several" when the reference means more than one edge.
Result<TopoDS_Edge> findCurve(const std::string& reference, ModelReader& model);

/// The same; of a curve in space all its pieces.
Result<std::vector<TopoDS_Edge>> findCurvePieces(const std::string& reference, ModelReader& model);

/// The direction of a curve that is straight, whatever kind of curve the kernel keeps it as.
std::optional<Vec3> straightAlong(const Adaptor3d_Curve& curve);

/// From the front plane, where profiles are built, to where a drawing lies.
gp_Trsf placementOf(const Plane& plane);

} // namespace gc
