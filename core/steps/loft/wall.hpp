#pragma once
/// \file For .cpp files: a wall along a drawn section.

#include "core/sketch/edit/thin_wall.hpp"
#include "core/steps/loft/section.hpp"

namespace gc {

/// Both borders of a wall along a closed chain of strokes, the outer first. Errors: "loft.wall" for what is
/// no closed chain, and those of thinWallOf.
Result<std::vector<LoftSection>> wallSection(const std::string& reference, int number, double thickness,
                                             WallSide side, ModelReader& model);

} // namespace gc
