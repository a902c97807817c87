#pragma once
/// \file Arcs from what a person clicks.

#include "core/sketch/drawing.hpp"

namespace gc {

/// An arc from one place to another through a third, as a new stroke. 0 when they lie on one line.
int drawArcThrough(Drawing& drawing, Vec2 from, Vec2 through, Vec2 to);

/// An arc that goes on from the end of a line, an arc or a curve in its direction and ends at a place. Not
/// yet joined or made tangent. 0 when the place lies straight ahead or behind.
int drawTangentArc(Drawing& drawing, int stroke, int endPoint, Vec2 to);

} // namespace gc
