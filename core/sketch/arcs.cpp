#include "core/sketch/arcs.hpp"

#include "core/sketch/curve2.hpp"
#include "core/sketch/splines.hpp"

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

std::vector<int> drawSlot(Drawing& d, Vec2 a, Vec2 b, double r) {
    const Vec2 u = b - a;
    const double l = length(u);
    if (l < 1e-9 || r < 1e-9) return {};
    const Vec2 n = Vec2{-u.y, u.x} * (r / l);
    const int low = d.draw(StrokeKind::Line, {a - n, b - n}), high = d.draw(StrokeKind::Line, {b + n, a + n});
    const int right = d.draw(StrokeKind::Arc, {b - n, b + n, b}, {r}),
              left = d.draw(StrokeKind::Arc, {a + n, a - n, a}, {r});
    const int ring[] = {low, right, high, left};
    for (std::size_t i = 0; i < 4; ++i) {
        const Stroke &s = *d.findStroke(ring[i]), &t = *d.findStroke(ring[(i + 1) % 4]);
        const int p = s.points[1], q = t.points[0];
        d.relate(RelationKind::Coincident, {p, q});
        d.relate(RelationKind::Tangent, {ring[i], ring[(i + 1) % 4]});
    }
    d.relate(RelationKind::Equal, {right, left});
    return {d.findStroke(left)->points[2], d.findStroke(right)->points[2]};
}

int drawSpline(Drawing& d, const std::vector<Vec2>& nodes) {
    if (nodes.size() < 2) return 0;
    std::vector<Vec2> points;
    for (const Vec2 node : nodes) points.insert(points.end(), {node, node});
    relaxHandles(points, spansFor(nodes), {});
    return d.draw(StrokeKind::Spline, points);
}

} // namespace gc
