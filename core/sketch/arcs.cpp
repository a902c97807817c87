#include "core/sketch/arcs.hpp"

#include "core/sketch/curve2.hpp"
#include "core/sketch/splines.hpp"

#include <cmath>
#include <numbers>

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

int drawCircleThrough(Drawing& d, Vec2 a, Vec2 b, Vec2 c) {
    Drawing scratch;
    const int arc = drawArcThrough(scratch, a, b, c);
    if (!arc) return 0;
    const Stroke& s = *scratch.findStroke(arc);
    return d.draw(StrokeKind::Circle, {scratch.at(s.points[2])}, s.sizes);
}

int drawArcAbout(Drawing& d, Vec2 centre, Vec2 from, Vec2 toward) {
    const double r = length(from - centre);
    if (r < 1e-9 || length(toward - centre) < 1e-9) return 0;
    const Vec2 to = centre + unit(toward - centre) * r;
    if (length(to - from) < 1e-6 * r) return 0;
    return drawArc(d, centre, from, to, cross(from - centre, to - centre) > 0);
}

std::vector<int> drawRectangle(Drawing& d, Vec2 a, Vec2 b) {
    if (std::fabs(a.x - b.x) < 1e-6 || std::fabs(a.y - b.y) < 1e-6) return {};
    const Vec2 at[] = {a, {b.x, a.y}, b, {a.x, b.y}};
    std::vector<int> lines;
    for (std::size_t i = 0; i < 4; ++i) lines.push_back(d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]}));
    for (std::size_t i = 0; i < 4; ++i) {
        d.relate(RelationKind::Coincident,
                 {d.findStroke(lines[i])->points[1], d.findStroke(lines[(i + 1) % 4])->points[0]});
        d.relate(i % 2 ? RelationKind::Vertical : RelationKind::Horizontal, {lines[i]});
    }
    return lines;
}

std::vector<int> drawCentredRectangle(Drawing& d, Vec2 centre, Vec2 corner) {
    std::vector<int> out = drawRectangle(d, centre * 2 - corner, corner);
    if (out.empty()) return out;
    const int low = d.findStroke(out[0])->points[0], high = d.findStroke(out[2])->points[0];
    const int diagonal = d.draw(StrokeKind::Line, {d.at(low), d.at(high)});
    const int middle = d.draw(StrokeKind::Point, {centre});
    d.findStroke(diagonal)->helper = true;
    d.relate(RelationKind::Coincident, {d.findStroke(diagonal)->points[0], low});
    d.relate(RelationKind::Coincident, {d.findStroke(diagonal)->points[1], high});
    d.relate(RelationKind::Midpoint, {d.findStroke(middle)->points[0], diagonal});
    out.push_back(middle);
    return out;
}

std::vector<int> drawPolygon(Drawing& d, Vec2 centre, Vec2 corner, int sides) {
    const double r = length(corner - centre);
    if (sides < 3 || r < 1e-9) return {};
    const Vec2 u = corner - centre;
    const auto at = [&](int i) { return centre + turnedBy(u, 2 * std::numbers::pi * i / sides); };
    std::vector<int> out;
    for (int i = 0; i < sides; ++i) out.push_back(d.draw(StrokeKind::Line, {at(i), at((i + 1) % sides)}));
    const int round = d.draw(StrokeKind::Circle, {centre}, {r});
    d.findStroke(round)->helper = true;
    const auto n = static_cast<std::size_t>(sides);
    for (std::size_t i = 0; i < n; ++i) {
        const int begin = d.findStroke(out[i])->points[0];
        d.relate(RelationKind::Coincident, {d.findStroke(out[(i + n - 1) % n])->points[1], begin});
        d.relate(RelationKind::OnStroke, {begin, round});
        if (i > 0) d.relate(RelationKind::Equal, {out[0], out[i]});
    }
    out.push_back(round);
    return out;
}

int drawPoles(Drawing& d, const std::vector<Vec2>& poles) {
    return poles.size() < 4 ? 0 : d.draw(StrokeKind::Poles, poles);
}

} // namespace gc
