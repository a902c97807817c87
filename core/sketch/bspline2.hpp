#pragma once
/// \file A plane B-spline curve with clamped ends.

#include "core/base/vec.hpp"

#include <array>
#include <vector>

namespace gc {

/// A plane B-spline: poles in mm, a clamped knot vector of poles + degree + 1 entries from 0 to 1.
struct BSpline2 {
    static constexpr int kMaxDegree = 5;
    /// Row k holds the k-th derivatives of the degree + 1 basis functions that are not zero.
    using Basis = std::array<std::array<double, kMaxDegree + 1>, 4>;

    int degree = 3;
    std::vector<double> knots;
    std::vector<Vec2> poles;

    int poleCount() const { return static_cast<int>(poles.size()); }
    /// The knot span i with knots[i] <= t < knots[i + 1]; the last one at the end.
    int span(double t) const;
    /// Basis functions and derivatives up to the third at t, for poles span - degree … span.
    /// Algorithm A2.3 of Piegl and Tiller, The NURBS Book, 2nd edition, 1997.
    int basis(double t, Basis& out) const;
    /// The point (k = 0) or k-th derivative (k <= 3) at t in [0, 1].
    Vec2 at(double t, int k = 0) const;
    /// The parameter of the point on the curve nearest to p, and the distance in mm: dense samples, then
    /// Newton from the best.
    double nearest(Vec2 p, double* distance = nullptr) const;
};

} // namespace gc
