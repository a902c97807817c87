#include "core/sketch/solve/system.hpp"

#include "core/sketch/solve/reduce.hpp"
#include "core/sketch/splines.hpp"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>
#include <numeric>

namespace gc {

double System::residual(const Equation& e, std::span<const double> z, double* gradient) const {
    double few[24];
    std::vector<double> many;
    double* x = few;
    if (e.count > 24) {
        many.resize(static_cast<std::size_t>(e.count));
        x = many.data();
    }
    for (int j = 0; j < e.count; ++j) x[j] = coordinate(z, operands[static_cast<std::size_t>(e.first + j)]);
    return evaluate(e, constants.data() + e.extra, x, gradient);
}

void System::write(std::span<const double> z, Drawing& drawing) const {
    for (DrawnPoint& p : drawing.points) p.at = point(z, p.id);
    for (Stroke& s : drawing.strokes)
        if (const auto it = sizeAt.find(s.id); it != sizeAt.end())
            for (std::size_t k = 0; k < s.sizes.size(); ++k)
                s.sizes[k] = coordinate(z, it->second + static_cast<int>(k));
}

namespace {

constexpr int kLevelEndAt = 2, kAxisEndAt = 4;

/// One end of a stroke as the tangent there sees it: a direction between two points, as drawn or turned by a
/// right angle.
struct EndDirection {
    int from = 0, to = 0; ///< x coordinates of two points
    bool turned = false;
    bool known = true;
};

class Compiler {
  public:
    Compiler(const Drawing& drawing, const DimensionValues& values) : m_d(drawing), m_values(values) {}

    System compile(const std::vector<int>& without) {
        layOut();
        for (const Stroke& s : m_d.strokes) strokeItself(s);
        const auto dropped = [&](const Relation& r) {
            return r.readOnly || std::find(without.begin(), without.end(), r.id) != without.end();
        };
        const auto needsEnds = [](const Relation& r) {
            return r.kind == RelationKind::Tangent || r.kind == RelationKind::Smooth;
        };
        for (const Relation& r : m_d.relations)
            if (!dropped(r) && !needsEnds(r)) emit(r);
        Equalities equalities(static_cast<int>(m_s.start.size()));
        tie(equalities);
        m_equalities = &equalities;
        for (const Relation& r : m_d.relations)
            if (!dropped(r) && needsEnds(r)) emit(r);
        finish(equalities);
        return std::move(m_s);
    }

  private:
    const Drawing& m_d;
    const DimensionValues& m_values;
    System m_s;
    Equalities* m_equalities = nullptr;
    int m_relation = 0;
    std::unordered_multimap<int, int> m_heldOn; ///< by round stroke: x coordinates of points held on it

    void layOut() {
        m_s.start = {0, 0, 1, 0, 0, 1};
        m_s.pointAt[kOrigin] = 0;
        for (const DrawnPoint& p : m_d.points) {
            m_s.pointAt[p.id] = static_cast<int>(m_s.start.size());
            m_s.start.insert(m_s.start.end(), {p.at.x, p.at.y});
        }
        for (const Stroke& s : m_d.strokes) {
            if (s.kind == StrokeKind::Spline || s.sizes.empty()) continue;
            m_s.sizeAt[s.id] = static_cast<int>(m_s.start.size());
            m_s.start.insert(m_s.start.end(), s.sizes.begin(), s.sizes.end());
        }
        m_relation = 0;
        for (int i = 0; i < 6; ++i) fix(i, m_s.start[static_cast<std::size_t>(i)]);
    }

    int pt(int id) const { return m_s.pointAt.at(id); }
    int size(int id) const { return m_s.sizeAt.at(id); }
    Vec2 place(int at) const {
        const auto i = static_cast<std::size_t>(at);
        return {m_s.start[i], m_s.start[i + 1]};
    }

