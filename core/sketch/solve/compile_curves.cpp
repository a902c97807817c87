#include "core/sketch/solve/compiler.hpp"

#include "core/sketch/curve2.hpp"
#include "core/sketch/splines.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace gc {

Vec2 Compiler::splineAt(const Stroke& s, double t, int k) const {
    Vec2 sum;
    if (s.kind == StrokeKind::Poles) {
        const PoleWeights w = poleWeights(static_cast<int>(s.points.size()), t, k);
        for (std::size_t i = 0; i < 4; ++i)
            sum = sum + m_d.at(s.points[static_cast<std::size_t>(w.first) + i]) * w.weights[i];
        return sum;
    }
    const PieceWeights w = splineWeights(s.sizes, t, k);
    for (std::size_t i = 0; i < 4; ++i)
        sum = sum + m_d.at(s.points[static_cast<std::size_t>(2 * w.piece) + i]) * w.weights[i];
    return sum;
}

double Compiler::bestParameter(const Stroke& s, const std::function<double(Vec2, Vec2)>& miss) const {
    const double all = s.kind == StrokeKind::Poles ? static_cast<double>(s.points.size() - 3)
                                                   : std::accumulate(s.sizes.begin(), s.sizes.end(), 0.0);
    const int steps = 16 * static_cast<int>(s.points.size());
    double best = 0, least = 1e300;
    for (int i = 0; i <= steps; ++i) {
        const double t = all * i / steps, m = miss(splineAt(s, t, 0), splineAt(s, t, 1));
        if (m < least) least = m, best = t;
    }
    // Golden section down to where it lies exactly: else a drawing at rest would creep when it is settled.
    const double kGolden = 0.5 * (std::sqrt(5.0) - 1);
    double low = std::max(0.0, best - all / steps), high = std::min(all, best + all / steps);
    const auto at = [&](double t) { return miss(splineAt(s, t, 0), splineAt(s, t, 1)); };
    double a = high - kGolden * (high - low), b = low + kGolden * (high - low), ma = at(a), mb = at(b);
    while (high - low > 1e-13 * all) {
        if (ma < mb) {
            high = b, b = a, mb = ma;
            a = high - kGolden * (high - low), ma = at(a);
        } else {
            low = a, a = b, ma = mb;
            b = low + kGolden * (high - low), mb = at(b);
        }
        if (a >= b) break;
    }
    return 0.5 * (low + high);
}

void Compiler::onStroke(int point, const Stroke& s) {
    switch (s.kind) {
    case StrokeKind::Arc:
    case StrokeKind::Circle:
        m_heldOn.emplace(s.id, point);
        return onRound(point, s);
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
        return onEllipse(point, s);
    case StrokeKind::Conic:
        add(EquationKind::OnConic,
            with(xy({point, pt(s.points[0]), pt(s.points[1]), pt(s.points[2])}), {size(s.id)}));
        return;
    case StrokeKind::Point:
        return samePoint(point, pt(s.points[0]));
    case StrokeKind::Beside:
        return onFollower(point, s);
    default:
        break;
    }
    const int t = parameter(bestParameter(s, [&](Vec2 c, Vec2) { return length(c - place(point)); }));
    const auto kind = s.kind == StrokeKind::Poles ? EquationKind::OnPoles : EquationKind::OnSpline;
    for (const double sense : {1.0, -1.0}) {
        std::vector<int> at = with(xy({point}), {t});
        const auto more = splinePoints(s);
        at.insert(at.end(), more.begin(), more.end());
        constants(add(kind, at, 0, sense), s.sizes);
    }
}

/// Which ends of two strokes are tied together; false when none are.
bool Compiler::sharedEnds(const Stroke& a, const Stroke& b, int& endOfA, int& endOfB) {
    const auto ea = endPoints(a), eb = endPoints(b);
    for (std::size_t i = 0; i < ea.size(); ++i)
        for (std::size_t j = 0; j < eb.size(); ++j) {
            const int p = pt(ea[i]), q = pt(eb[j]);
            if (p == q || (m_equalities->same(p, q) && m_equalities->same(p + 1, q + 1))) {
                endOfA = static_cast<int>(i);
                endOfB = static_cast<int>(j);
                return true;
            }
        }
    return false;
}

