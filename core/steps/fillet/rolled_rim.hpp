#pragma once
/// \file For .cpp files: rounds along whole rims of a face, made without the kernel's own.

#include "core/steps/shared/edge_work.hpp"

namespace gc {

/// Where walls meet at a rim at an angle that fades (a loft that begins at a circle and ends in corners), the
/// kernel finds no corner. Here a ball is rolled along each edge, and what it sweeps ends where it meets what
/// it sweeps along the next (docs/kernel.md). Nothing where the chains are not whole rims of a face with at
/// least two walls and three edges at each corner, where radii differ, or where it comes to nothing sound.
std::optional<Body> roundedRims(const Body& body, const std::vector<EdgeChain>& chains, int step,
                                const Progress& progress);

/// Does the angle of walls that meet at these edges fade there?
bool fadesAt(const Body& body, const std::vector<EdgeChain>& chains);

} // namespace gc
