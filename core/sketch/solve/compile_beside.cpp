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

/// The source's place and derivative (k 1) by the parameter that the equations use.
class SourceAt {
  public:
    SourceAt(const Drawing& d, const Stroke& s) : m_stroke(s), m_curves(curvesOf(d, s)) {}
    std::pair<Vec2, Vec2> operator()(double t) const {
        double share = 1, u = t;
        std::size_t piece = 0;
        switch (m_stroke.kind) {
        case StrokeKind::Conic:
            break;
        case StrokeKind::Ellipse:
        case StrokeKind::EllipseArc:
            share = m_curves[0].turn;
            u = (t - m_curves[0].from) / share;
            break;
        case StrokeKind::Spline:
            while (piece + 1 < m_curves.size() && u > m_stroke.sizes[piece]) u -= m_stroke.sizes[piece++];
            share = m_stroke.sizes[piece];
            u /= share;
            break;
        default:
            piece = static_cast<std::size_t>(
                std::clamp(std::floor(t), 0.0, static_cast<double>(m_curves.size()) - 1));
            u = t - static_cast<double>(piece);
        }
        return {m_curves[piece].at(u), m_curves[piece].slope(u) * (1 / share)};
    }
    const std::vector<Curve2>& curves() const { return m_curves; }

  private:
    const Stroke& m_stroke;
    std::vector<Curve2> m_curves;
};

} // namespace

/// The parameter at which a follower of that distance comes nearest to a place.
double Compiler::besideParameter(const Stroke& source, double distance, Vec2 place) const {
    const SourceAt at(m_d, source);
    const auto [low, high] = domainOf(m_d, source);
    const auto miss = [&](double t) {
        const auto [c, d] = at(t);
        const Vec2 u = unit(d);
        return length(c + Vec2{-u.y, u.x} * distance - place);
    };
    const int steps = 32 * static_cast<int>(std::max<std::size_t>(at.curves().size(), 2));
    double best = low, least = 1e300;
    for (int i = 0; i <= steps; ++i) {
        const double t = low + (high - low) * i / steps, m = miss(t);
        if (m < least) least = m, best = t;
    }
    const double kGolden = 0.5 * (std::sqrt(5.0) - 1), reach = (high - low) / steps;
    double a = best - reach, b = best + reach;
    if (source.kind != StrokeKind::Ellipse) a = std::max(a, low), b = std::min(b, high);
    double p = b - kGolden * (b - a), q = a + kGolden * (b - a), mp = miss(p), mq = miss(q);
    while (b - a > 1e-13 * std::max(1.0, high - low) && p < q) {
        if (mp < mq) {
            b = q, q = p, mq = mp;
            p = b - kGolden * (b - a), mp = miss(p);
        } else {
            a = p, p = q, mp = mq;
            q = a + kGolden * (b - a), mq = miss(q);
        }
    }
    return 0.5 * (a + b);
}

/// Two equations: a point is at a parameter of a source.
void Compiler::atSource(const Stroke& source, int point, int t, bool oneIsEnough) {
    const auto emitPair = [&](E kind, std::vector<int> coordinates, const std::vector<double>& k) {
        // On the curve already, one coordinate says where: the one that changes faster there.
        double only = 0;
        if (oneIsEnough) {
            const Vec2 way = SourceAt(m_d, source)(m_s.start[static_cast<std::size_t>(t)]).second;
            only = std::fabs(way.x) > std::fabs(way.y) ? 1 : -1;
        }
        for (const double sense : {1.0, -1.0})
            if (only == 0 || only == sense) constants(add(kind, coordinates, 0, sense), k);
    };
    std::vector<int> at = with(xy({point}), {t});
    const auto append = [&](const std::vector<int>& more) { at.insert(at.end(), more.begin(), more.end()); };
    switch (source.kind) {
    case StrokeKind::Conic:
        append(
            with(xy({pt(source.points[0]), pt(source.points[1]), pt(source.points[2])}), {size(source.id)}));
        return emitPair(E::AtConic, at, {});
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
        append(with(xy({pt(source.points[0]), pt(source.points[1])}), {size(source.id)}));
        return emitPair(E::AtEllipse, at, {});
    case StrokeKind::Fair:
        return emitPair(E::AtRow, at, rowOf(source));
    default:
        append(splinePoints(source));
        return emitPair(source.kind == StrokeKind::Poles ? E::OnPoles : E::OnSpline, at, source.sizes);
    }
}

