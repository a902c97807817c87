#pragma once
/// \file A stroke as one run of curves with one parameter.
///
/// The parameter u of a stroke runs from 0 to its number of curves: the whole part says which, the rest is
/// that curve's own. On closed strokes it may run on past the end.

#include "core/sketch/curve2.hpp"

namespace gc {

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

} // namespace gc
