#pragma once
/// \file A stroke as one run of curves with one parameter, and pieces cut out of it.
///
/// The parameter u of a stroke runs from 0 to its number of curves: the whole part says which, the rest is
/// that curve's own. On closed strokes it may run on past the end.

#include "core/sketch/curve2.hpp"

#include <optional>

namespace gc {

/// A stroke without ids: what draw() makes one from.
struct StrokeShape {
    StrokeKind kind = StrokeKind::Line;
    std::vector<Vec2> at;
    std::vector<double> sizes;
    std::vector<bool> held;
};

class StrokeRun {
  public:
    StrokeRun(const Drawing& drawing, const Stroke& stroke);

    bool empty() const { return m_curves.empty(); }
    double end() const { return static_cast<double>(m_curves.size()); }
    bool closed() const { return m_closed; }
    Vec2 at(double u) const;
    Vec2 slope(double u) const; ///< by u
    double nearest(Vec2 p) const;
    double length() const;
    /// Where it is a given length along from its start; the start and the end beyond it. mm
    double atLength(double along) const;
    const std::vector<Curve2>& curves() const { return m_curves; }

  private:
    std::pair<std::size_t, double> split(double u) const;
    std::vector<Curve2> m_curves;
    bool m_closed = false;
};

/// The stroke as it is.
StrokeShape shapeOf(const Drawing& drawing, const Stroke& stroke);

/// The same set of points from u to v, u < v: circles become arcs, splines of poles splines through nodes.
/// Nothing changes its shape: ends that are cut into a spline get a held handle.
StrokeShape partOf(const Drawing& drawing, const Stroke& stroke, double u, double v);

/// Adds a stroke of that shape with points of its own. \return its id
int drawShape(Drawing& drawing, const StrokeShape& shape);

/// Gives a stroke another shape. Ends that stay where they are keep their point; the others get new ones.
void reshape(Drawing& drawing, int stroke, const StrokeShape& shape);

} // namespace gc
