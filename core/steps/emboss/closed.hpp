#pragma once
/// \file For .cpp files: what stands on a wall, or fills what is sunk into it, as a solid of its own.

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/over_walls.hpp"
#include "core/steps/shared/relief.hpp"

namespace gc {

inline constexpr const char* kFootRole = "foot"; ///< the piece of the wall under it

/// A relief with the piece of the wall under it, by a step.
NamedTool closedRelief(const Relief& relief, const TopoDS_Face& wall, const ReliefShape& shape,
                       const std::string& footRole, const Outline& outline, int step);

/// An area over several walls at once. \param below mm by which it begins on the other side of the walls
/// Errors: those of FarSides, wallsAsOne and reliefOn.
Result<NamedTool> reliefOver(const OverWalls& over, const Outline& outline, const Region& area,
                             ReliefShape shape, double below, const std::string& footRole, int step);

} // namespace gc
