#include "core/sketch/size_figure.hpp"
#include "core/sketch/beside.hpp"
#include "core/sketch/curve2.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/measured.hpp"
#include "core/sketch/over_all.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {
constexpr double kFar = 1e5; // mm
} // namespace

namespace {

using K = RelationKind;

Vec2 footOn(LineEnds l, Vec2 p) {
    const Vec2 u = unit(l.to - l.from);
    return l.from + u * dot(p - l.from, u);
}

struct Span {
    Vec2 a, b;
};

/// From the middle of an arc: where hairlines that belong to it end.
Vec2 outward(const Drawing& d, const Stroke& s) {
    const Vec2 c = d.at(centrePoint(s)), slant = unit(Vec2{1, 1});
    if (s.kind != StrokeKind::Arc) return slant;
    const Vec2 a = d.at(s.points[0]) - c;
    return unit(turnedBy(a, turnBetween(a, d.at(s.points[1]) - c) / 2), slant);
}

/// The two places between which a length is measured.
Span spanOf(const Drawing& d, const Relation& r) {
    if (r.overAll) {
        const LineEnds span = overAllSpan(d, r);
        return {span.from, span.to};
    }
    const auto placeOf = [&](int id) { return isLine(d, id) ? lineEnds(d, id).from : d.at(id); };
    if (r.kind == K::DiameterAboutAxis) {
        const Vec2 p = placeOf(r.of[0]);
        return {footOn(lineEnds(d, r.of.size() > 1 ? r.of[1] : kAxisLine), p), p};
    }
    if (r.of.size() == 1) {
        if (isLine(d, r.of[0])) {
            const LineEnds l = lineEnds(d, r.of[0]);
            return {l.from, l.to};
        }
        return {{0, 0}, d.at(r.of[0])};
    }
    if (r.kind == K::Distance && commonSource(d, r.of[0], r.of[1])) {
        // Across both in the middle of the follower.
        const Stroke &a = *d.findStroke(r.of[0]), &b = *d.findStroke(r.of[1]);
        const Stroke &follower = a.kind == StrokeKind::Beside ? a : b, &other = &follower == &a ? b : a;
        const auto run = curvesOf(d, follower);
        const Curve2& piece = run[run.size() / 2];
        const Vec2 p = piece.at(0.5), u = unit(piece.slope(0.5));
        const Vec2 q = p - Vec2{-u.y, u.x} * (besideBy(follower) - besideBy(other));
        return &follower == &a ? Span{q, p} : Span{p, q};
    }
    if (r.kind == K::Distance && isRound(d, r.of[0])) {
        const Stroke &inner = *d.findStroke(r.of[1]), &outer = *d.findStroke(r.of[0]);
        const Vec2 u = outward(d, outer);
        return {d.at(centrePoint(inner)) + u * inner.sizes[0], d.at(centrePoint(outer)) + u * outer.sizes[0]};
    }
    if (r.kind == K::Distance && isLine(d, r.of[1])) {
        const Vec2 p = placeOf(r.of[0]);
        return {footOn(lineEnds(d, r.of[1]), p), p};
    }
    return {d.at(r.of[0]), d.at(r.of[1])};
}

void straight(DimensionShape& s, Span span, Vec2 along, Vec2 label, double away) {
    const Vec2 n{-along.y, along.x};
    s.middle = (span.a + span.b) * 0.5;
    s.figure = s.middle + (label == Vec2{} ? n * away : label);
    const Vec2 a = span.a + n * dot(s.figure - span.a, n), b = span.b + n * dot(s.figure - span.b, n);
    s.lines = {{span.a, a}, {span.b, b}};
    // The line runs out to a figure that stands beside it.
    const double ta = dot(a, along), tb = dot(b, along), tf = dot(s.figure, along);
    const Vec2 low = ta < tb ? a : b, high = ta < tb ? b : a;
    const Vec2 base = a - along * ta;
    s.lines.push_back({base + along * std::min({ta, tb, tf}), base + along * std::max({ta, tb, tf})});
    s.ticks = {{low, along}, {high, along * -1}};
}

void angle(DimensionShape& s, const Drawing& d, const Relation& r, double away) {
    const LineEnds a = lineEnds(d, r.of[0]), b = lineEnds(d, r.of[1]);
    const Vec2 u = unit(a.to - a.from), v = unit((b.to - b.from) * (r.turned ? -1.0 : 1.0));
    const double across = cross(u, v);
    const Vec2 o = std::fabs(across) < 1e-9 ? (a.from + b.from) * 0.5
                                            : a.from + u * (cross(b.from - a.from, v) / across);
    s.middle = o;
    const Vec2 between = unit(u + v, {-u.y, u.x});
    s.figure = o + (r.label == Vec2{} ? between * (away * 1.6) : r.label);
    const double radius = length(s.figure - o);
    // On the side of the figure: either the angle itself or the one opposite.
    const double side = dot(s.figure - o, between) < 0 ? -1 : 1;
    const double from = std::atan2(u.y * side, u.x * side);
    double turn = std::atan2(across, dot(u, v));
    if (r.sense < 0 && turn > 0) turn -= 2 * std::numbers::pi;
    if (r.sense > 0 && turn < 0) turn += 2 * std::numbers::pi;
    std::vector<Vec2> arc;
    for (int i = 0; i <= 32; ++i) {
        const double t = from + turn * i / 32;
        arc.push_back(o + Vec2{std::cos(t), std::sin(t)} * radius);
    }
    s.lines.push_back(std::move(arc));
}

void turn(DimensionShape& s, const Drawing& d, const Relation& r, double away) {
    const Vec2 c = d.at(r.of[2]), p = d.at(r.of[0]) - c, q = d.at(r.of[1]) - c;
    const double whole = r.sense > 0 ? turnBetween(p, q) : -turnBetween(q, p), from = std::atan2(p.y, p.x);
    const auto at = [&](double part, double radius) {
        return c + Vec2{std::cos(from + whole * part), std::sin(from + whole * part)} * radius;
    };
    s.middle = c;
    s.figure = r.label == Vec2{} ? at(0.5, length(p) + away) : c + r.label;
    std::vector<Vec2> arc;
    for (int i = 0; i <= 32; ++i) arc.push_back(at(i / 32.0, length(s.figure - c)));
    s.lines = {std::move(arc)};
    for (const double end : {0.0, 1.0})
        s.lines.push_back({at(end, length(p)), at(end, length(s.figure - c))});
}

void round(DimensionShape& s, const Drawing& d, const Relation& r, double away) {
    const Stroke& stroke = *d.findStroke(r.of[0]);
    const Vec2 c = d.at(centrePoint(stroke));
    const double radius = stroke.sizes[0];
    Vec2 u = outward(d, stroke);
    s.middle = c;
    s.figure = c + (r.label == Vec2{} ? u * (radius + away) : r.label);
    u = unit(s.figure - c, u);
    if (stroke.kind == StrokeKind::Arc) { // the leader ends on the arc, through the centre if need be
        const Vec2 a = d.at(stroke.points[0]) - c, b = d.at(stroke.points[1]) - c;
        if (turnBetween(a, u) > turnBetween(a, b) && turnBetween(a, u * -1) < turnBetween(a, b)) {
            const Vec2 rim = c - u * radius;
            s.lines.push_back({rim, s.figure});
            s.ticks = {{rim, u}};
            return;
        }
    }
    const Vec2 begin = r.kind == K::Diameter ? c - u * radius : c;
    const Vec2 rim = c + u * radius;
    s.lines.push_back({begin, length(s.figure - c) > radius ? s.figure : rim});
    s.ticks = {{rim, u * -1}};
    if (r.kind == K::Diameter) s.ticks.push_back({begin, u});
}

} // namespace

