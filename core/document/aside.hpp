#pragma once
/// \file Bodies that stand beside the product: only to compare with, like the scan of a made part.

#include "core/document/part.hpp"

namespace gc {

/// The slot that says so, and what it says then.
inline constexpr const char* kCountsSlot = "counts";
inline constexpr const char* kAside = "only to compare with";

/// Is the body no part of the product? Then it counts in no target about all bodies, and is not written
/// unless it is asked for.
bool isAside(const Part& part, ThingId body);

} // namespace gc
