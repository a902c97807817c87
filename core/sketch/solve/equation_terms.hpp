#pragma once
/// \file What the equations of all sorts are written with: each gives its value and, when asked, its
/// gradient.

#include "core/sketch/solve/equation.hpp"

#include <algorithm>
#include <cmath>

namespace gc::terms {

inline constexpr double kTiny = 1e-12;

inline Vec2 at(const double* x, int i) {
    return {x[i], x[i + 1]};
}

inline void put(double* g, int i, Vec2 v) {
    g[i] = v.x;
    g[i + 1] = v.y;
}

inline double safeLength(Vec2 v) {
    return std::max(length(v), kTiny);
}

/// |q - p| with its gradient by q; that by p is the opposite.
inline double distance(Vec2 p, Vec2 q, Vec2& byQ) {
    const Vec2 d = q - p;
    const double l = safeLength(d);
    byQ = d * (1 / l);
    return l;
}

/// The height of p over the line a b with gradients.
inline double height(Vec2 p, Vec2 a, Vec2 b, Vec2& byP, Vec2& byA, Vec2& byB) {
    const Vec2 u = b - a;
    const double l = safeLength(u);
    const Vec2 n{-u.y / l, u.x / l};
    const double h = dot(n, p - a);
    const double along = dot(u, p - a) / (l * l);
    byP = n;
    byB = n * -along;
    byA = n * (along - 1);
    return h;
}

/// The turn from v to w in (-pi, pi], with gradients: turning a vector by its own normal over its length.
inline double turn(Vec2 v, Vec2 w, Vec2& byV, Vec2& byW) {
    const double vv = std::max(dot(v, v), kTiny * kTiny), ww = std::max(dot(w, w), kTiny * kTiny);
    byV = Vec2{v.y, -v.x} * (1 / vv);
    byW = Vec2{-w.y, w.x} * (1 / ww);
    return std::atan2(cross(v, w), dot(v, w));
}

using Function = double(const Equation& e, const double* constants, const double* x, double* g);
// Of conics, differentiated by the library.
Function onEllipse, onConic, tangentLineEllipse, ellipseEnd, ellipseEnds, sameCurvature;
// Of what follows another stroke.
Function beside, atEllipse, atConic, atRow, slopeOfEllipse, slopeOfConic, slopeOfRow;
// Of splines, through their points or led by poles.
using CurveFunction = double(const Equation& e, const double* constants, const double* x, double* g,
                             bool poles);
CurveFunction onSpline, splineLine, splineAlongLine, splineCircle, splineAcrossCircle, slopeOfSpline;

} // namespace gc::terms