DimensionShape dimensionShape(const Drawing& d, const Relation& r, double away) {
    DimensionShape s;
    switch (r.kind) {
    case K::Across:
        straight(s, spanOf(d, r), {1, 0}, r.label, away);
        break;
    case K::Along:
        straight(s, spanOf(d, r), {0, 1}, r.label, away);
        break;
    case K::Distance:
    case K::DiameterAboutAxis: {
        const Span span = spanOf(d, r);
        const Vec2 along = unit(span.b - span.a);
        Vec2 label = r.label;
        // Beside a curve its figure would stand on it: it stands beyond.
        if (label == Vec2{} && !r.overAll && r.kind == K::Distance && r.of.size() == 2 &&
            commonSource(d, r.of[0], r.of[1]))
            label = along * (length(span.b - span.a) / 2 + 1.6 * away);
        straight(s, span, along, label, away);
        break;
    }
    case K::AngleBetween:
        angle(s, d, r, away);
        break;
    case K::Radius:
    case K::Diameter:
    case K::ArcLength:
        round(s, d, r, away);
        break;
    case K::Turned:
        turn(s, d, r, away);
        break;
    case K::Ratio: {
        if (r.of.size() == 1) { // at the shoulder of a conic
            const Stroke& c = *d.findStroke(r.of[0]);
            const Vec2 mid = (d.at(c.points[0]) + d.at(c.points[1])) * 0.5, apex = d.at(c.points[2]);
            s.middle = mid + (apex - mid) * c.sizes[0];
            s.figure = s.middle + (r.label == Vec2{} ? unit(apex - mid) * away : r.label);
            s.lines = {{s.middle, s.figure}};
            break;
        }
        const auto middleOf = [&](int id) {
            if (isLine(d, id)) return (lineEnds(d, id).from + lineEnds(d, id).to) * 0.5;
            return d.at(centrePoint(*d.findStroke(id)));
        };
        const Vec2 a = middleOf(r.of[0]), b = middleOf(r.of[1]);
        s.middle = (a + b) * 0.5;
        s.figure = s.middle + r.label;
        s.lines = {{a, s.figure}, {s.figure, b}};
        break;
    }
    default:
        break;
    }
    return s;
}

