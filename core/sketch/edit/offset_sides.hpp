#pragma once
/// \file For .cpp files of this folder: the sides of an offset, before they are drawn.

#include "core/sketch/edit/offset.hpp"

namespace gc {

/// A side of the offset, in the direction of the walk.
struct Beside {
    int of = 0; ///< the stroke that it runs beside; 0: an arc about a corner, or what runs on to one
    StrokeKind kind = StrokeKind::Line;
    Vec2 from, to;
    Vec2 centre;
    double radius = 0; ///< Arc
    bool left = true;  ///< Arc: it turns to the left
    // Beside another curve:
    int source = 0;
    double by = 0;       ///< mm, to the left of the source's direction
    bool forward = true; ///< the walk goes in the source's direction
    bool closed = false;
    bool held[2] = {false, false}; ///< at the walk's beginning and end: where the source ends
    Vec2 ahead[2];                 ///< directions of the walk there

    Vec2 direction(bool atEnd) const;
};

/// The sides of a chain, in the order of its walk.
struct Sides {
    std::vector<Beside> list;
    bool closed = false;
};

/// \param drawing one that has the side's source
int drawSide(Drawing& drawing, const Beside& side);

/// All sides of a chain at a distance, with corners. Sides that vanish are left out, over and over; nothing
/// when none is left.
std::optional<Sides> sidesOf(const Drawing& drawing, const StrokeChain& chain, double distance,
                             bool roundCorners);

/// Do the sides keep their distance from all of the chain? Those that run into themselves do not.
bool offsetWorks(const Drawing& drawing, const StrokeChain& chain, double distance,
                 bool roundCorners = false);

} // namespace gc
