#pragma once
/// \file Rounding and chamfering the corners of an outline.

#include "core/sketch/edit/carry.hpp"

#include <optional>

namespace gc {

/// A place where exactly two strokes end.
struct Corner {
    int first = 0, second = 0;       ///< strokes
    int firstEnd = 0, secondEnd = 0; ///< their points there
    Vec2 at;
};

/// The corner at a point, or within `reach` mm of a place. Nothing where fewer or more than two strokes end.
std::optional<Corner> cornerAt(const Drawing& drawing, Vec2 place, double reach);

/// Puts an arc of that radius, tangent to both strokes, in place of a corner. Sizes that were measured to the
/// corner go on being measured to it: it stays as a helper point where the strokes would meet.
/// \param expression of the arc's radius; empty: no dimension is made
/// When it does not fit, the sentence says the largest radius that does, found by trying.
EditOutcome roundCorner(Drawing& drawing, const Corner& corner, double radius, const std::string& expression);

/// Cuts a corner off straight, so far from it along each stroke (mm).
EditOutcome chamferCorner(Drawing& drawing, const Corner& corner, double alongFirst, double alongSecond,
                          const std::string& expressionFirst, const std::string& expressionSecond);

/// A level rectangle with four equal round corners; radii too large for it are made to fit. \return its
/// strokes; empty when it is flat
std::vector<int> drawRoundedRectangle(Drawing& drawing, Vec2 corner, Vec2 opposite, double radius);

} // namespace gc