bool hasOverAll(const Drawing& d, const std::vector<int>& of) {
    const auto places = [&](int id) { return isRound(d, id) || isPoint(d, id) || isLine(d, id); };
    return of.size() == 2 && places(of[0]) && places(of[1]) && (isRound(d, of[0]) || isRound(d, of[1]));
}

namespace {

/// The way that the figure's place says: between them across, up, or straight from one to the other.
K wayMeant(Vec2 p, Vec2 q, Vec2 place) {
    const bool withinX = place.x > std::min(p.x, q.x) && place.x < std::max(p.x, q.x);
    const bool withinY = place.y > std::min(p.y, q.y) && place.y < std::max(p.y, q.y);
    if (withinX && !withinY && std::fabs(p.y - q.y) > 1e-6) return K::Across;
    if (withinY && !withinX && std::fabs(p.x - q.x) > 1e-6) return K::Along;
    return K::Distance;
}

std::optional<Relation> overAllFor(const Drawing& d, int a, int b, Vec2 place) {
    Relation r;
    r.overAll = true;
    if (isLine(d, a) || isPoint(d, a)) std::swap(a, b);
    const auto middle = [&](int id) { return d.at(isRound(d, id) ? centrePoint(*d.findStroke(id)) : id); };
    if (b == kAxisLine) {
        r.kind = K::DiameterAboutAxis;
    } else if (isLine(d, b)) {
        r.kind = K::Distance;
    } else {
        const Vec2 p = middle(a), q = middle(b);
        r.kind = wayMeant(p, q, place);
        if (r.kind == K::Distance && std::fabs(p.y - q.y) < 1e-6) r.kind = K::Across;
        if (r.kind == K::Distance && std::fabs(p.x - q.x) < 1e-6) r.kind = K::Along;
    }
    r.of = {a, b};
    freezeSense(d, r);
    if (!whyNot(d, r).empty()) { // an arc that does not reach out there has an end that does
        const LineEnds span = overAllSpan(d, r);
        const Vec2 way = unit(span.to - span.from, {1, 0});
        const bool line = isLine(d, b);
        const std::vector<int> ends{outermostThing(d, a, line ? way : way * -1),
                                    line ? b : outermostThing(d, b, way)};
        r.of = ends;
        r.overAll = isRound(d, ends[0]) || isRound(d, ends[1]);
        freezeSense(d, r);
        if (!whyNot(d, r).empty()) return std::nullopt;
    }
    r.label = place - dimensionShape(d, r, 1).middle;
    return r;
}

} // namespace

