#pragma once
/// \file Finding the planes and points that steps name: fixed planes, planes made before, flat faces; points
/// of bodies and of drawings.

#include "core/model/arguments.hpp"

namespace gc {

/// The plane that a slot names. Errors: "plane.none" for an empty text, "plane.lost" for a name that no step
/// before made, "plane.curved" for a face that is not flat, and those of findFaces.
Result<Plane> findPlane(const Arguments& args, const std::string& slot, ModelReader& model);

/// Where a point reference is. Errors: those of resolvePoint; "reference.lost" for a point of a drawing that
/// is not there.
Result<Vec3> findPoint(const std::string& reference, ModelReader& model);

} // namespace gc
