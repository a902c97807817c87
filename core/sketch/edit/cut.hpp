#pragma once
/// \file Taking strokes apart and putting them together: trim, extend, split, join.
///
/// What stays keeps its shape, its name and the relations that still hold; a part cut off another stays in
/// line, concentric or smooth with it. New ends lie on what cut them.

#include "core/sketch/edit/carry.hpp"
#include "core/sketch/edit/part_of.hpp"

namespace gc {

/// What a click with Trim would take away: from one parameter of the stroke to another.
struct TrimPiece {
    double from = 0, to = 0;
    int cutterFrom = 0, cutterTo = 0; ///< ids of what ends it there; 0: its own end
    bool whole = false;               ///< nothing meets the stroke: all of it goes
};
/// Between the nearest meetings with other strokes, the axis and the level line. Nothing for points.
std::optional<TrimPiece> trimPiece(const Drawing& drawing, int stroke, Vec2 place);
EditOutcome trim(Drawing& drawing, int stroke, Vec2 place);

/// Where the end of a line or an arc nearer to a place would go: as far as the next stroke.
struct Extension {
    int end = 0;   ///< the point that moves
    int until = 0; ///< what it meets
    Vec2 to;
    Curve2 added;
};
/// Nothing for other strokes and where nothing is met; `whyNot` says which.
std::optional<Extension> extension(const Drawing& drawing, int stroke, Vec2 place, std::string& whyNot);
EditOutcome extend(Drawing& drawing, int stroke, Vec2 place);

/// Two strokes instead of one, joined at the point nearest to a place. Closed ones are opened there.
EditOutcome split(Drawing& drawing, int stroke, Vec2 place);

/// Two lines on one line or two arcs of one circle that touch or overlap become one stroke; other strokes are
/// joined where their free ends are nearest to each other, which may move them.
EditOutcome join(Drawing& drawing, const std::vector<int>& strokes);

} // namespace gc
