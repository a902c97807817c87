#include "core/sketch/solve/equation.hpp"

#include "core/sketch/splines.hpp"

#include <Eigen/Core>
#include <unsupported/Eigen/AutoDiff>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

constexpr double kTiny = 1e-12;

Vec2 at(const double* x, int i) {
    return {x[i], x[i + 1]};
}

void put(double* g, int i, Vec2 v) {
    g[i] = v.x;
    g[i + 1] = v.y;
}

double safeLength(Vec2 v) {
    return std::max(length(v), kTiny);
}

/// |q - p| with its gradient by q; that by p is the opposite.
double distance(Vec2 p, Vec2 q, Vec2& byQ) {
    const Vec2 d = q - p;
    const double l = safeLength(d);
    byQ = d * (1 / l);
    return l;
}

/// The height of p over the line a b with gradients.
double height(Vec2 p, Vec2 a, Vec2 b, Vec2& byP, Vec2& byA, Vec2& byB) {
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
double turn(Vec2 v, Vec2 w, Vec2& byV, Vec2& byW) {
    const double vv = std::max(dot(v, v), kTiny * kTiny), ww = std::max(dot(w, w), kTiny * kTiny);
    byV = Vec2{v.y, -v.x} * (1 / vv);
    byW = Vec2{-w.y, w.x} * (1 / ww);
    return std::atan2(cross(v, w), dot(v, w));
}

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

// ---- the rarer ones, differentiated by the library

using Row = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 20, 1>;
using Dual = Eigen::AutoDiffScalar<Row>;

struct DualVec {
    Dual x, y;
};
DualVec operator-(const DualVec& a, const DualVec& b) {
    return {a.x - b.x, a.y - b.y};
}
DualVec operator+(const DualVec& a, const DualVec& b) {
    return {a.x + b.x, a.y + b.y};
}
DualVec operator*(const DualVec& a, double k) {
    return {a.x * k, a.y * k};
}
Dual dot(const DualVec& a, const DualVec& b) {
    return a.x * b.x + a.y * b.y;
}
Dual cross(const DualVec& a, const DualVec& b) {
    return a.x * b.y - a.y * b.x;
}
Dual norm(const DualVec& a) {
    return sqrt(dot(a, a) + kTiny * kTiny);
}

class Duals {
  public:
    Duals(const Equation& e, const double* x) : m_count(e.count), m_x(x) {}
    Dual scalar(int i) const { return Dual(m_x[i], m_count, i); }
    DualVec point(int i) const { return {scalar(i), scalar(i + 1)}; }

  private:
    int m_count;
    const double* m_x;
};

double give(const Dual& d, int count, double* g) {
    if (g)
        for (int i = 0; i < count; ++i) g[i] = i < d.derivatives().size() ? d.derivatives()[i] : 0;
    return d.value();
}

/// F / |grad F| of the ellipse, in its own axes: the distance to first order.
double onEllipse(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    const DualVec c = u.point(2), d = u.point(0) - c, m = u.point(4) - c;
    const Dual a = norm(m), b = u.scalar(6);
    const Dual X = dot(d, m) / a, Y = cross(m, d) / a;
    const Dual f = X * X / (a * a) + Y * Y / (b * b) - 1.0;
    const Dual gx = X / (a * a), gy = Y / (b * b);
    return give(Dual(f / (2.0 * sqrt(gx * gx + gy * gy + kTiny))), e.count, g);
}

/// In barycentric coordinates (i, j, k) of start, apex, end the conic of weight w = rho / (1 - rho) is
/// j^2 = 4 w^2 i k. The residual is divided by the gradient of that, taken in the plane.
double onConic(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    const DualVec p = u.point(0), s = u.point(2), t = u.point(4), q = u.point(6);
    const Dual rho = u.scalar(8), w = rho / (1.0 - rho);
    const Dual area = cross(q - s, t - s);
    const Dual i = cross(q - p, t - p) / area, j = cross(t - p, s - p) / area, k = 1.0 - i - j;
    const Dual f = j * j - 4.0 * w * w * i * k;
    // Gradients of the barycentric coordinates: opposite side turned by a right angle, over the area.
    const auto gradient = [&](const DualVec& from, const DualVec& to) {
        return DualVec{(from.y - to.y) / area, (to.x - from.x) / area};
    };
    const DualVec gi = gradient(q, t), gj = gradient(t, s), gk = gradient(s, q);
    const Dual wi = -4.0 * w * w * k, wj = 2.0 * j, wk = -4.0 * w * w * i;
    const DualVec grad{gi.x * wi + gj.x * wj + gk.x * wk, gi.y * wi + gj.y * wj + gk.y * wk};
    return give(Dual(f / (norm(grad) + kTiny)), e.count, g);
}

/// A line touches an ellipse when its height over the centre is sqrt(a^2 (n.m)^2 + b^2 (n x m)^2), with unit
/// normal n and unit half axis m.
double tangentLineEllipse(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    const DualVec a = u.point(0), d = u.point(2) - a, c = u.point(4), m = u.point(6) - c;
    const Dual l = norm(d), b = u.scalar(8);
    const Dual h = cross(d, c - a) / l;
    const Dual reach = cross(d, m) / l, side = dot(d, m) / l * (b / norm(m));
    return give(Dual(h * e.sense - sqrt(reach * reach + side * side + kTiny * kTiny)), e.count, g);
}

/// The unit normal of an ellipse where a point of it lies: the gradient of (X / a)^2 + (Y / b)^2.
DualVec ellipseNormal(const Duals& u, int at) {
    const DualVec c = u.point(at + 2), d = u.point(at) - c, m = u.point(at + 4) - c;
    const Dual a = norm(m), b = u.scalar(at + 6);
    const Dual x = dot(d, m) / (a * a * a), y = cross(m, d) / (a * b * b);
    const DualVec n{(m.x * x - m.y * y) / a, (m.y * x + m.x * y) / a};
    const Dual l = norm(n) + kTiny;
    return {n.x / l, n.y / l};
}

double ellipseEnd(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    const DualVec n = ellipseNormal(u, 0), d = u.point(9) - u.point(7);
    const Dual l = norm(d) + kTiny;
    return give(Dual((e.sense > 0 ? dot(n, d) : cross(n, d)) / l * e.scale), e.count, g);
}

double ellipseEnds(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    return give(Dual(cross(ellipseNormal(u, 0), ellipseNormal(u, 7)) * e.scale), e.count, g);
}

/// Curvature at the start of a curve whose first differences of poles are d0 and d1.
Dual curvatureOf(const DualVec& d0, const DualVec& d1, const Dual& factor) {
    const Dual l = norm(d0);
    return factor * cross(d0, d1) / (l * l * l);
}

/// Signed curvature at an end; positive curves left when walking into the stroke from that end.
/// Formulas of end curvatures: Farin, Curves and Surfaces for CAGD, 5th edition, sections 11.2 and 13.4.
Dual curvatureOf(const Equation& e, int end, int at, const Duals& u) {
    const double f = e.endFactors[end];
    const Dual zero(0.0, Row::Zero(e.count));
    switch (e.ends[end]) {
    case CurvatureEnd::Straight:
        return zero;
    case CurvatureEnd::Round:
        return f / u.scalar(at);
    case CurvatureEnd::Spline: {
        const DualVec n0 = u.point(at), n1 = u.point(at + 4);
        const DualVec d0 = (u.point(at + 2) - n0) * (f < 0 ? -1 : 1);
        const DualVec p2 = n1 - (u.point(at + 6) - n1) * f;
        return curvatureOf(d0, p2 - (n0 + d0), zero + 2.0 / 3.0);
    }
    case CurvatureEnd::Poles: {
        const DualVec p1 = u.point(at + 2);
        return curvatureOf(p1 - u.point(at), u.point(at + 4) - p1, zero + f);
    }
    case CurvatureEnd::Conic: {
        const DualVec p1 = u.point(at + 2);
        const Dual rho = u.scalar(at + 6), w = rho / (1.0 - rho);
        return curvatureOf(p1 - u.point(at), u.point(at + 4) - p1, Dual(1.0 / (2.0 * w * w)));
    }
    }
    return zero;
}

int unknownsOf(CurvatureEnd end) {
    constexpr int counts[] = {0, 1, 8, 6, 7};
    return counts[static_cast<int>(end)];
}

double sameCurvature(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    // Walking out of one stroke is walking into the other the opposite way: the signs are opposite.
    const Dual k = curvatureOf(e, 0, 0, u) + curvatureOf(e, 1, unknownsOf(e.ends[0]), u);
    return give(Dual(e.scale * e.scale * k), e.count, g);
}

// ---- splines: linear in their points, with the parameter as an unknown of its own

struct OnCurve {
    Vec2 c, d, dd; ///< point, first and second derivative by the parameter
    int first = 0; ///< place of the first point with a weight
    std::array<double, 4> w{}, dw{};
};

/// \param points where nodes and handles (or poles) start in x; \param t the parameter
OnCurve curveAt(const Equation& e, const double* k, const double* x, int points, double t, bool poles) {
    OnCurve out;
    const int count = (e.count - points) / 2;
    std::array<double, 4> w2{};
    if (poles) {
        const PoleWeights p = poleWeights(count, t, 0);
        out.first = p.first;
        out.w = p.weights;
        out.dw = poleWeights(count, t, 1).weights;
        w2 = poleWeights(count, t, 2).weights;
    } else {
        const std::span<const double> spans(k, static_cast<std::size_t>(e.extras));
        const PieceWeights p = splineWeights(spans, t, 0);
        out.first = 2 * p.piece;
        out.w = p.weights;
        out.dw = splineWeights(spans, t, 1).weights;
        w2 = splineWeights(spans, t, 2).weights;
    }
    for (std::size_t i = 0; i < 4; ++i) {
        const Vec2 p = at(x, points + 2 * (out.first + static_cast<int>(i)));
        out.c = out.c + p * out.w[i];
        out.d = out.d + p * out.dw[i];
        out.dd = out.dd + p * w2[i];
    }
    return out;
}

/// Adds the derivative by the curve's points: byPoint through C, byTangent through C'.
void putCurve(double* g, int points, const OnCurve& on, Vec2 byPoint, Vec2 byTangent) {
    for (std::size_t i = 0; i < 4; ++i)
        put(g, points + 2 * (on.first + static_cast<int>(i)), byPoint * on.w[i] + byTangent * on.dw[i]);
}

double onSpline(const Equation& e, const double* k, const double* x, double* g, bool poles) {
    const OnCurve on = curveAt(e, k, x, 3, x[2], poles);
    const bool first = e.sense > 0;
    if (g) {
        std::fill(g, g + e.count, 0.0);
        g[first ? 0 : 1] = -1;
        g[2] = first ? on.d.x : on.d.y;
        putCurve(g, 3, on, first ? Vec2{1, 0} : Vec2{0, 1}, {});
    }
    return first ? on.c.x - x[0] : on.c.y - x[1];
}

double splineLine(const Equation& e, const double* k, const double* x, double* g, bool poles) {
    const OnCurve on = curveAt(e, k, x, 5, x[4], poles);
    Vec2 p, a, b;
    const double h = height(on.c, at(x, 0), at(x, 2), p, a, b);
    if (g) {
        std::fill(g, g + e.count, 0.0);
        put(g, 0, a), put(g, 2, b);
        g[4] = dot(p, on.d);
        putCurve(g, 5, on, p, {});
    }
    return h;
}

double splineAlongLine(const Equation& e, const double* k, const double* x, double* g, bool poles) {
    const OnCurve on = curveAt(e, k, x, 5, x[4], poles);
    Vec2 byU, byD;
    const double a = turn(at(x, 2) - at(x, 0), on.d, byU, byD);
    const double slope = e.scale * std::cos(a);
    if (g) {
        std::fill(g, g + e.count, 0.0);
        put(g, 0, byU * -slope), put(g, 2, byU * slope);
        g[4] = slope * dot(byD, on.dd);
        putCurve(g, 5, on, {}, byD * slope);
    }
    return e.scale * std::sin(a);
}

double splineCircle(const Equation& e, const double* k, const double* x, double* g, bool poles) {
    const OnCurve on = curveAt(e, k, x, 4, x[3], poles);
    Vec2 by;
    const double d = distance(at(x, 0), on.c, by);
    if (g) {
        std::fill(g, g + e.count, 0.0);
        put(g, 0, by * -1);
        g[2] = -1;
        g[3] = dot(by, on.d);
        putCurve(g, 4, on, by, {});
    }
    return d - x[2];
}

double splineAcrossCircle(const Equation& e, const double* k, const double* x, double* g, bool poles) {
    const OnCurve on = curveAt(e, k, x, 4, x[3], poles);
    Vec2 byR, byD;
    const double a = turn(on.c - at(x, 0), on.d, byR, byD);
    const double slope = -e.scale * std::sin(a);
    if (g) {
        std::fill(g, g + e.count, 0.0);
        put(g, 0, byR * -slope);
        g[3] = slope * (dot(byR, on.d) + dot(byD, on.dd));
        putCurve(g, 4, on, byR * slope, byD * slope);
    }
    return e.scale * std::cos(a);
}

using CurveFunction = double (*)(const Equation&, const double*, const double*, double*, bool);
template <CurveFunction f, bool poles>
double onCurve(const Equation& e, const double* k, const double* x, double* g) {
    return f(e, k, x, g, poles);
}

using Function = double (*)(const Equation&, const double*, const double*, double*);
/// In the order of EquationKind.
constexpr Function kFunctions[] = {
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
};
static_assert(std::size(kFunctions) == static_cast<std::size_t>(EquationKind::SameCurvature) + 1);

} // namespace

double evaluate(const Equation& equation, const double* constants, const double* x, double* g) {
    return kFunctions[static_cast<std::size_t>(equation.kind)](equation, constants, x, g);
}

} // namespace gc
