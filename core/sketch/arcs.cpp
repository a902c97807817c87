#include "core/sketch/arcs.hpp"

#include "core/sketch/curve2.hpp"

#include <cmath>

namespace gc {

namespace {

/// An arc about c from one place to another, to the left (counter-clockwise) or to the right.
int drawArc(Drawing& d, Vec2 c, Vec2 from, Vec2 to, bool left) {
    return d.draw(StrokeKind::Arc, {left ? from : to, left ? to : from, c}, {length(from - c)});
}

} // namespace

int drawArcThrough(Drawing& d, Vec2 from, Vec2 through, Vec2 to) {
    const Vec2 u = through - from, v = to - from;
    const double area = cross(u, v);
    if (std::fabs(area) < 1e-9 * (dot(u, u) + dot(v, v))) return 0;
    // The centre from the two perpendicular bisectors.
    const double uu = dot(u, u), vv = dot(v, v);
    const Vec2 c = from + Vec2{v.y * uu - u.y * vv, u.x * vv - v.x * uu} * (0.5 / area);
    return drawArc(d, c, from, to, area > 0);
}

int drawTangentArc(Drawing& d, int strokeId, int endPoint, Vec2 to) {
    const Stroke* s = d.findStroke(strokeId);
    if (!s) return 0;
    const auto curves = curvesOf(d, *s);
    if (curves.empty()) return 0;
    const Vec2 from = d.at(endPoint);
    const bool atEnd = length(curves.back().at(1) - from) <= length(curves.front().at(0) - from);
    Vec2 ahead = atEnd ? curves.back().slope(1) : curves.front().slope(0) * -1;
    ahead = ahead * (1 / length(ahead));
    const Vec2 n{-ahead.y, ahead.x}, v = to - from;
    const double side = dot(n, v);
    if (std::fabs(side) < 1e-6 * length(v)) return 0;
    const double r = dot(v, v) / (2 * side); // signed: the centre lies to the left for positive ones
    return drawArc(d, from + n * r, from, to, side > 0);
}

} // namespace gc
