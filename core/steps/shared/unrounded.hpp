#pragma once
/// \file For .cpp files: a body without rounds that run on from each other around a whole border.

#include "core/shape/kernel.hpp"

#include <optional>

namespace gc {

/// The walls beside each round are met with one another anew, place by place, and share the edge where they
/// do; edges that ended at the rounds go on to it. Without a boolean, for walls of any form that reach as
/// far.
///
/// Nothing where all walls are of simple forms, which the kernel goes on with; nor where the rounds are not
/// in such rows, the walls do not meet, or the body would not be sound. \param rounds between two walls each,
/// onto which they run smoothly, in closed rows
std::optional<Body> unrounded(const Body& body, const TopTools_IndexedMapOfShape& rounds);

} // namespace gc
