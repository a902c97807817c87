#pragma once
/// \file For .cpp files: chains of edges that run on smoothly from each other, as the kernel takes them
/// together.

#include "core/steps/shared/edge_work.hpp"

#include <BRepFilletAPI_MakeFillet.hxx>

namespace gc {

/// Adds the chains that these edges (by number, from 0) begin. A radius for one end and one for the other:
/// the end that is lower, else in front, else at the left, has the first, unless it goes backward. \param
/// asks holds the edges of chains before, without their radii. Error "fillet.twice" for an edge that is in a
/// chain of an earlier call.
Result<Done> addChains(const Body& body, const std::vector<int>& edges, double first, double second,
                       bool backward, BRepFilletAPI_MakeFillet& asks, std::vector<EdgeChain>& out);

} // namespace gc
