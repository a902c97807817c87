#include "core/sketch/solve/compiler.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/splines.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

std::vector<int> Compiler::xy(std::initializer_list<int> points) {
    std::vector<int> out;
    out.reserve(2 * points.size());
    for (const int p : points) {
        out.push_back(p);
        out.push_back(p + 1);
    }
    return out;
}

std::vector<int> Compiler::with(std::vector<int> list, std::initializer_list<int> more) {
    list.insert(list.end(), more);
    return list;
}

System Compiler::compile(const std::vector<int>& without) {
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

void Compiler::layOut() {
    m_s.start = {0, 0, 1, 0, 0, 1};
    m_s.pointAt[kOrigin] = 0;
    for (const DrawnPoint& p : m_d.points) {
        m_s.pointAt[p.id] = static_cast<int>(m_s.start.size());
        m_s.start.insert(m_s.start.end(), {p.at.x, p.at.y});
    }
    for (const Stroke& s : m_d.strokes) {
        if (!solvesSizes(s)) continue;
        m_s.sizeAt[s.id] = static_cast<int>(m_s.start.size());
        m_s.start.insert(m_s.start.end(), s.sizes.begin(), s.sizes.end());
    }
    m_relation = 0;
    for (int i = 0; i < 6; ++i) fix(i, m_s.start[static_cast<std::size_t>(i)]);
}

/// What ties a stroke's own points and sizes together.
void Compiler::strokeItself(const Stroke& s) {
    m_relation = -s.id;
    if (s.kind == StrokeKind::Arc)
        for (const int p : {s.points[0], s.points[1]}) onRound(pt(p), s);
    if (s.kind == StrokeKind::EllipseArc)
        for (const int p : {s.points[2], s.points[3]}) onEllipse(pt(p), s);
    if (s.kind == StrokeKind::Beside) followerItself(s);
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

void Compiler::equal(const Relation& r) {
    if (isLine(m_d, r.of[0])) {
        const Ends a = line(r.of[0]), b = line(r.of[1]);
        add(EquationKind::LengthRatio, xy({a.from, a.to, b.from, b.to}), 1);
        return;
    }
    differ(size(r.of[0]), size(r.of[1]));
    const Stroke &a = *m_d.findStroke(r.of[0]), &b = *m_d.findStroke(r.of[1]);
    const bool ovals = !isRound(m_d, a.id) && a.kind != StrokeKind::Conic && a.kind != StrokeKind::Beside;
    if (ovals) // the other half axis, too
        add(EquationKind::LengthRatio,
            xy({pt(a.points[0]), pt(a.points[1]), pt(b.points[0]), pt(b.points[1])}), 1);
}

void Compiler::concentric(const Relation& r) {
    samePoint(middle(r.of[0]), middle(r.of[1]));
}

void Compiler::midpoint(const Relation& r) {
    const Ends l = line(r.of[1]);
    for (int axis = 0; axis < 2; ++axis)
        linear({pt(r.of[0]) + axis, l.from + axis, l.to + axis}, {1, -0.5, -0.5});
}

void Compiler::emit(const Relation& r) {
    m_relation = r.id;
    using K = RelationKind;
    if (wordsOf(r.kind).sized) return emitSized(r, sizeOf(r));
    switch (r.kind) {
    case K::Coincident:
        samePoint(pt(r.of[0]), pt(r.of[1]));
        break;
    case K::OnStroke:
        onStroke(pt(r.of[0]), r.of[1]);
        break;
    case K::Horizontal:
    case K::Vertical: {
        const Ends l = r.of.size() == 1 ? line(r.of[0]) : Ends{pt(r.of[0]), pt(r.of[1])};
        const int axis = r.kind == K::Horizontal ? 1 : 0;
        differ(l.to + axis, l.from + axis);
        break;
    }
    case K::Parallel:
    case K::Perpendicular:
    case K::Collinear:
        return relateLines(r);
    case K::Equal:
        return equal(r);
    case K::Concentric:
        return concentric(r);
    case K::Midpoint:
        return midpoint(r);
    case K::Symmetric:
        symmetric(r);
        break;
    case K::Together:
        together(r);
        break;
    case K::SameStep:
        for (int axis = 0; axis < 2; ++axis)
            linear({pt(r.of[0]) + axis, pt(r.of[1]) + axis, pt(r.of[2]) + axis, pt(r.of[3]) + axis},
                   {-1, 1, 1, -1});
        break;
    case K::Carried:
        carried(r);
        break;
    case K::Tangent:
        tangent(r);
        break;
    case K::Smooth:
        smooth(r);
        break;
    case K::Fixed:
    case K::Follows:
    case K::OnTrace:
        fixed(r);
        break;
    default:
        break;
    }
}

void Compiler::onStroke(int point, int id) {
    if (!isLine(m_d, id)) return onStroke(point, *m_d.findStroke(id));
    const Ends l = line(id);
    add(EquationKind::PointLine, xy({point, l.from, l.to}));
}

void Compiler::fixed(const Relation& r) {
    const Stroke* s = m_d.findStroke(r.of[0]);
    const std::vector<int> ids = s ? s->points : r.of;
    for (std::size_t i = 0; i < ids.size() && i < r.where.size(); ++i) {
        fix(pt(ids[i]), r.where[i].x);
        fix(pt(ids[i]) + 1, r.where[i].y);
    }
    if (s && hasOwnSize(*s) && r.where.size() > ids.size()) fix(size(s->id), r.where.back().x);
}

void Compiler::together(const Relation& r) {
    const int first = pt(m_d.findStroke(r.of[0])->points[0]);
    std::size_t i = 0;
    for (const int id : r.of) {
        const Stroke& s = *m_d.findStroke(id);
        if (r.where.size() < i + s.points.size() + (hasOwnSize(s) ? 1 : 0)) return; // a file may say less
        for (const int p : s.points) {
            const Vec2 away = r.where[i++];
            if (pt(p) != first) differ(pt(p), first, away.x), differ(pt(p) + 1, first + 1, away.y);
        }
        if (hasOwnSize(s)) fix(size(id), r.where[i++].x);
    }
}

void Compiler::emitDistance(const Relation& r, double size_) {
    if (r.of.size() == 2 && commonSource(m_d, r.of[0], r.of[1])) {
        distanceBeside(r, size_);
    } else if (r.of.size() == 2 && isRound(m_d, r.of[0])) {
        differ(size(r.of[0]), size(r.of[1]), r.sense * size_);
    } else if (r.of.size() == 2 && isLine(m_d, r.of[1])) {
        const Ends l = line(r.of[1]);
        const int p = isLine(m_d, r.of[0]) ? line(r.of[0]).from : pt(r.of[0]);
        add(EquationKind::PointLine, xy({p, l.from, l.to}), size_, r.sense);
    } else {
        const Ends l = r.of.size() == 1 ? line(r.of[0]) : Ends{pt(r.of[0]), pt(r.of[1])};
        add(EquationKind::Distance, xy({l.from, l.to}), size_);
    }
}

/// Centres, and the radii on top: see over_all.hpp.
void Compiler::emitOverAll(const Relation& r, double size_) {
    std::vector<int> at;
    std::vector<double> weights;
    const bool axis = r.kind == RelationKind::DiameterAboutAxis;
    if (axis || isLine(m_d, r.of[1])) {
        const Ends l = line(axis && r.of.size() < 2 ? kAxisLine : r.of[1]);
        const Vec2 from = place(l.from), to = place(l.to), c = place(middle(r.of[0]));
        const int t = parameter(r.sense * cross(unit(to - from), c - from));
        add(EquationKind::TangentLineCircle, with(xy({l.from, l.to, middle(r.of[0])}), {t}), 0, r.sense);
        at = {t}, weights = {axis ? 2.0 : 1.0};
    } else if (r.kind == RelationKind::Distance) {
        const int a = middle(r.of[0]), b = middle(r.of[1]);
        const int t = parameter(length(place(b) - place(a)));
        add(EquationKind::OnCircle, with(xy({b, a}), {t}));
        at = {t}, weights = {1};
    } else {
        const int coordinate = r.kind == RelationKind::Across ? 0 : 1;
        at = {middle(r.of[1]) + coordinate, middle(r.of[0]) + coordinate};
        weights = {double(r.sense), -double(r.sense)};
    }
    for (const int id : r.of)
        if (isRound(m_d, id)) at.push_back(size(id)), weights.push_back(axis ? 2 : 1);
    constants(add(EquationKind::Linear, at, size_), weights);
}

void Compiler::emitSized(const Relation& r, double size_) {
    using K = RelationKind;
    if (r.overAll) return emitOverAll(r, size_);
    switch (r.kind) {
    case K::Distance:
        emitDistance(r, size_);
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
    case K::DiameterAboutAxis:
        return emitAboutAxis(r, size_);
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
        return emitRatio(r, size_);
    case K::Turned: { // q - c = the turn of p - c
        const int p = pt(r.of[0]), q = pt(r.of[1]), c = pt(r.of[2]);
        const double cs = std::cos(size_), sn = r.sense * std::sin(size_);
        linear({q, c, c + 1, p, p + 1}, {1, cs - 1, -sn, -cs, sn});
        linear({q + 1, c + 1, c, p + 1, p}, {1, cs - 1, sn, -cs, -sn});
        break;
    }
    default:
        break;
    }
}

void Compiler::emitAboutAxis(const Relation& r, double size_) {
    const int p = isLine(m_d, r.of[0]) ? line(r.of[0]).from : pt(r.of[0]);
    if (r.of.size() == 1 || r.of[1] == kAxisLine) {
        fix(p, -r.sense * size_ / 2); // left of the axis, which runs up, is the positive side
    } else {
        const Ends l = line(r.of[1]);
        add(EquationKind::PointLine, xy({p, l.from, l.to}), size_ / 2, r.sense);
    }
}

void Compiler::emitRatio(const Relation& r, double size_) {
    if (r.of.size() == 1) { // of a conic: its shoulder ratio
        fix(size(r.of[0]), std::clamp(size_, 1e-3, 0.999));
    } else if (isLine(m_d, r.of[0])) {
        const Ends a = line(r.of[0]), b = line(r.of[1]);
        add(EquationKind::LengthRatio, xy({a.from, a.to, b.from, b.to}), size_);
    } else {
        linear({size(r.of[0]), size(r.of[1])}, {1, -size_});
    }
}

void Compiler::relateLines(const Relation& r) {
    const Ends a = line(r.of[0]), b = line(r.of[1]);
    if (r.kind == RelationKind::Collinear) {
        add(EquationKind::PointLine, xy({b.from, a.from, a.to}));
        add(EquationKind::PointLine, xy({b.to, a.from, a.to}));
        return;
    }
    add(r.kind == RelationKind::Parallel ? EquationKind::Parallel : EquationKind::Perpendicular,
        xy({a.from, a.to, b.from, b.to}), 0, 1, scaleOf(a, b));
}

/// Works plain equalities into the classes. What is known already is noted as repeated.
void Compiler::tie(Equalities& equalities) {
    std::erase_if(m_s.equations, [&](const Equation& e) {
        if (e.kind != EquationKind::Fix && e.kind != EquationKind::Differ) return false;
        const int u = m_s.operands[static_cast<std::size_t>(e.first)];
        const int v = e.kind == EquationKind::Fix ? -1 : m_s.operands[static_cast<std::size_t>(e.first) + 1];
        const auto known = equalities.tie(u, v, e.value, e.relation);
        m_s.tied.push_back({u, v, e.relation});
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

} // namespace gc
