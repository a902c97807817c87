#include "core/sketch/solve/equation_terms.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

using namespace terms;

namespace {

double wrapped(double a) {
    return std::remainder(a, 2 * std::numbers::pi);
}

double fix(const Equation& e, const double*, const double* x, double* g) {
    if (g) g[0] = 1;
    return x[0] - e.value;
}

double differ(const Equation& e, const double*, const double* x, double* g) {
    if (g) g[0] = 1, g[1] = -1;
    return x[0] - x[1] - e.value;
}

double linear(const Equation& e, const double* k, const double* x, double* g) {
    double sum = -e.value;
    for (int i = 0; i < e.count; ++i) sum += k[i] * x[i];
    if (g) std::copy(k, k + e.count, g);
    return sum;
}

double distanceOf(const Equation& e, const double*, const double* x, double* g) {
    Vec2 by;
    const double d = distance(at(x, 0), at(x, 2), by);
    if (g) put(g, 0, by * -1), put(g, 2, by);
    return d - e.value;
}

double pointLine(const Equation& e, const double*, const double* x, double* g) {
    Vec2 p, a, b;
    const double h = height(at(x, 0), at(x, 2), at(x, 4), p, a, b);
    if (g) put(g, 0, p * e.sense), put(g, 2, a * e.sense), put(g, 4, b * e.sense);
    return e.sense * h - e.value;
}

/// Parallel, perpendicular and angle are functions of one turn.
double turned(const Equation& e, const double*, const double* x, double* g) {
    Vec2 byV, byW;
    const double a = turn(at(x, 2) - at(x, 0), at(x, 6) - at(x, 4), byV, byW);
    double r = 0, slope = 1;
    if (e.kind == EquationKind::Parallel)
        r = std::sin(a), slope = std::cos(a);
    else if (e.kind == EquationKind::Perpendicular)
        r = std::cos(a), slope = -std::sin(a);
    else
        r = wrapped(a - e.value);
    const double k = e.scale * slope;
    if (g) put(g, 0, byV * -k), put(g, 2, byV * k), put(g, 4, byW * -k), put(g, 6, byW * k);
    return e.scale * r;
}

double lengthRatio(const Equation& e, const double*, const double* x, double* g) {
    Vec2 u, v;
    const double r = distance(at(x, 0), at(x, 2), u) - e.value * distance(at(x, 4), at(x, 6), v);
    if (g) put(g, 0, u * -1), put(g, 2, u), put(g, 4, v * e.value), put(g, 6, v * -e.value);
    return r;
}

double symmetricMiddle(const Equation&, const double*, const double* x, double* g) {
    Vec2 m, a, b;
    const double h = height((at(x, 0) + at(x, 2)) * 0.5, at(x, 4), at(x, 6), m, a, b);
    if (g) put(g, 0, m * 0.5), put(g, 2, m * 0.5), put(g, 4, a), put(g, 6, b);
    return h;
}

double symmetricAcross(const Equation&, const double*, const double* x, double* g) {
    const Vec2 d = at(x, 2) - at(x, 0), u = at(x, 6) - at(x, 4);
    const double l = safeLength(u);
    const Vec2 t = u * (1 / l);
    const double r = dot(d, t);
    const Vec2 byU = (d - t * r) * (1 / l);
    if (g) put(g, 0, t * -1), put(g, 2, t), put(g, 4, byU * -1), put(g, 6, byU);
    return r;
}

double onCircle(const Equation&, const double*, const double* x, double* g) {
    Vec2 by;
    const double d = distance(at(x, 2), at(x, 0), by);
    if (g) put(g, 0, by), put(g, 2, by * -1), g[4] = -1;
    return d - x[4];
}

double tangentLineCircle(const Equation& e, const double*, const double* x, double* g) {
    Vec2 p, a, b;
    const double h = height(at(x, 4), at(x, 0), at(x, 2), p, a, b);
    if (g) put(g, 0, a * e.sense), put(g, 2, b * e.sense), put(g, 4, p * e.sense), g[6] = -1;
    return e.sense * h - x[6];
}

double tangentCircles(const Equation& e, const double*, const double* x, double* g) {
    Vec2 by;
    const double d = distance(at(x, 0), at(x, 3), by), sum = x[2] + e.sense * x[5];
    const double sign = sum < 0 ? -1 : 1;
    if (g) put(g, 0, by * -1), g[2] = -sign, put(g, 3, by), g[5] = -sign * e.sense;
    return d - std::fabs(sum);
}

double arcLength(const Equation& e, const double*, const double* x, double* g) {
    Vec2 byS, byE;
    const double a0 = turn(at(x, 0) - at(x, 4), at(x, 2) - at(x, 4), byS, byE);
    const double a = a0 < 0 ? a0 + 2 * std::numbers::pi : a0, r = x[6];
    if (g) put(g, 0, byS * r), put(g, 2, byE * r), put(g, 4, (byS + byE) * -r), g[6] = a;
    return r * a - e.value;
}

template <CurveFunction f, bool poles>
double onCurve(const Equation& e, const double* k, const double* x, double* g) {
    return f(e, k, x, g, poles);
}

/// In the order of EquationKind.
constexpr Function* kFunctions[] = {
    fix,
    differ,
    linear,
    distanceOf,
    pointLine,
    turned,
    turned,
    turned,
    lengthRatio,
    symmetricMiddle,
    symmetricAcross,
    onCircle,
    tangentLineCircle,
    tangentCircles,
    onEllipse,
    arcLength,
    onConic,
    tangentLineEllipse,
    onCurve<onSpline, false>,
    onCurve<onSpline, true>,
    onCurve<splineLine, false>,
    onCurve<splineAlongLine, false>,
    onCurve<splineCircle, false>,
    onCurve<splineAcrossCircle, false>,
    onCurve<splineLine, true>,
    onCurve<splineAlongLine, true>,
    onCurve<splineCircle, true>,
    onCurve<splineAcrossCircle, true>,
    ellipseEnd,
    ellipseEnds,
    sameCurvature,
    beside,
    atEllipse,
    atConic,
    atRow,
    onCurve<slopeOfSpline, false>,
    onCurve<slopeOfSpline, true>,
    slopeOfEllipse,
    slopeOfConic,
    slopeOfRow,
};
static_assert(std::size(kFunctions) == static_cast<std::size_t>(EquationKind::SlopeOfRow) + 1);

} // namespace

double evaluate(const Equation& equation, const double* constants, const double* x, double* g) {
    return kFunctions[static_cast<std::size_t>(equation.kind)](equation, constants, x, g);
}

} // namespace gc