/// The direction into a stroke at one of its ends.
EndDirection Compiler::directionAt(const Stroke& s, int end) const {
    const auto p = [&](std::size_t i) { return pt(s.points[i]); };
    switch (s.kind) {
    case StrokeKind::Line:
        return end == 0 ? EndDirection{p(0), p(1)} : EndDirection{p(1), p(0)};
    case StrokeKind::Arc:
        return {p(2), end == 0 ? p(0) : p(1), true};
    case StrokeKind::Conic:
        return {end == 0 ? p(0) : p(1), p(2)};
    case StrokeKind::Spline: {
        const std::size_t n = s.points.size();
        return end == 0 ? EndDirection{p(0), p(1)} : EndDirection{p(n - 1), p(n - 2)};
    }
    case StrokeKind::Poles: {
        const std::size_t n = s.points.size();
        return end == 0 ? EndDirection{p(0), p(1)} : EndDirection{p(n - 1), p(n - 2)};
    }
    case StrokeKind::Beside: {
        const auto known = m_footAndWay.find(s.id);
        if (known == m_footAndWay.end()) return {0, 0, false, false};
        const auto [foot, way] = known->second[static_cast<std::size_t>(end)];
        return end == 0 ? EndDirection{foot, way} : EndDirection{way, foot};
    }
    default:
        return {0, 0, false, false};
    }
}

bool Compiler::tangentAtEnds(const Stroke& a, const Stroke& b) {
    int i = 0, j = 0;
    if (!sharedEnds(a, b, i, j)) return false;
    const auto isPart = [](const Stroke& s) { return s.kind == StrokeKind::EllipseArc; };
    const auto oval = [&](const Stroke& s, int end) {
        return with(xy({pt(endPoints(s)[static_cast<std::size_t>(end)]), pt(s.points[0]), pt(s.points[1])}),
                    {size(s.id)});
    };
    const auto reach = [&](const Stroke& s) { return m_s.start[static_cast<std::size_t>(size(s.id))]; };
    if (isPart(a) && isPart(b)) {
        std::vector<int> all = oval(a, i);
        const auto more = oval(b, j);
        all.insert(all.end(), more.begin(), more.end());
        add(EquationKind::EllipseEnds, all, 0, 1, reach(a));
        return true;
    }
    if (isPart(a) || isPart(b)) {
        const Stroke &part = isPart(a) ? a : b, &other = isPart(a) ? b : a;
        const EndDirection w = directionAt(other, isPart(a) ? j : i);
        if (!w.known) return false;
        std::vector<int> all = oval(part, isPart(a) ? i : j);
        const auto more = xy({w.from, w.to});
        all.insert(all.end(), more.begin(), more.end());
        add(EquationKind::EllipseEnd, all, 0, w.turned ? -1 : 1, reach(part));
        return true;
    }
    const EndDirection u = directionAt(a, i), v = directionAt(b, j);
    if (!u.known || !v.known) return false;
    add(u.turned == v.turned ? EquationKind::Parallel : EquationKind::Perpendicular,
        xy({u.from, u.to, v.from, v.to}), 0, 1, scaleOf({u.from, u.to}, {v.from, v.to}));
    return true;
}

/// A line that ends on the round stroke touches it there. Written as a distance this would be a double root:
/// the radius there is square to the line instead.
bool Compiler::tangentWhereHeld(Ends l, const Stroke& round) {
    const auto [begin, end] = m_heldOn.equal_range(round.id);
    for (auto it = begin; it != end; ++it)
        for (const int e : {l.from, l.to}) {
            const int p = it->second, c = pt(centrePoint(round));
            if (p != e && !(m_equalities->same(p, e) && m_equalities->same(p + 1, e + 1))) continue;
            add(EquationKind::Perpendicular, xy({l.from, l.to, c, p}), 0, 1, scaleOf(l, {c, p}));
            return true;
        }
    return false;
}

