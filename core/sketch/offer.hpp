#pragma once
/// \file What a click would mean while drawing: where the point goes, and which relations are offered with
/// it.

#include "core/sketch/drawing.hpp"

#include <optional>
#include <string>

namespace gc {

/// Stand for what the click makes, in the operands of offered relations.
inline constexpr int kNewPoint = -100;
inline constexpr int kNewLine = -101;

struct Offer {
    Vec2 at;                         ///< where the point goes
    std::vector<Relation> relations; ///< made by the click, with kNewPoint and kNewLine as operands
    std::string words; ///< "level, on the axis": beside the pointer; empty when nothing is offered
};

struct OfferQuestion {
    Vec2 pointer;
    double reach = 1;           ///< mm: how near counts as on
    std::optional<Vec2> from;   ///< where the line being drawn starts
    int lastLine = 0;           ///< the line that it goes on from, for square and parallel
    std::vector<int> notPoints; ///< points that are no place to land: the one just drawn
    bool free = false;          ///< held off: land where the pointer is
};

/// Points come before strokes, strokes before directions; a direction and a stroke go together where they
/// meet.
Offer offerFor(const Drawing& drawing, const OfferQuestion& question);

/// What lies at a place: a point before a stroke; 0 for nothing. The axis and the level line count.
int thingAt(const Drawing& drawing, Vec2 place, double reach);

/// The nearest stroke within reach, whatever points lie there; 0 for none. The drawing's own lines are left
/// out.
int strokeAt(const Drawing& drawing, Vec2 place, double reach);

/// The strokes that lie wholly within a closed loop of places: what a box or a lasso chooses.
std::vector<int> strokesWithin(const Drawing& drawing, const std::vector<Vec2>& loop);

} // namespace gc
