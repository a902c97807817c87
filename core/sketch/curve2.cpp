#include "core/sketch/curve2.hpp"
#include "core/base/angles.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/fair_stroke.hpp"

#include "core/sketch/splines.hpp"

#include <algorithm>
#include <cmath>
#include <functional>

namespace gc {

namespace {

/// The five-point Gauss-Legendre rule on [0, 1].
constexpr double kGaussAt[] = {0.046910077030668, 0.2307653449471584, 0.5, 0.7692346550528415,
                               0.953089922969332};
constexpr double kGaussWeight[] = {0.1184634425280945, 0.2393143352496832, 0.2844444444444444,
                                   0.2393143352496832, 0.1184634425280945};

double integrate(const std::function<double(double)>& f, double a, double b) {
    double sum = 0;
    for (int i = 0; i < 5; ++i) sum += kGaussWeight[i] * f(a + (b - a) * kGaussAt[i]);
    return sum * (b - a);
}

double adaptive(const std::function<double(double)>& f, double a, double b, double whole, int depth) {
    const double m = 0.5 * (a + b), left = integrate(f, a, m), right = integrate(f, m, b);
    if (depth <= 0 || std::fabs(left + right - whole) <= 1e-13 * (1 + std::fabs(whole))) return left + right;
    return adaptive(f, a, m, left, depth - 1) + adaptive(f, m, b, right, depth - 1);
}

} // namespace

Vec2 Curve2::at(double t) const {
    switch (kind) {
    case Kind::Line:
        return p[0] + (p[1] - p[0]) * t;
    case Kind::Ellipse: {
        const double a = from + turn * t;
        return p[0] + p[1] * std::cos(a) + p[2] * std::sin(a);
    }
    case Kind::Conic: {
        const double b0 = (1 - t) * (1 - t), b1 = 2 * t * (1 - t) * weight, b2 = t * t;
        return (p[0] * b0 + p[1] * b1 + p[2] * b2) * (1 / (b0 + b1 + b2));
    }
    case Kind::Cubic: {
        const double s = 1 - t;
        return p[0] * (s * s * s) + p[1] * (3 * s * s * t) + p[2] * (3 * s * t * t) + p[3] * (t * t * t);
    }
    }
    return {};
}

Vec2 Curve2::slope(double t) const {
    switch (kind) {
    case Kind::Line:
        return p[1] - p[0];
    case Kind::Ellipse: {
        const double a = from + turn * t;
        return (p[1] * -std::sin(a) + p[2] * std::cos(a)) * turn;
    }
    case Kind::Conic: {
        const double b0 = (1 - t) * (1 - t), b1 = 2 * t * (1 - t) * weight, b2 = t * t, w = b0 + b1 + b2;
        const double d0 = -2 * (1 - t), d1 = 2 * (1 - 2 * t) * weight, d2 = 2 * t, dw = d0 + d1 + d2;
        const Vec2 x = p[0] * b0 + p[1] * b1 + p[2] * b2, dx = p[0] * d0 + p[1] * d1 + p[2] * d2;
        return (dx * w - x * dw) * (1 / (w * w));
    }
    case Kind::Cubic: {
        const double s = 1 - t;
        return ((p[1] - p[0]) * (s * s) + (p[2] - p[1]) * (2 * s * t) + (p[3] - p[2]) * (t * t)) * 3;
    }
    }
    return {};
}

bool Curve2::closed() const {
    return kind == Kind::Ellipse && std::fabs(turn) > 2 * kPi - 1e-9;
}

bool Curve2::isCircular() const {
    const double a = gc::length(p[1]), b = gc::length(p[2]);
    return kind == Kind::Ellipse && std::fabs(a - b) < 1e-9 * a && std::fabs(dot(p[1], p[2])) < 1e-9 * a * b;
}

Curve2 Curve2::part(double begin, double end) const {
    Curve2 out = *this;
    switch (kind) {
    case Kind::Line:
        out.p[0] = at(begin), out.p[1] = at(end);
        break;
    case Kind::Ellipse:
        out.from = from + turn * begin, out.turn = turn * (end - begin);
        break;
    case Kind::Conic: {
        // Blossoms of the homogeneous poles, then back to end weights of one (Farin, section 13.7).
        struct H {
            double x, y, w;
        };
        const H h[] = {{p[0].x, p[0].y, 1}, {p[1].x * weight, p[1].y * weight, weight}, {p[2].x, p[2].y, 1}};
        const auto blossom = [&](double s, double t) {
            const double b0 = (1 - s) * (1 - t), b1 = s * (1 - t) + t * (1 - s), b2 = s * t;
            return H{h[0].x * b0 + h[1].x * b1 + h[2].x * b2, h[0].y * b0 + h[1].y * b1 + h[2].y * b2,
                     h[0].w * b0 + h[1].w * b1 + h[2].w * b2};
        };
        const H a = blossom(begin, begin), m = blossom(begin, end), b = blossom(end, end);
        out.p[0] = {a.x / a.w, a.y / a.w}, out.p[1] = {m.x / m.w, m.y / m.w},
        out.p[2] = {b.x / b.w, b.y / b.w};
        out.weight = m.w / std::sqrt(a.w * b.w);
        break;
    }
    case Kind::Cubic: {
        const auto blossom = [&](double r, double s, double t) {
            const auto mix = [](Vec2 a, Vec2 b, double u) { return a * (1 - u) + b * u; };
            const Vec2 a = mix(p[0], p[1], r), b = mix(p[1], p[2], r), c = mix(p[2], p[3], r);
            return mix(mix(a, b, s), mix(b, c, s), t);
        };
        out.p = {blossom(begin, begin, begin), blossom(begin, begin, end), blossom(begin, end, end),
                 blossom(end, end, end)};
        break;
    }
    }
    return out;
}

double Curve2::length() const {
    if (kind == Kind::Line) return gc::length(p[1] - p[0]);
    if (isCircular()) return gc::length(p[1]) * std::fabs(turn);
    const auto f = [&](double t) { return gc::length(slope(t)); };
    return adaptive(f, 0, 1, integrate(f, 0, 1), 24);
}

double Curve2::areaShare() const {
    if (kind == Kind::Line) return 0.5 * cross(p[0], p[1]);
    const auto f = [&](double t) { return 0.5 * cross(at(t), slope(t)); };
    return adaptive(f, 0, 1, integrate(f, 0, 1), 24);
}

void Curve2::bounds(Vec2& low, Vec2& high) const {
    low = high = at(0);
    const auto hold = [&](Vec2 q) {
        low = {std::min(low.x, q.x), std::min(low.y, q.y)};
        high = {std::max(high.x, q.x), std::max(high.y, q.y)};
    };
    hold(at(1));
    if (kind == Kind::Conic) hold(p[0]), hold(p[1]), hold(p[2]);
    if (kind == Kind::Cubic)
        for (const Vec2 q : p) hold(q);
    if (kind != Kind::Ellipse) return;
    for (const double a0 : {std::atan2(p[2].x, p[1].x), std::atan2(p[2].y, p[1].y)})
        for (int k = -4; k <= 4; ++k) {
            const double t = (a0 + k * kPi - from) / turn;
            if (t > 0 && t < 1) hold(at(t));
        }
}

std::vector<Vec2> Curve2::sampled(double deviation) const {
    if (kind == Kind::Line) return {p[0], p[1]};
    int n = 8;
    if (kind == Kind::Ellipse) {
        const double r = std::max({gc::length(p[1]), gc::length(p[2]), deviation});
        n = std::max(2, static_cast<int>(
                            std::ceil(std::fabs(turn) / (2 * std::acos(std::max(0.0, 1 - deviation / r))))));
    } else {
        const Vec2 bend = kind == Kind::Conic ? p[0] - p[1] * 2 + p[2]
                                              : (p[0] - p[1] * 2 + p[2]) + (p[1] - p[2] * 2 + p[3]);
        n = std::max(4, static_cast<int>(std::ceil(std::sqrt(gc::length(bend) / deviation)) + 2));
    }
    n = std::min(n, 720);
    std::vector<Vec2> out;
    for (int i = 0; i <= n; ++i) out.push_back(at(static_cast<double>(i) / n));
    return out;
}

double Curve2::nearest(Vec2 q) const {
    if (kind == Kind::Line) {
        const Vec2 u = p[1] - p[0];
        const double l = dot(u, u);
        return l < 1e-300 ? 0 : std::clamp(dot(q - p[0], u) / l, 0.0, 1.0);
    }
    constexpr int kSteps = 64;
    double best = 0, least = 1e300;
    for (int i = 0; i <= kSteps; ++i) {
        const double t = static_cast<double>(i) / kSteps, d = gc::length(at(t) - q);
        if (d < least) least = d, best = t;
    }
    for (int k = 0; k < 12; ++k) { // Newton on the foot, by a difference of the slope
        const Vec2 d = at(best) - q, s = slope(best);
        const Vec2 s2 = (slope(std::min(1.0, best + 1e-5)) - slope(std::max(0.0, best - 1e-5))) *
                        (1 / (std::min(1.0, best + 1e-5) - std::max(0.0, best - 1e-5)));
        const double g = dot(d, s), h = dot(s, s) + dot(d, s2);
        if (h <= 0) break;
        const double next = std::clamp(best - g / h, 0.0, 1.0);
        if (std::fabs(next - best) < 1e-15) break;
        best = next;
    }
    return best;
}

namespace {

Curve2 circleOf(const Drawing& d, const Stroke& s) {
    Curve2 c;
    c.kind = Curve2::Kind::Ellipse;
    const double r = s.sizes[0];
    c.p = {d.at(centrePoint(s)), {r, 0}, {0, r}};
    c.turn = 2 * kPi;
    if (s.kind == StrokeKind::Arc) {
        const Vec2 a = d.at(s.points[0]) - c.p[0], b = d.at(s.points[1]) - c.p[0];
        c.from = std::atan2(a.y, a.x);
        c.turn = turnBetween(a, b);
        if (c.turn <= 0) c.turn = 2 * kPi;
    }
    return c;
}

Curve2 ellipseOf(const Drawing& d, const Stroke& s) {
    Curve2 c;
    c.kind = Curve2::Kind::Ellipse;
    const Vec2 centre = d.at(s.points[0]), u = d.at(s.points[1]) - centre;
    const double a = std::max(length(u), 1e-12);
    c.p = {centre, u, Vec2{-u.y, u.x} * (s.sizes[0] / a)};
    c.turn = 2 * kPi;
    if (s.kind == StrokeKind::EllipseArc) {
        const auto angle = [&](int point) {
            const Vec2 v = d.at(point) - centre;
            return std::atan2(cross(u, v) / a / s.sizes[0], dot(u, v) / (a * a));
        };
        c.from = angle(s.points[2]);
        c.turn = angle(s.points[3]) - c.from;
        if (c.turn <= 0) c.turn += 2 * kPi;
    }
    return c;
}

Curve2 conicOf(const Drawing& d, const Stroke& s) {
    Curve2 c;
    c.kind = Curve2::Kind::Conic;
    c.p = {d.at(s.points[0]), d.at(s.points[2]), d.at(s.points[1])};
    const double rho = std::clamp(s.sizes[0], 1e-6, 1 - 1e-6);
    c.weight = rho / (1 - rho);
    return c;
}

std::vector<Curve2> splineOf(const Drawing& d, const Stroke& s) {
    Curve2 c;
    c.kind = Curve2::Kind::Cubic;
    std::vector<Vec2> points;
    for (const int id : s.points) points.push_back(d.at(id));
    std::vector<Curve2> out;
    if (s.kind == StrokeKind::Spline) {
        for (std::size_t i = 0; i < s.sizes.size(); ++i) {
            c.p = splinePiece(points, s.sizes, static_cast<int>(i));
            out.push_back(c);
        }
        return out;
    }
    // Each span of the B-spline as a Bezier piece, from its value and slope at both ends.
    const int n = static_cast<int>(points.size());
    const auto sum = [&](double t, int k) {
        const PoleWeights w = poleWeights(n, t, k);
        Vec2 v;
        for (std::size_t i = 0; i < 4; ++i)
            v = v + points[static_cast<std::size_t>(w.first) + i] * w.weights[i];
        return v;
    };
    for (int i = 0; i < n - 3; ++i) {
        const double a = i, b = i + 1 - 1e-12;
        c.p = {sum(a, 0), sum(a, 0) + sum(a, 1) * (1.0 / 3), sum(b, 0) - sum(b, 1) * (1.0 / 3), sum(b, 0)};
        out.push_back(c);
    }
    return out;
}

} // namespace

std::vector<Curve2> curvesOf(const Drawing& d, const Stroke& s) {
    switch (s.kind) {
    case StrokeKind::Point:
        return {};
    case StrokeKind::Line: {
        Curve2 c;
        c.p = {d.at(s.points[0]), d.at(s.points[1])};
        return {c};
    }
    case StrokeKind::Circle:
    case StrokeKind::Arc:
        return {circleOf(d, s)};
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
        return {ellipseOf(d, s)};
    case StrokeKind::Conic:
        return {conicOf(d, s)};
    case StrokeKind::Spline:
    case StrokeKind::Poles:
        return splineOf(d, s);
    case StrokeKind::Fair: {
        std::vector<Vec2> stations;
        for (const int p : s.points) stations.push_back(d.at(p));
        return fairCurves(stations, s.sizes[0]);
    }
    case StrokeKind::Beside:
        return besideCurves(d, s);
    }
    return {};
}

// ---- meetings

} // namespace gc
