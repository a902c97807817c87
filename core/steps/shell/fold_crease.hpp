#pragma once
/// \file For .cpp files: the crease in which a face meets itself that is moved by more than it is bent.

#include "core/steps/shell/folds.hpp"

namespace gc {

/// A wall that folds over when it is moved, and the same moved by somewhat more: the least radius that stays
/// of its rounds. The crease of the second is where the middle of a ball of that radius runs when it is
/// rolled along inside the first.
struct FoldSheets {
    Sheet wall, deep;
    double radius() const { return std::fabs(deep.by - wall.by); } ///< mm, of the ball
};
/// \param sheet how a face is moved \param radius of the ball, as a share of how far
inline FoldSheets foldSheets(const Sheet& sheet, double radius) {
    return {sheet, {sheet.surface, sheet.by * (1 + radius)}};
}

/// A place of the crease: two places of the face are moved to it.
struct CreasePlace {
    gp_Pnt2d uv[2];
    gp_Pnt at;
    double excess = 0; ///< the most of what lies between the two, of the wall (FoldBend)
};

/// From one of its ends to the other. What lies between its two lines on the face gives way to a round.
struct FoldCrease {
    std::vector<CreasePlace> places;
    /// Does it end within the surface, where nothing folds over any more? Else where the surface ends.
    bool within[2] = {false, false};
};

/// The crease of what is folded over at a place. Nothing where the two sides do not meet again.
std::optional<FoldCrease> creaseFrom(const FoldSheets& sheets, const gp_Pnt2d& folded);

/// The place of a crease near two places of the surface, which it does not leave along it.
/// \param ways how the two go on along the crease, about \return without its excess
std::optional<CreasePlace> creaseNear(const FoldSheets& sheets, const gp_Pnt2d uv[2], const gp_Vec2d ways[2]);

} // namespace gc
