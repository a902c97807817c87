#pragma once
/// \file For .cpp files: a face between two walls that gives way to a round which touches it and both of
/// them.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

namespace gc {

/// A lip that runs all the way round, or the top of a rib, which may end aslant or at a bent face. The radius
/// is what fits between the walls, from place to place. Round corners of flat and round walls it goes in a
/// mitre. \param face its number, from 0 Errors: "fullround.shape" for a face that has not two sides along
/// it; "fullround.corner" where the walls beside it meet in corners that no mitre fits; "fullround.ends" for
/// ends of several faces, or which it does not reach; "fullround.low" where the walls are lower than the
/// round.
Result<Body> roundedOver(const Body& body, int face, int step);

/// That a wall is not as high as the ball touches it.
Error fullRoundLow(double radius, const gp_Pnt& at);

} // namespace gc
