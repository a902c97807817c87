/// \file Where two curves meet.

#include "core/base/angles.hpp"
#include "core/base/tolerance.hpp"
#include "core/sketch/curve2.hpp"

#include <algorithm>
#include <cmath>
#include <functional>

namespace gc {

namespace {

void add(std::vector<Meeting>& out, const Curve2& a, const Curve2& b, double s, double t,
         bool along = false) {
    constexpr double kSlack = 1e-9;
    if (s < -kSlack || s > 1 + kSlack || t < -kSlack || t > 1 + kSlack) return;
    s = std::clamp(s, 0.0, 1.0), t = std::clamp(t, 0.0, 1.0);
    const Vec2 at = (a.at(s) + b.at(t)) * 0.5;
    for (Meeting& m : out)
        if (length(m.at - at) < kKernelPoint && std::fabs(m.onFirst - s) < 1e-6 &&
            std::fabs(m.onSecond - t) < 1e-6) {
            m.along = m.along || along;
            return;
        }
    out.push_back({s, t, at, along});
}

void lineLine(const Curve2& a, const Curve2& b, std::vector<Meeting>& out) {
    const Vec2 u = a.p[1] - a.p[0], v = b.p[1] - b.p[0], w = b.p[0] - a.p[0];
    const double d = cross(u, v), lu = length(u), lv = length(v);
    if (lu < 1e-12 || lv < 1e-12) return;
    if (std::fabs(d) > 1e-10 * lu * lv) return add(out, a, b, cross(w, v) / d, cross(w, u) / d);
    if (std::fabs(cross(u, w)) / lu > kKernelPoint) return; // beside each other
    const auto foot = [](const Curve2& c, Vec2 q) {
        const Vec2 s = c.p[1] - c.p[0];
        return dot(q - c.p[0], s) / dot(s, s);
    };
    // Ends of one within the other; more than a point shared is an overlap.
    std::vector<Meeting> ends;
    for (const double t : {0.0, 1.0}) add(ends, a, b, foot(a, b.at(t)), t);
    for (const double s : {0.0, 1.0}) add(ends, a, b, s, foot(b, a.at(s)));
    const bool overlap = ends.size() > 1;
    for (const Meeting& m : ends) add(out, a, b, m.onFirst, m.onSecond, overlap);
}

/// The parameter of an angle on an arc; outside [0, 1] when the arc does not reach it.
double parameterOf(const Curve2& arc, double angle) {
    double t = (angle - arc.from) / arc.turn;
    const double round = 2 * kPi / std::fabs(arc.turn);
    t -= std::floor(t / round) * round;
    return t > 1 + 1e-9 && t - round > -1e-9 ? t - round : t;
}

void lineCircle(const Curve2& a, const Curve2& c, std::vector<Meeting>& out, bool swapped) {
    const Vec2 u = a.p[1] - a.p[0], w = a.p[0] - c.p[0];
    const double l = length(u), r = length(c.p[1]);
    if (l < 1e-12) return;
    const double middle = -dot(w, u) / (l * l), h = cross(u, w) / l, rest = r * r - h * h;
    if (std::fabs(h) > r + kKernelPoint) return;
    const double half = std::sqrt(std::max(0.0, rest)) / l;
    for (const double s : {middle - half, middle + half}) {
        const Vec2 q = a.at(s) - c.p[0];
        const double angle =
            std::atan2(cross(c.p[1], q), dot(c.p[1], q)) * (cross(c.p[1], c.p[2]) < 0 ? -1 : 1);
        const double t = parameterOf(c, angle);
        swapped ? add(out, c, a, t, s) : add(out, a, c, s, t);
    }
}

void circleCircle(const Curve2& a, const Curve2& b, std::vector<Meeting>& out) {
    const double r = length(a.p[1]), s = length(b.p[1]);
    const Vec2 d = b.p[0] - a.p[0];
    const double apart = length(d);
    const auto angleOn = [](const Curve2& c, Vec2 at) {
        const Vec2 q = at - c.p[0];
        return std::atan2(cross(c.p[1], q), dot(c.p[1], q)) * (cross(c.p[1], c.p[2]) < 0 ? -1 : 1);
    };
    if (apart < kKernelPoint && std::fabs(r - s) < kKernelPoint) { // one circle
        std::vector<Meeting> ends;
        for (const double t : {0.0, 1.0}) add(ends, a, b, parameterOf(a, angleOn(a, b.at(t))), t);
        for (const double t : {0.0, 1.0}) add(ends, a, b, t, parameterOf(b, angleOn(b, a.at(t))));
        const bool overlap = ends.size() > 1 || a.closed() || b.closed();
        for (const Meeting& m : ends) {
            // Two arcs that share only their ends do not run along each other.
            const Vec2 mid = a.at(0.5);
            const double t = parameterOf(b, angleOn(b, mid));
            add(out, a, b, m.onFirst, m.onSecond, overlap && t >= 0 && t <= 1);
        }
        return;
    }
    if (apart < 1e-12 || apart > r + s + kKernelPoint || apart < std::fabs(r - s) - kKernelPoint) return;
    const double x = (apart * apart + r * r - s * s) / (2 * apart),
                 y = std::sqrt(std::max(0.0, r * r - x * x));
    const Vec2 u = d * (1 / apart), n{-u.y, u.x};
    for (const double side : {-1.0, 1.0}) {
        const Vec2 at = a.p[0] + u * x + n * (side * y);
        add(out, a, b, parameterOf(a, angleOn(a, at)), parameterOf(b, angleOn(b, at)));
    }
}

/// Any two curves: boxes halved while they overlap, then Newton.
void general(const Curve2& a, const Curve2& b, std::vector<Meeting>& out) {
    struct Pair {
        double a0, a1, b0, b1;
    };
    std::vector<Pair> open{{0, 1, 0, 1}};
    std::vector<std::pair<double, double>> starts;
    constexpr std::size_t kMost = 4000;
    std::size_t work = 0;
    while (!open.empty() && ++work < kMost) {
        const Pair q = open.back();
        open.pop_back();
        Vec2 al, ah, bl, bh;
        a.part(q.a0, q.a1).bounds(al, ah), b.part(q.b0, q.b1).bounds(bl, bh);
        const double slack = kKernelPoint;
        if (al.x > bh.x + slack || bl.x > ah.x + slack || al.y > bh.y + slack || bl.y > ah.y + slack)
            continue;
        if (q.a1 - q.a0 < 0.02 && q.b1 - q.b0 < 0.02) {
            starts.push_back({0.5 * (q.a0 + q.a1), 0.5 * (q.b0 + q.b1)});
            continue;
        }
        if (q.a1 - q.a0 >= q.b1 - q.b0) {
            const double m = 0.5 * (q.a0 + q.a1);
            open.push_back({q.a0, m, q.b0, q.b1}), open.push_back({m, q.a1, q.b0, q.b1});
        } else {
            const double m = 0.5 * (q.b0 + q.b1);
            open.push_back({q.a0, q.a1, q.b0, m}), open.push_back({q.a0, q.a1, m, q.b1});
        }
    }
    for (auto [s, t] : starts) {
        for (int k = 0; k < 30; ++k) {
            const Vec2 d = b.at(t) - a.at(s), u = a.slope(s), v = b.slope(t);
            const double det = cross(u, v);
            if (length(d) < 1e-12) break;
            double ds = 0, dt = 0;
            if (std::fabs(det) > 1e-9 * length(u) * length(v)) {
                ds = cross(d, v) / det, dt = cross(d, u) / det;
            } else { // they touch: go to the nearest point by turns
                ds = dot(d, u) / std::max(dot(u, u), 1e-300);
                dt = -dot(d, v) / std::max(dot(v, v), 1e-300) * 0.5;
                ds *= 0.5;
            }
            s = std::clamp(s + std::clamp(ds, -0.1, 0.1), 0.0, 1.0);
            t = std::clamp(t + std::clamp(dt, -0.1, 0.1), 0.0, 1.0);
        }
        if (length(a.at(s) - b.at(t)) < kKernelPoint) add(out, a, b, s, t);
    }
}

} // namespace

std::vector<Meeting> meetings(const Curve2& a, const Curve2& b) {
    std::vector<Meeting> out;
    const bool lineA = a.kind == Curve2::Kind::Line, lineB = b.kind == Curve2::Kind::Line;
    if (lineA && lineB)
        lineLine(a, b, out);
    else if (lineA && b.isCircular())
        lineCircle(a, b, out, false);
    else if (lineB && a.isCircular())
        lineCircle(b, a, out, true);
    else if (a.isCircular() && b.isCircular())
        circleCircle(a, b, out);
    else
        general(a, b, out);
    return out;
}

} // namespace gc
