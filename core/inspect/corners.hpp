#pragma once
/// \file For .cpp files: corners and tips that stand out of a body.

#include "core/inspect/seams.hpp"

namespace gc {

/// The sharpest of them: where three or more edges meet, or where a face closes in a point.
std::optional<SharpPoint> sharpestPoint(const Body& body, const Stop& stop);

} // namespace gc
