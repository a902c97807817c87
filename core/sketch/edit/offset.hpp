#pragma once
/// \file The outline at an even distance beside strokes: walls, gaskets, bands.

#include "core/sketch/edit/carry.hpp"
#include "core/sketch/edit/part_of.hpp"

namespace gc {

/// Strokes joined end to end, in the order of the walk.
struct StrokeChain {
    std::vector<int> strokes;
    std::vector<bool> forward; ///< from its start to its end
    bool closed = false;
};
/// The chains that strokes make where exactly two of them meet. Points and helpers of it are left out only
/// where they bound nothing.
std::vector<StrokeChain> chainsOf(const Drawing& drawing, const std::vector<int>& strokes);

enum class CapKind { Open, Flat, Round };

struct OffsetWish {
    double distance = 2;         ///< mm, to the left of the first stroke's direction when positive
    std::string expression;      ///< of the distance; empty: no dimensions are made
    bool bothSides = false;      ///< at the distance on either side of it
    bool roundCorners = false;   ///< an arc about each outer corner; else the strokes run on until they meet
    CapKind cap = CapKind::Open; ///< what closes the ends of an open chain
};

/// Offsets of lines and arcs are lines and arcs that stay parallel and concentric at that distance: the first
/// carries it as a dimension and the others follow. Those of other curves follow their curve at it (see
/// beside.hpp), whatever becomes of that.
///
/// A stroke that the offset swallows is left out. When the offset would run into itself or nothing is left,
/// the sentence says the largest distance that works, found by trying.
EditOutcome offsetStrokes(Drawing& drawing, const std::vector<int>& strokes, const OffsetWish& wish);

} // namespace gc
