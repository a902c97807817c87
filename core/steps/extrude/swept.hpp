#pragma once
/// \file For .cpp files of this folder: one area moved along, before anything ends it.

#include "core/steps/extrude/reach.hpp"
#include "core/steps/shared/ended_solid.hpp"

namespace gc {

/// Errors: of a lean that cannot be, "lean.height" and "lean.fit".
Result<Swept> sweptAlong(const Outline& outline, const Region& area, const Reach& reach);

} // namespace gc
