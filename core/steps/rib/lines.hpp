#pragma once
/// \file For .cpp files of this folder: the lines along which ribs run, each chain of strokes by itself.

#include "core/model/model.hpp"
#include "core/sketch/edit/offset.hpp"

namespace gc {

/// A chain of strokes with its ends where the rib should end, before walls do.
struct RibLine {
    /// The drawing in which only this chain bounds something, its open ends carried on where they should run
    /// on to walls.
    Drawing drawing;
    StrokeChain chain;
    std::map<int, int> carried; ///< lines that carry a curved stroke on: which one
    std::vector<Vec2> places;   ///< along what was drawn, in the order of the walk
    int firstStroke() const { return chain.strokes.front(); }
};

/// \param on how far open ends are carried on, mm; 0: they stay as drawn. Ends that lie within another stroke
/// stay. \param join how far ends are carried on where several chains end in one place, mm: ends cut off
/// square would leave notches between them. Errors: "rib.lines" where nothing is drawn.
Result<std::vector<RibLine>> ribLines(const Outline& outline, double on, double join);

} // namespace gc
