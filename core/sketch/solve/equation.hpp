#pragma once
/// \file The equations that relations are made of: each one number, in mm, that is zero where the relation
/// holds. Signed forms, so that a solve keeps to the side that was meant.

#include "core/base/vec.hpp"

#include <cstdint>
#include <vector>

namespace gc {

/// Unknowns of an equation, in order; p, a, b, c, … are points (x then y), r a radius, t a parameter.
enum class EquationKind : std::uint8_t {
    Fix,                ///< u: u - value
    Differ,             ///< u v: u - v - value
    Linear,             ///< any number: sum of coefficient times unknown, less value
    Distance,           ///< p q: |q - p| - value
    PointLine,          ///< p a b: sense times the height of p over the line a b, less value
    Parallel,           ///< a b c d: scale times the sine of the angle between a b and c d
    Perpendicular,      ///< a b c d: scale times the cosine
    AngleBetween,       ///< a b c d: scale times (turn from a b to c d less value), wrapped to half a turn
    LengthRatio,        ///< a b c d: |b - a| - value |d - c|
    SymmetricMiddle,    ///< p q a b: height of the middle of p q over a b
    SymmetricAcross,    ///< p q a b: p q along a b
    OnCircle,           ///< p c r: |p - c| - r
    TangentLineCircle,  ///< a b c r: sense times the height of c over a b, less r
    TangentCircles,     ///< c r d s: |d - c| - |r + sense s|
    OnEllipse,          ///< p c m b: first-order distance F / |grad F|
    ArcLength,          ///< s e c r: r times the turn from s to e, less value
    OnConic,            ///< p s e apex w: first-order distance
    TangentLineEllipse, ///< a b c m n: sense times height of c over a b, less the ellipse's reach that way
    OnSpline,           ///< p t, then nodes and handles: the x (sense 1) or y (sense -1) of curve less p
    OnPoles,            ///< p t, then poles
    SplineLine,         ///< a b t, then nodes and handles: height over a b
    SplineAlongLine,    ///< a b t, then nodes and handles: scale times sine between the tangent and a b
    SplineCircle,       ///< c r t, then nodes and handles: |C - c| - r
    SplineAcrossCircle, ///< c r t, then nodes and handles: scale times cosine between tangent and radius
    PolesLine,
    PolesAlongLine,
    PolesCircle,
    PolesAcrossCircle,
    EllipseEnd,  ///< p c m b, a d: scale times the cosine (sense 1) or the sine (-1) of the ellipse's normal
                 ///< at p to a d
    EllipseEnds, ///< p c m b, q d n e: scale times the sine between the normals of two ellipses
    SameCurvature, ///< two ends, see CurvatureEnd: scale squared times the difference of signed curvatures
    // Of what follows another stroke; sense 1: the x, -1: the y.
    Beside,         ///< p f w d: p less f less d times scale times the unit normal, left of f w
    AtEllipse,      ///< p t, c m b: the ellipse at the angle t less p
    AtConic,        ///< p t, s e apex rho: the conic at t less p
    AtRow,          ///< p t: a row of cubics that are constants, eight a piece, less p
    SlopeOfSpline,  ///< f w t, then nodes and handles: the derivative less f w
    SlopeOfPoles,   ///< f w t, then poles
    SlopeOfEllipse, ///< f w t, c m b
    SlopeOfConic,   ///< f w t, s e apex rho
    SlopeOfRow,     ///< f w t
};

/// What an end gives to SameCurvature: how many unknowns, and by which formula. Equation::endFactors has one
/// constant for each.
enum class CurvatureEnd : std::uint8_t {
    Straight, ///< none
    Round,    ///< r; factor: the side that it curves to
    Spline,   ///< N, H of the end node, N, H of the next; factor: k at a start, -k at an end, see splinePiece
    Poles,    ///< three poles from the end; factor: 2/3 for a single piece, else 1/3
    Conic,    ///< end, apex, other end, rho
};

struct Equation {
    EquationKind kind = EquationKind::Fix;
    CurvatureEnd ends[2] = {CurvatureEnd::Straight, CurvatureEnd::Straight};
    int first = 0;  ///< where its unknowns start in System::operands
    int count = 0;  ///< how many
    int extra = 0;  ///< where its constants start in System::constants (Linear, splines)
    int extras = 0; ///< how many
    double value = 0, sense = 1, scale = 1;
    double endFactors[2] = {1, 1};
    int relation = 0; ///< id of the relation; of the stroke, negated, for what a stroke is by itself
};

/// The residual at unknowns x (count of them). With g, also the derivative by each.
/// \param constants the equation's own (Equation::extra on)
double evaluate(const Equation& equation, const double* constants, const double* x, double* g);

} // namespace gc
