#pragma once
/// \file For .cpp files: rounds that are taken off a body, or put onto it, by a tool of their own. What
/// stands beside the edge, what its faces are cut by and what it ends at goes on into the round as it is.

#include "core/steps/shared/edge_work.hpp"

namespace gc {

/// A chain of straight and circular edges between flat and round faces. Nothing where it is of another kind,
/// where the ball touches the faces over less than half of the way, or where it meets others in a corner that
/// needs a face of its own.
/// \param first the body that the chain's edges are of \param now what others made of it \param all the
/// chains that are rounded, this one among them
std::optional<Body> roundedByTool(const Body& first, const Body& now, const EdgeChain& chain,
                                  const std::vector<EdgeChain>& all, int step);

} // namespace gc
