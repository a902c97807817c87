#pragma once
/// \file For .cpp files: a body whose every place goes elsewhere: twisted, tapered, bent.

#include "core/base/progress.hpp"
#include "core/shape/kernel.hpp"

#include <gp_Pln.hxx>
#include <gp_Trsf.hxx>

#include <functional>
#include <optional>

namespace gc {

struct Deformation {
    std::function<gp_Pnt(const gp_Pnt&)> place; ///< one to one, and smooth
    /// Of flat faces that only move: how. They stay flat.
    std::function<std::optional<gp_Trsf>(const gp_Pln&)> moves;
};

/// Faces become splines on the same (u, v), edges splines of the same parameter, so that everything hangs
/// together as before and keeps its name. Errors: "deform.rough" with the face where a spline does not come
/// within 5e-5 mm.
Result<Body> deformed(const Body& body, const Deformation& by, const Progress& progress);

/// From where to where a shape reaches along an axis, from its origin, mm.
std::pair<double, double> reachAlong(const TopoDS_Shape& shape, const Vec3& origin, const Vec3& direction);

} // namespace gc
