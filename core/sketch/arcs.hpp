#pragma once
/// \file Strokes, and groups of them with what ties them, from what a person clicks.

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

/// A circle through three places. 0 when they lie on one line.
int drawCircleThrough(Drawing& drawing, Vec2 a, Vec2 b, Vec2 c);

/// An arc about a centre from a place to the direction of another, the short way round. 0 when it has no
/// size.
int drawArcAbout(Drawing& drawing, Vec2 centre, Vec2 from, Vec2 toward);

/// Four lines, joined, level and upright. \return their ids from the lower or upper side on; empty when flat
std::vector<int> drawRectangle(Drawing& drawing, Vec2 corner, Vec2 opposite);

/// The same about a centre, which stays in its middle: a point, held there by a helper diagonal. The point's
/// stroke is the last id.
std::vector<int> drawCentredRectangle(Drawing& drawing, Vec2 centre, Vec2 corner);

/// A regular polygon: equal lines with their corners on a helper circle. \return the lines, then the circle;
/// empty for fewer than three sides or no size
std::vector<int> drawPolygon(Drawing& drawing, Vec2 centre, Vec2 corner, int sides);

/// A spline of poles. 0 for fewer than four.
int drawPoles(Drawing& drawing, const std::vector<Vec2>& poles);

/// A spline through nodes with even curvature. 0 for fewer than two nodes.
int drawSpline(Drawing& drawing, const std::vector<Vec2>& nodes);

} // namespace gc
