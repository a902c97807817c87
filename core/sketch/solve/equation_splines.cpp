// Equations of splines: linear in their points, with the parameter as an unknown of its own.

#include "core/sketch/solve/equation_terms.hpp"
#include "core/sketch/splines.hpp"

#include <array>

namespace gc::terms {

namespace {

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

} // namespace

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

} // namespace gc::terms
