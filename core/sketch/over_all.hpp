#pragma once
/// \file Lengths from or to circles and arcs "over all": to the place of them that lies farthest out.

#include "core/sketch/drawing.hpp"

namespace gc {

/// whyNot for a dimension that is taken over all.
/// \param asItLies false: look only at what the operands are, not at where they lie
std::string whyNotOverAll(const Drawing& drawing, const Relation& relation, bool asItLies);

/// Sets the sense of one from how the drawing lies.
void freezeOverAll(const Drawing& drawing, Relation& relation);

/// The two places between which it measures. Of a diameter about an axis: from the axis.
LineEnds overAllSpan(const Drawing& drawing, const Relation& relation);

/// What it measures now, mm.
double measuredOverAll(const Drawing& drawing, const Relation& relation);

/// What stands for a thing where a size is taken over all that way: an arc that does not reach out there is
/// stood for by its end that lies farthest out. \param way of length 1
int outermostThing(const Drawing& drawing, int thing, Vec2 way);

/// The same dimension taken over all, or from the centres when it was over all. Nothing where that makes no
/// difference. Its expression stays.
std::optional<Relation> takenOtherwise(const Drawing& drawing, const Relation& relation);

} // namespace gc
