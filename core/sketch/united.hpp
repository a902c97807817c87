#pragma once
/// \file Areas side by side as one.

#include "core/sketch/region.hpp"

namespace gc {

/// What two of the areas share is a border no more; areas that share nothing stay as they are. \param areas
/// of one drawing, none overlapping another
std::vector<Region> united(const std::vector<Region>& areas);

} // namespace gc
