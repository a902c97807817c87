#pragma once
/// \file For .cpp files: edges of a body rounded by a rolling ball.

#include "core/steps/shared/edge_chains.hpp"

namespace gc {

/// As many as can be, in whatever order it takes. Rounds of earlier steps that would be used up are built
/// anew along with them.
Result<WorkedEdges> roundEdges(const Body& body, const std::vector<EdgeChain>& chains, int step,
                               const Progress& progress, bool onlyWhole = false);

} // namespace gc
