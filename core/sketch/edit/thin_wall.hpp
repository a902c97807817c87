#pragma once
/// \file Walls of even thickness along the strokes of a drawing, open or closed.

#include "core/base/result.hpp"
#include "core/sketch/region.hpp"

#include <map>

namespace gc {

enum class WallSide { Inside, Outside, Both };

struct ThinWall {
    std::vector<Region> regions;
    /// Of strokes that are not the drawing's own: those that run beside one, with its id; where the wall lies
    /// on both sides there are two of each. And what closes an open chain, with 1 at its beginning and 2 at
    /// its end.
    std::map<int, int> beside, caps;
};

/// A line that inside is toward; without one inside is where the chain's hollow side is.
struct WallAxis {
    Vec2 through, along;
};

/// \param drawing as it was settled; helpers take no part
/// \param thickness mm
/// Errors: "wall.none" where there are no strokes, "wall.fold" where the wall would run into itself, with the
/// greatest thickness that works, "wall.tangled" where strokes branch or cross.
Result<ThinWall> thinWallOf(const Drawing& drawing, double thickness, WallSide side,
                            const std::optional<WallAxis>& axis = {});

} // namespace gc
