#pragma once
/// \file What becomes of an outline when each of its sides moves square to itself by the same distance, with
/// its corners kept sharp: where the corners run, which sides vanish on the way, and where it cannot go on.

#include "core/sketch/inset/inset_side.hpp"

#include <optional>

namespace gc {

/// Where a corner begins or ends: on the outline, where a side vanishes, or where all has moved far enough.
struct InsetNode {
    Vec2 at;
    double by = 0; ///< how far the outline has moved there, mm
};

/// The way of a corner between two sides.
struct InsetCorner {
    struct Place {
        double by = 0;                    ///< how far the outline has moved, mm
        double onBefore = 1, onAfter = 0; ///< parameters of the two sides where they meet then
    };
    int before = 0, after = 0; ///< the sides, in the direction of the walk
    int from = 0, to = 0;      ///< nodes; the same where it has no length
    bool straight = false;     ///< it stays at the same parameters, or both sides are lines
    std::vector<Place> path;   ///< a few places on its way, first and last among them
};

struct InsetLoop {
    std::vector<InsetSide> sides;
    std::vector<InsetNode> nodes;
    std::vector<InsetCorner> corners;
    std::vector<std::optional<double>> vanished; ///< of each side: how far all had moved then
    /// The corners at the ends of a side, from the outline inward.
    std::vector<const InsetCorner*> cornersBefore(int side) const;
    std::vector<const InsetCorner*> cornersAfter(int side) const;
    /// The corner's place when the outline has moved so far, from its path and Newton's steps.
    InsetCorner::Place placeOf(const InsetCorner& corner, double by) const;
};

/// Why it cannot go on.
struct InsetStop {
    enum class Why {
        Folds,  ///< a curve is bent more closely than it moves
        Opens,  ///< two sides do not meet any more
        Closes, ///< nothing is left of a loop
        Meets   ///< the outline runs into itself, or a hole into another or into the outside
    };
    Why why = Why::Closes;
    double by = 0; ///< how far it gets, mm, with the sign of the way
    Vec2 at;
    int stroke = 0; ///< whose side it is
};

struct Inset {
    std::vector<InsetLoop> loops;
    double by = 0;
    std::optional<InsetStop> stop; ///< where there is one, the loops are of no use
};

/// Moves all sides to the left. \param loops in the order of the walk: outer ones counter-clockwise, holes
/// clockwise, so that left is inward; they must not cross
/// \param by mm; negative: outward
Inset insetOf(const std::vector<std::vector<InsetSide>>& loops, double by);

} // namespace gc
