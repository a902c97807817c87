#pragma once
/// \file For .cpp files: edges of a body rounded by a rolling ball.

#include "core/steps/shared/edge_chains.hpp"

namespace gc {

/// As many as can be, in whatever order it takes. Rounds of earlier steps that would be used up are built
/// anew along with them.
/// \param added what holds these chains of the body already, and no others; it may be built
Result<WorkedEdges> roundEdges(const Body& body, const std::vector<EdgeChain>& chains, int step,
                               const Progress& progress, bool onlyWhole = false,
                               BRepFilletAPI_MakeFillet* added = nullptr);

} // namespace gc
