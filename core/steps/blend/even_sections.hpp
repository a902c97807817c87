#pragma once
/// \file For .cpp files: faces across an edge that run on from both sides with the same curvature.

#include "core/steps/shared/strip.hpp"

#include <BRepFilletAPI_MakeFillet.hxx>

namespace gc {

/// A strip in place of each chain of rounds. \param jump the greatest jump in curvature across its borders,
/// as measured on what was made, 1/mm Errors: "blend.corner" where rounds run into each other, "blend.end"
/// for an end that is not flat, "blend.shape" where a round is not between two faces all along.
Result<std::vector<Strip>> evenStrips(BRepFilletAPI_MakeFillet& rounds, const NamedShape& before,
                                      const NamedShape& rounded, double tension, double& jump);

} // namespace gc
