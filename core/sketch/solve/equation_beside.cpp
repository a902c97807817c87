// Equations of strokes that follow others: where on its source an end belongs, the direction there, and the
// place beside it.

#include "core/sketch/solve/equation_duals.hpp"
#include "core/sketch/splines.hpp"

#include <array>

namespace gc::terms {

/// p f w d: p stands off f by d, square to the way from f to w.
double beside(const Equation& e, const double*, const double* x, double* g) {
    const bool first = e.sense > 0;
    const Vec2 p = at(x, 0), f = at(x, 2), u = at(x, 4) - f;
    const double l = safeLength(u), d = e.scale * x[6];
    const Vec2 n{-u.y / l, u.x / l};
    // The unit normal by u: it turns with u, by its own right angle over the length.
    const Vec2 t{u.x / l, u.y / l};
    const Vec2 nxByU = Vec2{n.x, n.y} * (-t.x / l), nyByU = Vec2{n.x, n.y} * (-t.y / l);
    if (g) {
        std::fill(g, g + e.count, 0.0);
        const Vec2 byU = (first ? nxByU : nyByU) * -d;
        g[first ? 0 : 1] = 1;
        put(g, 2, byU * -1);
        g[first ? 2 : 3] -= 1;
        put(g, 4, byU);
        g[6] = -e.scale * (first ? n.x : n.y);
    }
    return first ? p.x - f.x - d * n.x : p.y - f.y - d * n.y;
}

/// f w t, then nodes and handles (or poles): from f to w is the derivative at t.
double slopeOfSpline(const Equation& e, const double* k, const double* x, double* g, bool poles) {
    constexpr int kPoints = 5;
    const double t = x[4];
    int base = 0;
    std::array<double, 4> w1{}, w2{};
    if (poles) {
        const int count = (e.count - kPoints) / 2;
        const PoleWeights p = poleWeights(count, t, 1);
        base = p.first;
        w1 = p.weights;
        w2 = poleWeights(count, t, 2).weights;
    } else {
        const std::span<const double> spans(k, static_cast<std::size_t>(e.extras));
        const PieceWeights p = splineWeights(spans, t, 1);
        base = 2 * p.piece;
        w1 = p.weights;
        w2 = splineWeights(spans, t, 2).weights;
    }
    const bool first = e.sense > 0;
    Vec2 d, dd;
    for (std::size_t i = 0; i < 4; ++i) {
        const Vec2 p = at(x, kPoints + 2 * (base + static_cast<int>(i)));
        d = d + p * w1[i];
        dd = dd + p * w2[i];
    }
    if (g) {
        std::fill(g, g + e.count, 0.0);
        g[first ? 0 : 1] = 1;
        g[first ? 2 : 3] = -1;
        g[4] = first ? dd.x : dd.y;
        for (std::size_t i = 0; i < 4; ++i)
            g[kPoints + 2 * (base + static_cast<int>(i)) + (first ? 0 : 1)] = w1[i];
    }
    const Vec2 f = at(x, 0), w = at(x, 2);
    return first ? d.x - (w.x - f.x) : d.y - (w.y - f.y);
}

/// p t, then centre, end of the long half axis, other half axis: p at the angle t of the ellipse.
double atEllipse(const Equation& e, const double*, const double* x, double* g) {
    const auto u = [&](int i) { return unknown(e, x, i); };
    const Dual c = cos(u(2)), s = sin(u(2)), mx = u(5) - u(3), my = u(6) - u(4);
    const Dual a = sqrt(mx * mx + my * my + kTiny * kTiny), k = u(7) / a;
    return give(e.sense > 0 ? Dual(u(3) + mx * c - my * k * s - u(0))
                            : Dual(u(4) + my * c + mx * k * s - u(1)),
                e.count, g);
}

/// f w t, then as atEllipse: from f to w is the derivative there.
double slopeOfEllipse(const Equation& e, const double*, const double* x, double* g) {
    const auto u = [&](int i) { return unknown(e, x, i); };
    const Dual c = cos(u(4)), s = sin(u(4)), mx = u(7) - u(5), my = u(8) - u(6);
    const Dual a = sqrt(mx * mx + my * my + kTiny * kTiny), k = u(9) / a;
    return give(e.sense > 0 ? Dual(-mx * s - my * k * c - (u(2) - u(0)))
                            : Dual(-my * s + mx * k * c - (u(3) - u(1))),
                e.count, g);
}

namespace {

/// One coordinate of a conic and its derivative: start, apex and end of it, rho, t.
struct OnConicCurve {
    Dual at, slope;
};
OnConicCurve conicAt(const Dual& s, const Dual& apex, const Dual& e, const Dual& rho, const Dual& t) {
    const Dual w = rho / (1.0 - rho), r = 1.0 - t;
    const Dual n = s * r * r + 2.0 * w * t * r * apex + t * t * e, d = r * r + 2.0 * w * t * r + t * t;
    const Dual dn = 2.0 * (t * e - r * s + w * (r - t) * apex), dd = 2.0 * (t - r + w * (r - t));
    return {Dual(n / d), Dual((dn * d - n * dd) / (d * d))};
}

} // namespace

/// p t, then start, end, apex, shoulder ratio: p at the parameter t of the conic.
double atConic(const Equation& e, const double*, const double* x, double* g) {
    const auto u = [&](int i) { return unknown(e, x, i); };
    const int k = e.sense > 0 ? 0 : 1;
    return give(Dual(conicAt(u(3 + k), u(7 + k), u(5 + k), u(9), u(2)).at - u(k)), e.count, g);
}

/// f w t, then as atConic: from f to w is the derivative there.
double slopeOfConic(const Equation& e, const double*, const double* x, double* g) {
    const auto u = [&](int i) { return unknown(e, x, i); };
    const int k = e.sense > 0 ? 0 : 1;
    return give(Dual(conicAt(u(5 + k), u(9 + k), u(7 + k), u(11), u(4)).slope - (u(2 + k) - u(k))), e.count,
                g);
}

namespace {

/// A row of cubics that does not move within a solve: eight constants a piece. Point, slope, second slope.
std::array<Vec2, 3> atPieces(const Equation& e, const double* k, double t) {
    const double pieces = e.extras / 8.0, whole = std::clamp(std::floor(t), 0.0, pieces - 1), u = t - whole;
    const double* p = k + 8 * static_cast<int>(whole);
    const Vec2 a{p[0], p[1]}, b{p[2], p[3]}, c{p[4], p[5]}, d{p[6], p[7]};
    const double v = 1 - u;
    return {a * (v * v * v) + b * (3 * u * v * v) + c * (3 * u * u * v) + d * (u * u * u),
            (b - a) * (3 * v * v) + (c - b) * (6 * u * v) + (d - c) * (3 * u * u),
            (c - b * 2 + a) * (6 * v) + (d - c * 2 + b) * (6 * u)};
}

} // namespace

/// p t: p at the parameter t of the pieces.
double atRow(const Equation& e, const double* k, const double* x, double* g) {
    const auto [c, d, dd] = atPieces(e, k, x[2]);
    const bool first = e.sense > 0;
    if (g) g[0] = first ? -1 : 0, g[1] = first ? 0 : -1, g[2] = first ? d.x : d.y;
    return first ? c.x - x[0] : c.y - x[1];
}

/// f w t: from f to w is the derivative at t.
double slopeOfRow(const Equation& e, const double* k, const double* x, double* g) {
    const auto [c, d, dd] = atPieces(e, k, x[4]);
    const bool first = e.sense > 0;
    if (g) {
        std::fill(g, g + e.count, 0.0);
        g[first ? 0 : 1] = 1, g[first ? 2 : 3] = -1, g[4] = first ? dd.x : dd.y;
    }
    return first ? d.x - (x[2] - x[0]) : d.y - (x[3] - x[1]);
}

} // namespace gc::terms