void Compiler::tangentToSpline(const Stroke& spline, int other) {
    const bool poles = spline.kind == StrokeKind::Poles;
    const auto more = splinePoints(spline);
    const auto emitPair = [&](std::vector<int> at, EquationKind touch, EquationKind along, double scale) {
        at.insert(at.end(), more.begin(), more.end());
        constants(add(touch, at), spline.sizes);
        constants(add(along, at, 0, 1, scale), spline.sizes);
    };
    if (isLine(m_d, other)) {
        const Ends l = line(other);
        const Vec2 a = place(l.from), u = place(l.to) - a;
        const double reach = std::max(length(u), 1e-9);
        const int t = parameter(bestParameter(spline, [&](Vec2 c, Vec2 d) {
            return std::fabs(cross(u, c - a)) / reach +
                   reach * std::fabs(cross(u, d)) / (reach * std::max(length(d), 1e-9));
        }));
        emitPair(with(xy({l.from, l.to}), {t}), poles ? EquationKind::PolesLine : EquationKind::SplineLine,
                 poles ? EquationKind::PolesAlongLine : EquationKind::SplineAlongLine, reach);
        return;
    }
    const Stroke& round = *m_d.findStroke(other);
    const int c = pt(centrePoint(round)), radius = size(other);
    const double r0 = m_s.start[static_cast<std::size_t>(radius)];
    const int t =
        parameter(bestParameter(spline, [&](Vec2 p, Vec2) { return std::fabs(length(p - place(c)) - r0); }));
    emitPair(with(xy({c}), {radius, t}), poles ? EquationKind::PolesCircle : EquationKind::SplineCircle,
             poles ? EquationKind::PolesAcrossCircle : EquationKind::SplineAcrossCircle, r0);
}

void Compiler::tangent(const Relation& r) {
    const Stroke *a = m_d.findStroke(r.of[0]), *b = m_d.findStroke(r.of[1]);
    if (a && b && tangentAtEnds(*a, *b)) return;
    const auto isSpline = [](const Stroke* s) {
        return s && (s->kind == StrokeKind::Spline || s->kind == StrokeKind::Poles);
    };
    // Between two curves a tangent needs a shared end; one that was taken apart since says nothing.
    const auto simple = [this](int id) { return isLine(m_d, id) || isRound(m_d, id); };
    if (isSpline(a)) return simple(r.of[1]) ? tangentToSpline(*a, r.of[1]) : void();
    if (isSpline(b)) return simple(r.of[0]) ? tangentToSpline(*b, r.of[0]) : void();
    const bool firstLine = isLine(m_d, r.of[0]);
    if (firstLine || isLine(m_d, r.of[1])) {
        const Ends l = line(r.of[firstLine ? 0 : 1]);
        const Stroke* curve = firstLine ? b : a;
        if (!curve) return; // an axis
        const Stroke& s = *curve;
        if (isRound(m_d, s.id) && tangentWhereHeld(l, s)) return;
        if (isRound(m_d, s.id))
            add(EquationKind::TangentLineCircle, with(xy({l.from, l.to, pt(centrePoint(s))}), {size(s.id)}),
                0, r.sense);
        else if (s.kind == StrokeKind::Ellipse || s.kind == StrokeKind::EllipseArc)
            add(EquationKind::TangentLineEllipse,
                with(xy({l.from, l.to, pt(s.points[0]), pt(s.points[1])}), {size(s.id)}), 0, r.sense);
        return;
    }
    if (a && b && isRound(m_d, a->id) && isRound(m_d, b->id)) {
        const int p = pt(centrePoint(*a)), q = pt(centrePoint(*b));
        add(EquationKind::TangentCircles, {p, p + 1, size(a->id), q, q + 1, size(b->id)}, 0, r.sense);
    }
}

std::vector<int> Compiler::curvatureEnd(const Stroke& s, int end, CurvatureEnd& kind, double& factor) {
    const auto p = [&](std::size_t i) { return pt(s.points[i]); };
    const std::size_t n = s.points.size();
    switch (s.kind) {
    case StrokeKind::Arc:
        kind = CurvatureEnd::Round;
        factor = end == 0 ? 1 : -1; // arcs run counter-clockwise: they curve left from their start
        return {size(s.id)};
    case StrokeKind::Conic:
        kind = CurvatureEnd::Conic;
        return end == 0 ? with(xy({p(0), p(2), p(1)}), {size(s.id)})
                        : with(xy({p(1), p(2), p(0)}), {size(s.id)});
    case StrokeKind::Poles:
        kind = CurvatureEnd::Poles;
        factor = n == 4 ? 2.0 / 3 : 1.0 / 3;
        return end == 0 ? xy({p(0), p(1), p(2)}) : xy({p(n - 1), p(n - 2), p(n - 3)});
    case StrokeKind::Spline: {
        kind = CurvatureEnd::Spline;
        const int nodes = static_cast<int>(n / 2);
        if (end == 0) {
            factor = s.sizes.front() / meanSpan(s.sizes, 1);
            return xy({p(0), p(1), p(2), p(3)});
        }
        factor = -s.sizes.back() / meanSpan(s.sizes, nodes - 2);
        return xy({p(n - 2), p(n - 1), p(n - 4), p(n - 3)});
    }
    default:
        kind = CurvatureEnd::Straight;
        return {};
    }
}

