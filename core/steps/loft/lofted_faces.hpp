#pragma once
/// \file For .cpp files: the wall of a loft as a solid: one face from corner to corner, flat where it can be,
/// all edges shared.

#include "core/steps/loft/skin.hpp"
#include "core/steps/shared/ended_solid.hpp"

namespace gc {

/// Within this of the true wall, mm. Where it has corners finer, as the kernel takes waves beside one for
/// edges that cross; and still finer where a section is the rim of a face, so that the two meet.
inline constexpr double kLoftFit = 4e-5, kLoftCornerFit = 2e-6, kLoftRimFit = 6e-7;

/// Errors: "loft.uneven" where a face would take more poles than can be worked with, "loft.uncapped" where an
/// end does not lie in a plane.
/// \param skins the outer wall, and, where it is hollow, the inner one
Result<Swept> loftedFaces(const std::vector<Skin>& skins);

} // namespace gc