    Equation& add(EquationKind kind, const std::vector<int>& coordinates, double value = 0, double sense = 1,
                  double scale = 1) {
        Equation e;
        e.kind = kind;
        e.first = static_cast<int>(m_s.operands.size());
        e.count = static_cast<int>(coordinates.size());
        e.value = value;
        e.sense = sense;
        e.scale = scale;
        e.relation = m_relation;
        m_s.operands.insert(m_s.operands.end(), coordinates.begin(), coordinates.end());
        m_s.equations.push_back(e);
        return m_s.equations.back();
    }
    void constants(Equation& e, const std::vector<double>& k) {
        e.extra = static_cast<int>(m_s.constants.size());
        e.extras = static_cast<int>(k.size());
        m_s.constants.insert(m_s.constants.end(), k.begin(), k.end());
    }
    /// Coordinates of points, given by their x.
    static std::vector<int> xy(std::initializer_list<int> points) {
        std::vector<int> out;
        for (const int p : points) out.insert(out.end(), {p, p + 1});
        return out;
    }
    static std::vector<int> with(std::vector<int> list, std::initializer_list<int> more) {
        list.insert(list.end(), more);
        return list;
    }
    void fix(int coordinate, double value) { add(EquationKind::Fix, {coordinate}, value); }
    void differ(int u, int v, double value = 0) { add(EquationKind::Differ, {u, v}, value); }
    void samePoint(int p, int q) { differ(p, q), differ(p + 1, q + 1); }
    void linear(const std::vector<int>& coordinates, const std::vector<double>& weights) {
        constants(add(EquationKind::Linear, coordinates), weights);
    }

    struct Ends {
        int from = 0, to = 0;
    };
    Ends line(int id) const {
        if (id == kLevelLine) return {0, kLevelEndAt};
        if (id == kAxisLine) return {0, kAxisEndAt};
        const Stroke& s = *m_d.findStroke(id);
        return {pt(s.points[0]), pt(s.points[1])};
    }
    /// A length that makes an angle's residual comparable with a distance's.
    double scaleOf(Ends a, Ends b) const {
        return std::max(0.5 * (length(place(a.to) - place(a.from)) + length(place(b.to) - place(b.from))),
                        1e-3);
    }

    /// What ties a stroke's own points and sizes together.
    void strokeItself(const Stroke& s) {
        m_relation = -s.id;
        if (s.kind == StrokeKind::Arc)
            for (const int p : {s.points[0], s.points[1]}) onRound(pt(p), s);
        if (s.kind == StrokeKind::EllipseArc)
            for (const int p : {s.points[2], s.points[3]}) onEllipse(pt(p), s);
        if (s.kind != StrokeKind::Spline) return;
        const int nodes = static_cast<int>(s.points.size() / 2);
        for (int i = 0; i < nodes; ++i) {
            if (static_cast<std::size_t>(i) < s.held.size() && s.held[static_cast<std::size_t>(i)]) continue;
            const auto w = smoothnessWeights(s.sizes, i);
            for (int axis = 0; axis < 2; ++axis) {
                std::vector<int> at;
                std::vector<double> k;
                for (int j = 0; j < 6; ++j) {
                    const int p = 2 * (i - 1) + j;
                    if (p < 0 || p >= 2 * nodes) continue;
                    at.push_back(pt(s.points[static_cast<std::size_t>(p)]) + axis);
                    k.push_back(w[static_cast<std::size_t>(j)]);
                }
                linear(at, k);
            }
        }
    }

    void onRound(int p, const Stroke& s) {
        add(EquationKind::OnCircle, with(xy({p, pt(centrePoint(s))}), {size(s.id)}));
    }
    void onEllipse(int p, const Stroke& s) {
        add(EquationKind::OnEllipse, with(xy({p, pt(s.points[0]), pt(s.points[1])}), {size(s.id)}));
    }

    double sizeOf(const Relation& r) const {
        const auto it = m_values.find(r.id);
        return it == m_values.end() ? measured(m_d, r) : it->second;
    }

    void emit(const Relation& r);
    void emitSized(const Relation& r, double size);
    void onStroke(int point, const Stroke& s);
    void tangent(const Relation& r);
    bool tangentAtEnds(const Stroke& a, const Stroke& b);
    bool tangentWhereHeld(Ends line, const Stroke& round);
    void tangentToSpline(const Stroke& spline, int other);
    void smooth(const Relation& r);
    void symmetric(const Relation& r);
    bool sharedEnds(const Stroke& a, const Stroke& b, int& endOfA, int& endOfB);
    EndDirection directionAt(const Stroke& s, int end) const;
    std::vector<int> curvatureEnd(const Stroke& s, int end, CurvatureEnd& kind, double& factor);

