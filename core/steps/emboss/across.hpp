#pragma once
/// \file For .cpp files: an area that runs over the borders between walls. There it cannot be set into one
/// face, so it is cut out of a layer over all of them, and added or taken by a boolean.

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/placing.hpp"

namespace gc {

/// \param walls of the body, side by side Errors: "emboss.border" where the area runs beyond them, or where
/// it is wrapped or its sides lean; those of combine.
Result<Body> embossedAcross(const Body& body, const std::vector<TopoDS_Face>& walls, const Outline& outline,
                            const Region& area, const LayingBy& by, const ReliefShape& shape, int step);

} // namespace gc
