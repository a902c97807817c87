#pragma once
/// \file For .cpp files: the solid of a thread around a round wall.

#include "core/model/model.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/drawn_section.hpp"

namespace gc {

/// A round wall, seen along its axis.
struct RoundWall {
    Axis axis;           ///< upward; its origin is at the lower end of the wall
    double radius = 0;   ///< at the lower end, mm
    double slope = 0;    ///< growth of the radius along the axis
    double height = 0;   ///< mm
    bool outside = true; ///< the material lies within
    double radiusAt(double level) const { return radius + slope * level; }
};

enum class ThreadProfile { Trapezoid, Triangular, Rounded, Drawn };

/// Sizes in mm and rad. The profile lies in the plane through the axis, its depth square to that.
struct Coil {
    RoundWall wall;
    ThreadProfile profile = ThreadProfile::Trapezoid;
    double pitch = 3, turns = 2, level = 0; ///< of its middle where it begins
    double depth = 1.2, base = 2.2, crest = 0.8;
    double runout = 0; ///< rad from either end over which it sinks into the wall
    double angle = 0;  ///< where it begins
    bool left = false, cut = false;
    double clearance = 0; ///< to the thread of its partner, whose wall is as far from this one
    int number = 1;       ///< of several starts
    DrawnSection drawn{}; ///< of a drawn profile, which gives the depth and the base

    /// Half of the width at a depth: the flanks, continued into the wall.
    double halfWidth(double depthThere) const;
    /// How deep the crest is after an angle from its beginning: less where it runs out.
    double depthAt(double turned) const;
    /// How far it goes into the wall, so that nothing is left open between them.
    double sunk() const;
};

/// Nothing where the kernel fails.
std::optional<NamedTool> solidOf(const Coil& coil, int step);

} // namespace gc