void Compiler::smooth(const Relation& r) {
    const Stroke *first = m_d.findStroke(r.of[0]), *second = m_d.findStroke(r.of[1]);
    int i = 0, j = 0;
    if (!first || !second || !tangentAtEnds(*first, *second) || !sharedEnds(*first, *second, i, j)) return;
    const Stroke &a = *first, &b = *second;
    CurvatureEnd kinds[2] = {CurvatureEnd::Straight, CurvatureEnd::Straight};
    double factors[2] = {1, 1};
    std::vector<int> at = curvatureEnd(a, i, kinds[0], factors[0]);
    const auto more = curvatureEnd(b, j, kinds[1], factors[1]);
    at.insert(at.end(), more.begin(), more.end());
    const EndDirection u = directionAt(a, i), v = directionAt(b, j);
    Equation& e = add(EquationKind::SameCurvature, at, 0, 1, scaleOf({u.from, u.to}, {v.from, v.to}));
    for (int k = 0; k < 2; ++k) e.ends[k] = kinds[k], e.endFactors[k] = factors[k];
}

void Compiler::symmetric(const Relation& r) {
    const Ends axis = line(r.of[2]);
    const auto pair = [&](int p, int q) {
        add(EquationKind::SymmetricMiddle, xy({p, q, axis.from, axis.to}));
        add(EquationKind::SymmetricAcross, xy({p, q, axis.from, axis.to}));
    };
    if (isPoint(m_d, r.of[0])) return pair(pt(r.of[0]), pt(r.of[1]));
    const Stroke &a = *m_d.findStroke(r.of[0]), &b = *m_d.findStroke(r.of[1]);
    if (a.kind == StrokeKind::Arc) {
        // Mirrored, a counter-clockwise arc runs from its end to its start. Centres and one end each decide
        // the radius; the other ends need one equation only, that across which the arc runs there.
        pair(pt(a.points[2]), pt(b.points[2]));
        pair(pt(a.points[0]), pt(b.points[1]));
        const Vec2 u = place(axis.to) - place(axis.from);
        const Vec2 radius = place(pt(a.points[1])) - place(pt(a.points[2]));
        const bool tangentAcross = std::fabs(dot(u, radius)) > 0.7 * length(u) * length(radius);
        add(tangentAcross ? EquationKind::SymmetricMiddle : EquationKind::SymmetricAcross,
            xy({pt(a.points[1]), pt(b.points[0]), axis.from, axis.to}));
        return;
    }
    if (a.kind == StrokeKind::EllipseArc) {
        // The same: the ends change places, and each lies on its ellipse already.
        for (const std::size_t i : {0u, 1u}) pair(pt(a.points[i]), pt(b.points[i]));
        differ(size(a.id), size(b.id));
        const Vec2 u = place(axis.to) - place(axis.from);
        const Curve2 curve = curvesOf(m_d, a).front();
        for (const std::size_t i : {2u, 3u}) {
            const Vec2 t = curve.slope(i == 2 ? 0 : 1);
            const bool across = std::fabs(cross(u, t)) > std::fabs(dot(u, t));
            add(across ? EquationKind::SymmetricMiddle : EquationKind::SymmetricAcross,
                xy({pt(a.points[i]), pt(b.points[5 - i]), axis.from, axis.to}));
        }
        return;
    }
    if (a.kind == StrokeKind::Ellipse || a.kind == StrokeKind::Circle) {
        for (std::size_t i = 0; i < a.points.size(); ++i) pair(pt(a.points[i]), pt(b.points[i]));
        differ(size(a.id), size(b.id));
        return;
    }
    for (std::size_t i = 0; i < a.points.size(); ++i) {
        const bool handle = a.kind == StrokeKind::Spline && i % 2 == 1;
        const std::size_t node = i / 2;
        if (handle && (node >= a.held.size() || !a.held[node])) continue; // it follows from the nodes
        pair(pt(a.points[i]), pt(b.points[i]));
    }
    if (a.kind == StrokeKind::Conic) differ(size(a.id), size(b.id));
}

} // namespace gc
