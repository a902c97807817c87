#pragma once
/// \file For .cpp files: a ball that touches three faces of a body from within.

#include "core/shape/foot_point.hpp"

#include <array>
#include <functional>
#include <optional>

namespace gc {

struct Ball {
    gp_Pnt centre;
    double radius = 0;                     ///< mm
    std::array<SurfacePlace, 3> touches{}; ///< the places where it does
};

/// One more condition for its centre: zero where it is met, and the direction in which that grows.
struct BallRule {
    double value = 0;
    gp_Vec grows;
};
using RulesBall = std::function<BallRule(const Ball& ball)>;

/// By Newton's method from a ball that is nearly right, its touches too.
std::optional<Ball> ballWithin(const std::array<const FaceSurface*, 3>& sides, const Ball& start,
                               const RulesBall& rule);

} // namespace gc
