// Strokes that follow others as equations. For each end there are, besides the end itself: a parameter t of
// the source, the foot f on the source there, and the way w: f and the derivative at t. Then the end is
// beside f, square to the way. At no distance the end is the foot itself.

#include "core/sketch/beside.hpp"
#include "core/sketch/solve/compiler.hpp"
#include "core/sketch/stroke_run.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace gc {

namespace {

using E = EquationKind;

/// Where the parameter of a source runs.
std::pair<double, double> domainOf(const Drawing& d, const Stroke& s) {
    switch (s.kind) {
    case StrokeKind::Poles:
        return {0, static_cast<double>(s.points.size() - 3)};
    case StrokeKind::Conic:
        return {0, 1};
    case StrokeKind::Ellipse:
        return {0, 2 * std::numbers::pi};
    case StrokeKind::EllipseArc: {
        const Curve2 c = curvesOf(d, s).front();
        return {c.from, c.from + c.turn};
    }
    case StrokeKind::Fair:
        return {0, static_cast<double>(curvesOf(d, s).size())};
    default:
        return {0, std::accumulate(s.sizes.begin(), s.sizes.end(), 0.0)};
    }
}

/// What the equations call the parameter of a source, from a place along its curves: see besideNearest.
double parameterOf(const Drawing& d, const Stroke& s, double u) {
    const auto [low, high] = domainOf(d, s);
    if (s.kind == StrokeKind::Ellipse) return low + (high - low) * u / 4;
    if (s.kind == StrokeKind::EllipseArc) return low + (high - low) * u;
    if (s.kind != StrokeKind::Spline) return u;
    const double whole = std::clamp(std::floor(u), 0.0, static_cast<double>(s.sizes.size()) - 1);
    const auto piece = static_cast<std::ptrdiff_t>(whole);
    return std::accumulate(s.sizes.begin(), s.sizes.begin() + piece, 0.0) +
           (u - whole) * s.sizes[static_cast<std::size_t>(piece)];
}

/// A source's place and derivative by the parameter that the equations use.
std::pair<Vec2, Vec2> sourceAt(const Drawing& d, const Stroke& s, double t) {
    const std::vector<Curve2> curves = curvesOf(d, s);
    double share = 1, u = t;
    std::size_t piece = 0;
    switch (s.kind) {
    case StrokeKind::Conic:
        break;
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
        share = curves[0].turn;
        u = (t - curves[0].from) / share;
        break;
    case StrokeKind::Spline:
        while (piece + 1 < curves.size() && u > s.sizes[piece]) u -= s.sizes[piece++];
        share = s.sizes[piece];
        u /= share;
        break;
    default:
        piece =
            static_cast<std::size_t>(std::clamp(std::floor(t), 0.0, static_cast<double>(curves.size()) - 1));
        u = t - static_cast<double>(piece);
    }
    return {curves[piece].at(u), curves[piece].slope(u) * (1 / share)};
}

} // namespace

/// How a source is written: its equations, unknowns and constants.
Compiler::Source Compiler::sourceWritten(const Stroke& s) const {
    switch (s.kind) {
    case StrokeKind::Conic:
        return {E::AtConic,
                E::SlopeOfConic,
                with(xy({pt(s.points[0]), pt(s.points[1]), pt(s.points[2])}), {size(s.id)}),
                {}};
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
        return {
            E::AtEllipse, E::SlopeOfEllipse, with(xy({pt(s.points[0]), pt(s.points[1])}), {size(s.id)}), {}};
    case StrokeKind::Fair:
        return {E::AtRow, E::SlopeOfRow, {}, rowOf(s)};
    case StrokeKind::Poles:
        return {E::OnPoles, E::SlopeOfPoles, splinePoints(s), {}};
    default:
        return {E::OnSpline, E::SlopeOfSpline, splinePoints(s), s.sizes};
    }
}

/// A fair curve as it lies: it is fitted anew between solves.
std::vector<double> Compiler::rowOf(const Stroke& fair) const {
    std::vector<double> k;
    for (const Curve2& c : curvesOf(m_d, fair))
        for (const Vec2 p : c.p) k.insert(k.end(), {p.x, p.y});
    return k;
}

/// New coordinates for a point that the drawing does not have.
int Compiler::auxiliary(Vec2 at) {
    m_s.start.insert(m_s.start.end(), {at.x, at.y});
    return static_cast<int>(m_s.start.size()) - 2;
}

