#pragma once
/// \file For .cpp files of this folder: copies along a curve.

#include "core/steps/repeat/placements.hpp"

namespace gc {

/// From the place of the curve that is nearest to the detail on; on a closed one all the way round. Turning
/// with it they turn as little as the curve lets them. Errors: those of findPath; "repeat.span" where so many
/// do not fit, with the largest count.
Result<CopyLayout> alongBy(const Arguments& args, ModelReader& model, const WidthAlong& width,
                           const Vec3& at);

} // namespace gc
