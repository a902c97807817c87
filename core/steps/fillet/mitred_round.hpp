#pragma once
/// \file For .cpp files: full rounds that go round corners of the walls beside them, in a mitre at each.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

#include <optional>

namespace gc {

/// A flat face between straight or round walls, as wide before every corner as after it, gives way to a round
/// that touches it and both walls. Nothing where it is another. \param face number from 0
/// Error "fullround.low".
std::optional<Result<Body>> roundedMitred(const Body& body, int face, int step);

} // namespace gc
