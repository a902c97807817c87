#pragma once
/// \file Arcs from what a person clicks.

#include "core/sketch/drawing.hpp"

namespace gc {

/// An arc from one place to another through a third, as a new stroke. 0 when they lie on one line.
int drawArcThrough(Drawing& drawing, Vec2 from, Vec2 through, Vec2 to);

/// An arc that goes on from the end of a line, an arc or a curve in its direction and ends at a place. Not
/// yet joined or made tangent. 0 when the place lies straight ahead or behind.
int drawTangentArc(Drawing& drawing, int stroke, int endPoint, Vec2 to);

/// A slot about the line from a to b: two sides and two round ends, joined, tangent and equal. \return the
/// ids of the points at its two centres; empty when it has no length or no width.
std::vector<int> drawSlot(Drawing& drawing, Vec2 a, Vec2 b, double radius);

/// A spline through nodes with even curvature. 0 for fewer than two nodes.
int drawSpline(Drawing& drawing, const std::vector<Vec2>& nodes);

} // namespace gc