/// Two equations: from a foot to another point is the source's derivative.
void Compiler::slopeOfSource(const Stroke& source, int foot, int way, int t) {
    std::vector<int> at = with(xy({foot, way}), {t});
    const auto append = [&](const std::vector<int>& more) { at.insert(at.end(), more.begin(), more.end()); };
    E kind = E::SlopeOfSpline;
    std::vector<double> k;
    switch (source.kind) {
    case StrokeKind::Conic:
        append(
            with(xy({pt(source.points[0]), pt(source.points[1]), pt(source.points[2])}), {size(source.id)}));
        kind = E::SlopeOfConic;
        break;
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
        append(with(xy({pt(source.points[0]), pt(source.points[1])}), {size(source.id)}));
        kind = E::SlopeOfEllipse;
        break;
    case StrokeKind::Fair:
        kind = E::SlopeOfRow;
        k = rowOf(source);
        break;
    default:
        append(splinePoints(source));
        if (source.kind == StrokeKind::Poles) kind = E::SlopeOfPoles;
        k = source.sizes;
    }
    for (const double sense : {1.0, -1.0}) constants(add(kind, at, 0, sense), k);
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
std::pair<int, int> Compiler::besideSource(const Stroke& follower, const Stroke& source, int point, int t,
                                           bool oneIsEnough) {
    const bool along = follower.sizes[0] == 0;
    const auto [at, slope] = SourceAt(m_d, source)(m_s.start[static_cast<std::size_t>(t)]);
    const int foot = along ? point : auxiliary(at), way = auxiliary(at + slope);
    atSource(source, foot, t, oneIsEnough && along);
    slopeOfSource(source, foot, way, t);
    if (!along)
        for (const double sense : {1.0, -1.0})
            add(E::Beside, with(xy({point, foot, way}), {size(follower.id)}), 0, sense,
                follower.right ? -1 : 1);
    return {foot, way};
}

void Compiler::followerItself(const Stroke& s) {
    const Stroke* source = sourceOf(m_d, s);
    if (!source || !canBeFollowed(*source)) return; // a drawing of a few strokes alone
    const auto [low, high] = domainOf(m_d, *source);
    const auto held = [&](std::size_t end) { return end < s.held.size() && s.held[end]; };
    auto& ends = m_footAndWay[s.id];
    for (std::size_t end = 0; end < s.points.size(); ++end) {
        const bool whole = s.points.size() == 1, fixed = whole || held(end);
        const double at =
            fixed ? (end == 0 ? low : high) : besideParameter(*source, besideBy(s), m_d.at(s.points[end]));
        const int t = parameter(at), p = pt(s.points[end]);
        if (fixed && source->kind == StrokeKind::EllipseArc) {
            // Its own ends move along it: what is held is the foot on them.
            const auto feet = besideSource(s, *source, p, t, false);
            const int own = pt(endPoints(*source)[end]);
            // One of the two is known from the other, for both lie on the ellipse.
            const Vec2 way = SourceAt(m_d, *source)(at).second;
            const int axis = std::fabs(way.x) > std::fabs(way.y) ? 0 : 1;
            differ(feet.first + axis, own + axis);
            ends.push_back(feet);
            continue;
        }
        if (fixed) fix(t, at);
        ends.push_back(besideSource(s, *source, p, t, false));
    }
}

/// A point anywhere on a follower.
void Compiler::onFollower(int point, const Stroke& s) {
    const Stroke* source = sourceOf(m_d, s);
    if (!source || !canBeFollowed(*source)) return;
    besideSource(s, *source, point, parameter(besideParameter(*source, besideBy(s), place(point))), false);
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