    /// A new coordinate for where along a spline something happens.
    int parameter(double t) {
        m_s.start.push_back(t);
        return static_cast<int>(m_s.start.size()) - 1;
    }
    std::vector<int> splinePoints(const Stroke& s) const {
        std::vector<int> out;
        for (const int p : s.points) out.insert(out.end(), {pt(p), pt(p) + 1});
        return out;
    }
    Vec2 splineAt(const Stroke& s, double t, int k) const;
    double bestParameter(const Stroke& s, const std::function<double(Vec2, Vec2)>& miss) const;

    void tie(Equalities& equalities);
    void finish(Equalities& equalities);
};

void Compiler::emit(const Relation& r) {
    m_relation = r.id;
    using K = RelationKind;
    if (wordsOf(r.kind).sized) return emitSized(r, sizeOf(r));
    switch (r.kind) {
    case K::Coincident:
        samePoint(pt(r.of[0]), pt(r.of[1]));
        break;
    case K::OnStroke:
        if (isLine(m_d, r.of[1])) {
            const Ends l = line(r.of[1]);
            add(EquationKind::PointLine, xy({pt(r.of[0]), l.from, l.to}));
        } else {
            onStroke(pt(r.of[0]), *m_d.findStroke(r.of[1]));
        }
        break;
    case K::Horizontal:
    case K::Vertical: {
        const Ends l = r.of.size() == 1 ? line(r.of[0]) : Ends{pt(r.of[0]), pt(r.of[1])};
        const int axis = r.kind == K::Horizontal ? 1 : 0;
        differ(l.to + axis, l.from + axis);
        break;
    }
    case K::Parallel:
    case K::Perpendicular: {
        const Ends a = line(r.of[0]), b = line(r.of[1]);
        add(r.kind == K::Parallel ? EquationKind::Parallel : EquationKind::Perpendicular,
            xy({a.from, a.to, b.from, b.to}), 0, 1, scaleOf(a, b));
        break;
    }
    case K::Collinear: {
        const Ends a = line(r.of[0]), b = line(r.of[1]);
        add(EquationKind::PointLine, xy({b.from, a.from, a.to}));
        add(EquationKind::PointLine, xy({b.to, a.from, a.to}));
        break;
    }
    case K::Equal:
        if (isLine(m_d, r.of[0])) {
            const Ends a = line(r.of[0]), b = line(r.of[1]);
            add(EquationKind::LengthRatio, xy({a.from, a.to, b.from, b.to}), 1);
        } else {
            differ(size(r.of[0]), size(r.of[1]));
        }
        break;
    case K::Concentric: {
        const auto centre = [&](int id) {
            return pt(isPoint(m_d, id) ? id : centrePoint(*m_d.findStroke(id)));
        };
        samePoint(centre(r.of[0]), centre(r.of[1]));
        break;
    }
    case K::Midpoint: {
        const Ends l = line(r.of[1]);
        for (int axis = 0; axis < 2; ++axis)
            linear({pt(r.of[0]) + axis, l.from + axis, l.to + axis}, {1, -0.5, -0.5});
        break;
    }
    case K::Symmetric:
        symmetric(r);
        break;
    case K::Tangent:
        tangent(r);
        break;
    case K::Smooth:
        smooth(r);
        break;
    case K::Fixed: {
        std::vector<int> ids = r.of;
        if (const Stroke* s = m_d.findStroke(r.of[0])) ids = s->points;
        for (std::size_t i = 0; i < ids.size() && i < r.where.size(); ++i) {
            fix(pt(ids[i]), r.where[i].x);
            fix(pt(ids[i]) + 1, r.where[i].y);
        }
        break;
    }
    default:
        break;
    }
}

void Compiler::emitSized(const Relation& r, double size_) {
    using K = RelationKind;
    switch (r.kind) {
    case K::Distance:
        if (r.of.size() == 2 && isLine(m_d, r.of[1])) {
            const Ends l = line(r.of[1]);
            const int p = isLine(m_d, r.of[0]) ? line(r.of[0]).from : pt(r.of[0]);
            add(EquationKind::PointLine, xy({p, l.from, l.to}), size_, r.sense);
        } else {
            const Ends l = r.of.size() == 1 ? line(r.of[0]) : Ends{pt(r.of[0]), pt(r.of[1])};
            add(EquationKind::Distance, xy({l.from, l.to}), size_);
        }
        break;
    case K::Across:
    case K::Along: {
        Ends l{0, 0};
        if (r.of.size() == 1)
            l = isLine(m_d, r.of[0]) ? line(r.of[0]) : Ends{0, pt(r.of[0])};
        else
            l = {pt(r.of[0]), pt(r.of[1])};
        const int axis = r.kind == K::Across ? 0 : 1;
        differ(l.to + axis, l.from + axis, r.sense * size_);
        break;
    }
    case K::Radius:
        fix(size(r.of[0]), size_);
        break;
    case K::Diameter:
        fix(size(r.of[0]), size_ / 2);
        break;
    case K::DiameterAboutAxis: {
        const int p = isLine(m_d, r.of[0]) ? line(r.of[0]).from : pt(r.of[0]);
        if (r.of.size() == 1 || r.of[1] == kAxisLine) {
            fix(p, -r.sense * size_ / 2); // left of the axis, which runs up, is the positive side
        } else {
            const Ends l = line(r.of[1]);
            add(EquationKind::PointLine, xy({p, l.from, l.to}), size_ / 2, r.sense);
        }
        break;
    }
    case K::AngleBetween: {
        const Ends a = line(r.of[0]);
        Ends b = line(r.of[1]);
        if (r.turned) std::swap(b.from, b.to);
        add(EquationKind::AngleBetween, xy({a.from, a.to, b.from, b.to}), r.sense * size_, 1, scaleOf(a, b));
        break;
    }
    case K::ArcLength: {
        const Stroke& s = *m_d.findStroke(r.of[0]);
        add(EquationKind::ArcLength,
            with(xy({pt(s.points[0]), pt(s.points[1]), pt(s.points[2])}), {size(s.id)}), size_);
        break;
    }
    case K::Ratio:
        if (r.of.size() == 1) { // of a conic: its shoulder ratio
            fix(size(r.of[0]), std::clamp(size_, 1e-3, 0.999));
        } else if (isLine(m_d, r.of[0])) {
            const Ends a = line(r.of[0]), b = line(r.of[1]);
            add(EquationKind::LengthRatio, xy({a.from, a.to, b.from, b.to}), size_);
        } else {
            linear({size(r.of[0]), size(r.of[1])}, {1, -size_});
        }
        break;
    default:
        break;
    }
}

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
    return best;
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
    default:
        return {0, 0, false, false};
    }
}

