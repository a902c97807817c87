#pragma once
/// \file Plane curves that strokes are made of, with one parameter from 0 to 1 each.

#include "core/sketch/drawing.hpp"

#include <array>
#include <vector>

namespace gc {

/// A piece of a line, an ellipse (circles included), a conic or a cubic. Lengths in mm.
struct Curve2 {
    enum class Kind { Line, Ellipse, Conic, Cubic };
    Kind kind = Kind::Line;
    /// Line: ends. Ellipse: centre, and the vectors to its two quarter points. Conic: start, apex, end.
    /// Cubic: Bezier poles.
    std::array<Vec2, 4> p{};
    double from = 0, turn = 0; ///< Ellipse: start angle and signed turn, rad
    double weight = 1;         ///< Conic: of the apex, rho / (1 - rho)

    Vec2 at(double t) const;
    Vec2 slope(double t) const; ///< derivative by t
    bool closed() const;
    /// Are both quarter vectors equally long and square? Then it is a piece of a circle.
    bool isCircular() const;
    /// The same set of points from one parameter to another; runs backwards when from > to.
    Curve2 part(double begin, double end) const;
    /// Arc length, to 1e-10 of it.
    double length() const;
    /// Half the integral of x dy - y dx along it: what it adds to an enclosed area.
    double areaShare() const;
    /// A corner pair that holds the curve.
    void bounds(Vec2& low, Vec2& high) const;
    /// Points along it, ends included, so close that chords are within `deviation` of it.
    std::vector<Vec2> sampled(double deviation) const;
    /// The parameter of the nearest point, clamped to the curve.
    double nearest(Vec2 q) const;
};

/// The pieces of a stroke in order; splines have several. A single point has none.
std::vector<Curve2> curvesOf(const Drawing& drawing, const Stroke& stroke);

/// Where two curves meet.
struct Meeting {
    double onFirst = 0, onSecond = 0; ///< parameters
    Vec2 at;
    bool along = false; ///< they run along each other from here: an overlap
};
/// All meetings to within 1e-9 mm where curves cross, 1e-6 mm where they touch. Overlaps of lines and of arcs
/// of one circle are given by their two ends.
std::vector<Meeting> meetings(const Curve2& a, const Curve2& b);

} // namespace gc
