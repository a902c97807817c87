#pragma once
/// \file For .cpp files: rounds along walls whose bend jumps.

#include "core/steps/shared/edge_chains.hpp"

namespace gc {

/// Does the bend of an edge itself jump? There the kernel fails as a rule, and takes up to 12 s for it.
bool bendJumpsAlong(const std::vector<EdgeChain>& chains);

/// The kernel often fails to roll a ball along one wall that runs on smoothly but whose bend jumps on the way
/// (the wall of a loft over lines and arcs), and does it where that wall is parted at the jumps. Nothing
/// where no wall is like that, or it fails all the same. The walls stay parted: all pieces are called as the
/// wall was.
std::optional<Body> roundedParted(const Body& body, const std::vector<EdgeChain>& chains, int step);

} // namespace gc