bool Compiler::tangentAtEnds(const Stroke& a, const Stroke& b) {
    int i = 0, j = 0;
    if (!sharedEnds(a, b, i, j)) return false;
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
    if (isSpline(a)) return tangentToSpline(*a, r.of[1]);
    if (isSpline(b)) return tangentToSpline(*b, r.of[0]);
    const bool firstLine = isLine(m_d, r.of[0]);
    if (firstLine || isLine(m_d, r.of[1])) {
        const Ends l = line(r.of[firstLine ? 0 : 1]);
        const Stroke& s = firstLine ? *b : *a;
        if (isRound(m_d, s.id) && tangentWhereHeld(l, s)) return;
        if (isRound(m_d, s.id))
            add(EquationKind::TangentLineCircle, with(xy({l.from, l.to, pt(centrePoint(s))}), {size(s.id)}),
                0, r.sense);
        else if (s.kind == StrokeKind::Ellipse || s.kind == StrokeKind::EllipseArc)
            add(EquationKind::TangentLineEllipse,
                with(xy({l.from, l.to, pt(s.points[0]), pt(s.points[1])}), {size(s.id)}), 0, r.sense);
        return;
    }
    if (isRound(m_d, a->id) && isRound(m_d, b->id)) {
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
    const Stroke &a = *m_d.findStroke(r.of[0]), &b = *m_d.findStroke(r.of[1]);
    int i = 0, j = 0;
    if (!tangentAtEnds(a, b) || !sharedEnds(a, b, i, j)) return;
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

/// Works plain equalities into the classes. What is known already is noted as repeated.
void Compiler::tie(Equalities& equalities) {
    std::erase_if(m_s.equations, [&](const Equation& e) {
        if (e.kind != EquationKind::Fix && e.kind != EquationKind::Differ) return false;
        const int u = m_s.operands[static_cast<std::size_t>(e.first)];
        const int v = e.kind == EquationKind::Fix ? -1 : m_s.operands[static_cast<std::size_t>(e.first) + 1];
        const auto known = equalities.tie(u, v, e.value, e.relation);
        if (known.known)
            m_s.repeated.push_back(
                {e.relation, known.missedBy > 1e-9, known.missedBy, equalities.chain(u, v)});
        return true;
    });
}

void Compiler::finish(Equalities& equalities) {
    int count = 0;
    equalities.classes(m_s.classOf, m_s.offset, count);
    // Parameters that tangent relations asked for after the ties were made are unknowns of their own.
    while (m_s.classOf.size() < m_s.start.size()) {
        m_s.classOf.push_back(count++);
        m_s.offset.push_back(0);
    }
    m_s.unknowns.assign(static_cast<std::size_t>(count), 0.0);
    // A class lies where its members lie on average: least motion when they were apart.
    std::vector<int> members(m_s.unknowns.size(), 0);
    for (std::size_t i = 0; i < m_s.start.size(); ++i)
        if (m_s.classOf[i] >= 0) {
            m_s.unknowns[static_cast<std::size_t>(m_s.classOf[i])] += m_s.start[i] - m_s.offset[i];
            ++members[static_cast<std::size_t>(m_s.classOf[i])];
        }
    for (std::size_t k = 0; k < m_s.unknowns.size(); ++k) m_s.unknowns[k] /= std::max(1, members[k]);
}

} // namespace

System compile(const Drawing& drawing, const DimensionValues& values, const std::vector<int>& without) {
    return Compiler(drawing, values).compile(without);
}

double measured(const Drawing& d, const Relation& r) {
    using K = RelationKind;
    const auto ends = [&]() -> LineEnds {
        if (r.of.size() == 2) return {d.at(r.of[0]), d.at(r.of[1])};
        if (isLine(d, r.of[0])) return lineEnds(d, r.of[0]);
        return {{0, 0}, d.at(r.of[0])};
    };
    const auto overLine = [&](int line) {
        const LineEnds l = lineEnds(d, line);
        const Vec2 p = isLine(d, r.of[0]) ? lineEnds(d, r.of[0]).from : d.at(r.of[0]);
        return cross(l.to - l.from, p - l.from) / std::max(length(l.to - l.from), 1e-12);
    };
    const auto radius = [&](int id) { return d.findStroke(id)->sizes[0]; };
    switch (r.kind) {
    case K::Distance:
        if (r.of.size() == 2 && isLine(d, r.of[1])) return std::fabs(overLine(r.of[1]));
        return length(ends().to - ends().from);
    case K::Across:
        return std::fabs(ends().to.x - ends().from.x);
    case K::Along:
        return std::fabs(ends().to.y - ends().from.y);
    case K::Radius:
        return radius(r.of[0]);
    case K::Diameter:
        return 2 * radius(r.of[0]);
    case K::DiameterAboutAxis:
        return 2 * std::fabs(overLine(r.of.size() > 1 ? r.of[1] : kAxisLine));
    case K::AngleBetween: {
        const LineEnds a = lineEnds(d, r.of[0]), b = lineEnds(d, r.of[1]);
        const Vec2 u = a.to - a.from, v = (b.to - b.from) * (r.turned ? -1.0 : 1.0);
        const double turn = r.sense * std::atan2(cross(u, v), dot(u, v));
        return turn < -1e-9 ? turn + 2 * std::numbers::pi : turn;
    }
    case K::ArcLength: {
        const Stroke& s = *d.findStroke(r.of[0]);
        const Vec2 c = d.at(s.points[2]), a = d.at(s.points[0]) - c, b = d.at(s.points[1]) - c;
        const double turn = std::atan2(cross(a, b), dot(a, b));
        return s.sizes[0] * (turn < 0 ? turn + 2 * std::numbers::pi : turn);
    }
    case K::Ratio: {
        if (r.of.size() == 1) return radius(r.of[0]);
        if (!isLine(d, r.of[0])) return radius(r.of[0]) / radius(r.of[1]);
        const LineEnds a = lineEnds(d, r.of[0]), b = lineEnds(d, r.of[1]);
        return length(a.to - a.from) / std::max(length(b.to - b.from), 1e-12);
    }
    default:
        return 0;
    }
}

} // namespace gc
