#pragma once
/// \file For .cpp files: whole bodies repeated.

#include "core/model/arguments.hpp"
#include "core/steps/repeat/placements.hpp"

namespace gc {

/// How far a shape reaches along a direction, mm, from its exact geometry.
double widthAlong(const TopoDS_Shape& shape, const Vec3& direction);

/// Joined with the body, or beside it as bodies of their own. Errors: those of the directions; "repeat.apart"
/// where what shall be joined does not touch; "repeat.failed".
Result<StepChange> repeatBody(const Arguments& args, ModelReader& model, const Progress& progress);

} // namespace gc