std::optional<Relation> dimensionFor(const Drawing& d, const std::vector<int>& of, Vec2 place, bool overAll) {
    if (overAll && hasOverAll(d, of)) return overAllFor(d, of[0], of[1], place);
    Relation r;
    const auto make = [&](K kind, std::vector<int> operands) -> std::optional<Relation> {
        if (!whyNot(d, kind, operands).empty()) return std::nullopt;
        r.kind = kind;
        r.of = std::move(operands);
        freezeSense(d, r);
        r.label = place - dimensionShape(d, r, 1).middle;
        return r;
    };
    if (of.size() == 1) {
        const Stroke* s = d.findStroke(of[0]);
        if (s && s->kind == StrokeKind::Circle) return make(K::Diameter, of);
        if (s && s->kind == StrokeKind::Conic) return make(K::Ratio, of);
        if (s && s->kind != StrokeKind::Line && s->kind != StrokeKind::Point) return make(K::Radius, of);
        if (isLine(d, of[0]) && of[0] > 0) return make(K::Distance, of);
        if (isPoint(d, of[0]) && of[0] != kOrigin) return make(K::DiameterAboutAxis, {of[0], kAxisLine});
        return std::nullopt;
    }
    if (of.size() != 2) return std::nullopt;
    int a = of[0], b = of[1];
    if (isLine(d, a) && isPoint(d, b)) std::swap(a, b);
    if (isRound(d, a) && isRound(d, b) &&
        length(d.at(centrePoint(*d.findStroke(a))) - d.at(centrePoint(*d.findStroke(b)))) < 1e-6)
        return make(K::Distance, {a, b});
    if (commonSource(d, a, b)) return make(K::Distance, {a, b});
    for (int* id : {&a, &b}) // of a circle its centre is meant
        if (isRound(d, *id)) *id = centrePoint(*d.findStroke(*id));
    if (isPoint(d, a) && b == kAxisLine) return make(K::DiameterAboutAxis, {a, b});
    if (isPoint(d, a) && b == kLevelLine) return make(K::Along, {kOrigin, a});
    if (isPoint(d, a) && isLine(d, b)) return make(K::Distance, {a, b});
    if (isLine(d, a) && isLine(d, b)) {
        const LineEnds l = lineEnds(d, a), m = lineEnds(d, b);
        const Vec2 u = unit(l.to - l.from), v = unit(m.to - m.from);
        if (std::fabs(cross(u, v)) > 1e-6) return make(K::AngleBetween, {a, b});
        if (a == kAxisLine) std::swap(a, b);
        return b == kAxisLine ? make(K::DiameterAboutAxis, {a, b}) : make(K::Distance, {a, b});
    }
    if (!isPoint(d, a) || !isPoint(d, b)) return std::nullopt;
    return make(wayMeant(d.at(a), d.at(b), place), {a, b});
}

bool hasWidths(const Drawing& d, int id) {
    const Stroke* s = d.findStroke(id);
    return s && s->kind != StrokeKind::Line && s->kind != StrokeKind::Point && s->kind != StrokeKind::Fair;
}

CurveWidth widthAt(Drawing& d, int stroke, Vec2 place, const UnitSystem& units) {
    constexpr int kDigits = 6;
    CurveWidth out;
    std::optional<Vec2> best;
    for (const Curve2& c : curvesOf(d, *d.findStroke(stroke))) {
        // At the height of the place if the curve gets there, else where it comes nearest.
        Curve2 level;
        level.p = {Vec2{-kFar, place.y}, Vec2{kFar, place.y}};
        for (const Meeting& m : meetings(c, level))
            if (!best || length(m.at - place) < length(*best - place)) best = m.at;
    }
    if (!best) {
        for (const Curve2& c : curvesOf(d, *d.findStroke(stroke)))
            if (const Vec2 p = c.at(c.nearest(place)); !best || length(p - place) < length(*best - place))
                best = p;
        if (!best) return out;
    }
    const int dot = d.draw(StrokeKind::Point, {*best});
    d.findStroke(dot)->helper = true;
    out.point = d.findStroke(dot)->points[0];
    d.relate(K::OnStroke, {out.point, stroke});
    const auto size = [&](K kind, std::vector<int> of) {
        const int id = d.relate(kind, std::move(of));
        Relation& r = *d.findRelation(id);
        r.expression = sizeInWords(measured(d, r), wordsOf(kind).dimension, units, kDigits);
        return id;
    };
    out.height = size(K::Along, {kOrigin, out.point});
    out.diameter = size(K::DiameterAboutAxis, {out.point, kAxisLine});
    return out;
}

} // namespace gc