/// Ties a point to where a follower runs at a parameter. \return foot and way there, as x coordinates
std::pair<int, int> Compiler::besideSource(const Stroke& follower, const Stroke& source, int point, int t) {
    const bool along = follower.sizes[0] == 0;
    const auto [at, slope] = sourceAt(m_d, source, m_s.start[static_cast<std::size_t>(t)]);
    const int foot = along ? point : auxiliary(at), way = auxiliary(at + slope);
    const Source s = sourceWritten(source);
    for (const double sense : {1.0, -1.0}) { // x and y
        for (const auto& [kind, points] : {std::pair{s.at, xy({foot})}, {s.slope, xy({foot, way})}}) {
            std::vector<int> unknowns = with(points, {t});
            unknowns.insert(unknowns.end(), s.unknowns.begin(), s.unknowns.end());
            constants(add(kind, unknowns, 0, sense), s.constants);
        }
        if (!along)
            add(E::Beside, with(xy({point, foot, way}), {size(follower.id)}), 0, sense,
                follower.right ? -1 : 1);
    }
    return {foot, way};
}

void Compiler::followerItself(const Stroke& s) {
    const Stroke* source = sourceOf(m_d, s);
    if (!source || !canBeFollowed(*source)) return; // a drawing of a few strokes alone
    const auto [low, high] = domainOf(m_d, *source);
    auto& ends = m_footAndWay[s.id];
    for (std::size_t end = 0; end < s.points.size(); ++end) {
        const bool whole = s.points.size() == 1, fixed = whole || endHeld(s, end);
        const double at =
            fixed
                ? (end == 0 ? low : high)
                : parameterOf(m_d, *source, besideNearest(m_d, *source, besideBy(s), m_d.at(s.points[end])));
        const int t = parameter(at), p = pt(s.points[end]);
        if (fixed && source->kind == StrokeKind::EllipseArc) {
            // Its own ends move along it: what is held is the foot on them.
            const auto feet = besideSource(s, *source, p, t);
            const int own = pt(endPoints(*source)[end]);
            // One of the two is known from the other, for both lie on the ellipse.
            const Vec2 way = sourceAt(m_d, *source, at).second;
            const int axis = std::fabs(way.x) > std::fabs(way.y) ? 0 : 1;
            differ(feet.first + axis, own + axis);
            ends.push_back(feet);
            continue;
        }
        if (fixed) fix(t, at);
        ends.push_back(besideSource(s, *source, p, t));
    }
}

/// A point anywhere on a follower.
void Compiler::onFollower(int point, const Stroke& s) {
    const Stroke* source = sourceOf(m_d, s);
    if (!source || !canBeFollowed(*source)) return;
    const double u = besideNearest(m_d, *source, besideBy(s), place(point));
    besideSource(s, *source, point, parameter(parameterOf(m_d, *source, u)));
}

/// Along the stroke as it lies: where that moves, it is carried anew between solves.
void Compiler::carried(const Relation& r) {
    const StrokeRun run(m_d, *m_d.findStroke(r.of[2]));
    if (run.empty() || r.where.empty()) return;
    const double whole = run.length(), from = run.atLength(r.where[0].x * whole),
                 to = run.atLength(r.where[0].y * whole);
    const Vec2 was = unit(run.slope(from)), now = unit(run.slope(to));
    const double c = r.turned ? dot(was, now) : 1, s = r.turned ? cross(was, now) : 0;
    const Vec2 a = run.at(from), b = run.at(to);
    const int p = pt(r.of[0]), q = pt(r.of[1]);
    m_s.copies.insert(m_s.copies.end(), {q, q + 1}); // copies go after their original, not it after them
    constants(add(E::Linear, {q, p, p + 1}, b.x - (c * a.x - s * a.y)), {1, -c, s});
    constants(add(E::Linear, {q + 1, p, p + 1}, b.y - (s * a.x + c * a.y)), {1, -s, -c});
}

/// The distance between a follower and what it follows, or another that follows the same.
void Compiler::distanceBeside(const Relation& r, double wanted) {
    const Stroke &a = *m_d.findStroke(r.of[0]), &b = *m_d.findStroke(r.of[1]);
    std::vector<int> sizes;
    std::vector<double> weights;
    for (const auto& [s, sign] : {std::pair{&a, 1.0}, {&b, -1.0}}) {
        if (s->kind != StrokeKind::Beside || s->sizes[0] == 0) continue;
        sizes.push_back(size(s->id));
        weights.push_back(sign * (s->right ? -1 : 1));
    }
    if (sizes.empty()) return;
    const double value = r.sense * wanted;
    if (sizes.size() == 1) return fix(sizes[0], weights[0] * value);
    if (weights[0] == -weights[1]) return differ(sizes[0], sizes[1], weights[0] * value);
    constants(add(E::Linear, sizes, value), weights);
}

} // namespace gc
