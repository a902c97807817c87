#pragma once
/// \file For .cpp files: one area moved along, before anything ends it.

#include "core/model/model.hpp"
#include "core/steps/shared/ended_solid.hpp"

namespace gc {

/// From where to where an area moves, as heights over the drawing's plane, mm, and how its sides run.
struct Movement {
    double from = 0, to = 0; ///< `to` may lie behind `from`
    double level = 0;        ///< where the drawing itself is: between them, where it goes both ways
    Vec3 slant; ///< the way that its sides run, for each mm of height: the normal, where they are straight
    /// How far they lean inward on the way to `to`, and from the level back to `from`, rad.
    std::optional<double> lean;
    double leanBack = 0;
    /// Something may end it on its way: where its sides lean together before its end, that much is made.
    bool mayEndBefore = false;
};

/// Errors: of a lean that cannot be, "lean.height" and "lean.fit".
Result<Swept> movedAlong(const Outline& outline, const Region& area, const Movement& movement);

} // namespace gc
