#pragma once
/// \file A side of an outline that can be moved square to itself, as an offset or as a leaning wall does.

#include "core/sketch/curve2.hpp"

namespace gc {

/// A line, an arc of a circle, or any smooth row of curves, with one parameter from 0 to 1. Before 0 and
/// beyond 1 its end pieces go on as what they are. Lengths in mm, angles in rad.
class InsetSide {
  public:
    enum class Kind { Line, Arc, Free };

    /// \param curves in order, joined end to end without corners
    /// \param stroke the id of the stroke that they are of
    explicit InsetSide(std::vector<Curve2> curves, int stroke = 0);

    Kind kind() const { return m_kind; }
    int stroke() const { return m_stroke; }
    const std::vector<Curve2>& curves() const { return m_curves; }

    struct Local {
        Vec2 at, slope;       ///< a point, and its derivative by the parameter
        double curvature = 0; ///< 1/mm, positive where it bends to the left
        Vec2 left() const { return leftOf(unit(slope)); }
    };
    Local local(double t) const;
    Vec2 at(double t) const { return local(t).at; }
    Vec2 heading(double t) const { return unit(local(t).slope); }
    /// The point that lies so far to the left of the one at t. \param slope its derivative by t, if wanted
    Vec2 moved(double t, double by, Vec2* slope = nullptr) const;

    /// The parameters at which one piece ends and the next begins, 0 and 1 among them.
    const std::vector<double>& breaks() const { return m_breaks; }
    /// Is its curvature even across an inner break?
    bool isEvenAt(std::size_t inner) const;
    /// The closed row of itself: a full circle, a closed spline.
    bool closed() const;

    // Of an arc.
    Vec2 centre() const { return m_curves.front().p[0]; }
    double radius() const { return gc::length(m_curves.front().p[1]); }
    double angleAt(double t) const; ///< from the direction of x, counter-clockwise
    double turn() const;            ///< counter-clockwise positive

  private:
    std::vector<Curve2> m_curves;
    std::vector<double> m_breaks;
    Kind m_kind = Kind::Free;
    int m_stroke = 0;

    std::size_t pieceAt(double t) const;
};

} // namespace gc
