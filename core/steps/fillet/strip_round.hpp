#pragma once
/// \file For .cpp files: a round that takes the place of faces between two walls, by a ball that rolls along
/// them.

#include "core/steps/fillet/ball.hpp"
#include "core/steps/fillet/strip_sides.hpp"
#include "core/steps/shared/strip.hpp"

namespace gc {

/// How far the borders of such a round may lie off the walls, mm.
inline constexpr double kRailOff = 1e-4;

/// Walls by their numbers on both sides.
using WallPair = std::array<std::size_t, 2>;

/// How the ball is found. Its touches are on both sides and, last, the middle of its arc.
class Rolling {
  public:
    virtual ~Rolling() = default;
    /// A ball that may be the one at a place of a side, by the length along it.
    virtual Ball near(std::size_t side, double s) const = 0;
    /// The one at a place of the first side, which runs along d there; beyond its ends it goes straight on.
    virtual std::optional<Ball> at(const WallPair& walls, const gp_Pnt& p, const gp_Vec& d,
                                   const Ball& from) const = 0;
    /// The one that touches a side where an edge goes down from its joint.
    virtual std::optional<Ball> touchingDown(std::size_t side, std::size_t joint) const = 0;
    /// The face that it touches on a side.
    virtual TopoDS_Face touched(std::size_t side, std::size_t wall) const = 0;
    /// Does the first side stay where it is?
    virtual bool keepsFirst() const { return false; }
    /// That a wall is not as high as the ball touches it; that there is no ball.
    virtual Error low(const Ball& ball) const = 0;
    virtual Error unfit(const gp_Pnt& at) const = 0;
    virtual Error noEnd(const gp_Pnt& at) const = 0;
};

/// Errors: those of the rolling.
Result<Strip> roundAlong(const NamedShape& shape, const StripSides& sides, const Rolling& rolling,
                         const std::function<NamePtr(const WallPair&)>& nameOf);

} // namespace gc
