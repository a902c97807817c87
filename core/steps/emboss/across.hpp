#pragma once
/// \file For .cpp files: an area that runs over the borders between walls. There it cannot be set into one
/// face: laid straight with straight sides, it is cut out of a layer over all of them, else it is made on one
/// surface in the place of these. It is added or taken by a boolean.

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/placing.hpp"

namespace gc {

/// \param walls of the body, side by side Errors: "emboss.border" where the area runs beyond them, or where
/// they meet in a sharp edge and something has to be square to them; "emboss.failed"; those of wallsAsOne.
Result<Body> embossedAcross(const Body& body, const std::vector<TopoDS_Face>& walls, const Outline& outline,
                            const LaidArea& area, const LayingBy& by, const ReliefShape& shape, int step);

/// The same area as a solid of its own, or what fills it where it is sunk. Errors: "emboss.border"; those of
/// reliefOver.
Result<NamedTool> standingAcross(const std::vector<TopoDS_Face>& walls, const Outline& outline,
                                 const LaidArea& area, const LayingBy& by, const ReliefShape& shape,
                                 int step);

} // namespace gc
