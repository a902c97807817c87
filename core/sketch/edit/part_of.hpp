#pragma once
/// \file Pieces cut out of a stroke, and strokes as plain shapes.

#include "core/sketch/stroke_run.hpp"

#include <optional>

namespace gc {

/// A stroke without ids: what draw() makes one from.
struct StrokeShape {
    StrokeKind kind = StrokeKind::Line;
    std::vector<Vec2> at;
    std::vector<double> sizes{};
    std::vector<bool> held{};
    int beside = 0; ///< of a follower
    bool right = false;
};

/// The stroke as it is.
StrokeShape shapeOf(const Drawing& drawing, const Stroke& stroke);

/// The same set of points from u to v, u < v: circles become arcs, splines of poles splines through nodes.
/// Nothing changes its shape: ends that are cut into a spline get a held handle.
StrokeShape partOf(const Drawing& drawing, const Stroke& stroke, double u, double v);

/// Adds a stroke of that shape with points of its own. \return its id
int drawShape(Drawing& drawing, const StrokeShape& shape);

/// Where a part of a spline or a conic is to be taken, the whole of it stays as a helper, with its points and
/// all that is said of it, and the stroke follows it from end to end: then its ends can move along it and
/// nothing comes loose. Does nothing for other strokes.
void followOwnGuide(Drawing& drawing, int stroke);

/// Gives a stroke another shape. Ends that stay where they are keep their point; the others get new ones.
void reshape(Drawing& drawing, int stroke, const StrokeShape& shape);

} // namespace gc
