#pragma once
/// \file For .cpp files: walls that the kernel measures wrongly.

#include "core/steps/shared/boolean.hpp"

namespace gc {

/// A surface that is a spline moved along is measured wrongly by the kernel: it becomes a B-spline, to the
/// last digit the same. Planes and cylinders stay what they are.
void convertWalls(NamedTool& tool);

} // namespace gc
