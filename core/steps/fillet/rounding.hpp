#pragma once
/// \file For .cpp files: edges of a body rounded by a rolling ball.

#include "core/steps/shared/edge_work.hpp"

#include <BRepFilletAPI_MakeFillet.hxx>

namespace gc {

/// Adds the chains that these edges (by number, from 0) begin. A radius for one end and one for the other:
/// the end that is lower, else in front, else at the left, has the first, unless it goes backward. \param
/// asks holds the edges of chains before; not to be built Error "fillet.twice" for an edge that is in a chain
/// of an earlier call.
Result<Done> addChains(const Body& body, const std::vector<int>& edges, double first, double second,
                       bool backward, BRepFilletAPI_MakeFillet& asks, std::vector<EdgeChain>& out);

/// All of them in one go, as the kernel does it, and looked at from both sides.
/// Errors: "fillet.too-large", "fillet.smooth".
Result<Body> rounded(const Body& body, const std::vector<EdgeChain>& chains, int step);

/// As many as can be, in whatever order it takes. Rounds of earlier steps that would be used up are built
/// anew along with them.
Result<WorkedEdges> roundEdges(const Body& body, const std::vector<EdgeChain>& chains, int step,
                               const Progress& progress, bool onlyWhole = false);

} // namespace gc
