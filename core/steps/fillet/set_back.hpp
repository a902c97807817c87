#pragma once
/// \file For .cpp files: corners of rounds that are set back: the rounds end before the corner, and one
/// smooth face runs on from them and from the faces between (docs/kernel.md).

#include "core/steps/shared/edge_work.hpp"

namespace gc {

/// Every corner in which three or more edges meet, all of them rounded. \param before the body with the sharp
/// edges \param rounded what was made of it \param distance mm, along each edge from the corner
/// Errors: "fillet.set-back", with a place.
Result<Body> withSetBackCorners(const Body& before, const std::vector<EdgeChain>& chains, const Body& rounded,
                                double distance, int step);

} // namespace gc
