#pragma once
/// \file For .cpp files: blends that meet in a corner, and end in each other there.

#include "core/steps/shared/edge_work.hpp"

namespace gc {

/// Do all of these bulge, or all of them not, and so does whatever else ends in the corners that they share?
bool meetPlainly(const NamedShape& shape, const std::vector<EdgeChain>& chains);

/// Does any chain end where another does?
bool haveCornersInCommon(const std::vector<EdgeChain>& chains);

/// Each by itself on the body as it is, and what all of them leave of it, or all of them put onto it: in a
/// corner they meet in an edge. \param alone blends one. Errors: its, and those of combine
Result<Body> mitredBlends(const Body& body, const std::vector<EdgeChain>& chains, int step,
                          const std::function<Result<Body>(const EdgeChain&)>& alone);

} // namespace gc
