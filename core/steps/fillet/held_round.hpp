#pragma once
/// \file For .cpp files: edges rounded by a ball that touches the face beside them along a line of it.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

#include <vector>

namespace gc {

/// The faces between the edges and the line give way to a round that begins at the line, tangent to them, and
/// rolls onto the faces across the edges. Its radius is what that takes, from place to place.
/// \param edges, line their numbers, from 0; of several that run on smoothly from each other one will do
/// Errors: "held.apart" where no face lies between them; "held.strip" where it has not two sides along it and
/// at most two ends; "held.shape" where no ball rolls so; "held.wide" where the faces across are not as wide
/// as that; "held.ends" where an end is not reached.
Result<Body> roundedHeldAt(const Body& body, const std::vector<int>& edges, const std::vector<int>& line,
                           int step);

} // namespace gc
