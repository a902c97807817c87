#pragma once
/// \file The sense of a drawing: signs that a solve must leave as they are.

#include "core/sketch/solve/system.hpp"

namespace gc {

/// Watches radii, the direction of parallels, the side of squares and of tangents at shared ends, the turn of
/// arcs, the orientation of closed rings, and whether those cross themselves.
class Sense {
  public:
    /// Coordinates are those of System::start throughout: one for every coordinate of the drawing, as it
    /// lies.
    using Coordinates = std::vector<double>;

    Sense() = default;
    /// Takes down the signs as drawn. What lies on the edge between two senses has none yet.
    Sense(const Drawing& drawing, const System& system);

    bool holds(const Coordinates& now) const;
    /// Does a ring, its arcs as chords over three points of each, cross itself? Rings that did when drawn,
    /// and very large ones, are not looked at.
    bool ringsCross(const Coordinates& now) const;
    /// Takes down the signs anew.
    void note(const Coordinates& now);
    /// An arc may turn far in a drag, only not at once: what counts is from move to move.
    void noteTurns(const Coordinates& now);

    /// What would keep the sense: an equation for each thing that vanishes on the way to `after` (a radius,
    /// the length of a line or of an arc), which holds it at three tenths of what it was.
    struct Guard {
        EquationKind kind = EquationKind::Distance;
        std::vector<int> coordinates;
        double value = 0;
    };
    std::vector<Guard> guards(const Coordinates& before, const Coordinates& after) const;

  private:
    struct Sign {
        enum Kind { Size, Cross, Dot, ArcTurn, Ring } kind = Cross;
        std::vector<int> at; ///< x coordinates of points, or coordinates of sizes
        double was = 0;
    };
    /// A closed ring of strokes; side i runs from joint i to the next.
    struct Side {
        int joint = 0;                       ///< x coordinate of the point
        int start = 0, end = 0, centre = -1; ///< of the stroke; a centre makes it an arc
        bool forward = true;                 ///< the stroke starts at the joint
    };
    using Ring = std::vector<Side>;

    static double value(const Sign& sign, const Coordinates& now);
    static bool holds(const Sign& sign, const Coordinates& now);
    static std::vector<Vec2> polygon(const Ring& ring, const Coordinates& now);
    static std::vector<Ring> ringsOf(const Drawing& drawing, const System& system);

    std::vector<Sign> m_signs;
    std::vector<Ring> m_rings;
};

} // namespace gc
