#include "core/sketch/edit/offset_sides.hpp"
#include "core/base/angles.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/beside.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

Vec2 Beside::direction(bool atEnd) const {
    if (kind == StrokeKind::Line) return unit(to - from);
    if (kind == StrokeKind::Beside) return ahead[atEnd ? 1 : 0];
    const Vec2 r = (atEnd ? to : from) - centre;
    return unit(leftOf(r)) * (left ? 1.0 : -1.0);
}

int drawSide(Drawing& d, const Beside& b) {
    switch (b.kind) {
    case StrokeKind::Line:
        return d.draw(b.kind, {b.from, b.to});
    case StrokeKind::Circle:
        return d.draw(b.kind, {b.centre}, {b.radius});
    case StrokeKind::Arc:
        return d.draw(b.kind, {b.left ? b.from : b.to, b.left ? b.to : b.from, b.centre}, {b.radius});
    default:
        break;
    }
    StrokeShape shape{StrokeKind::Beside, {b.from}, {std::fabs(b.by)}, {}, b.source, b.by < 0};
    if (!b.closed) {
        shape.at.push_back(b.to);
        shape.held = {b.held[0], b.held[1]};
        if (!b.forward) {
            std::swap(shape.at[0], shape.at[1]);
            shape.held = {b.held[1], b.held[0]};
        }
    }
    return drawShape(d, shape);
}

namespace {

/// \return nothing when the offset of an arc has no radius left
std::optional<Beside> beside(const Drawing& d, int stroke, bool forward, double distance) {
    const Stroke& s = *d.findStroke(stroke);
    Beside b;
    b.of = stroke;
    const auto ends = endPoints(s);
    if (s.kind == StrokeKind::Line) {
        const Vec2 p = d.at(ends[forward ? 0 : 1]), q = d.at(ends[forward ? 1 : 0]);
        const Vec2 n = leftOf(unit(q - p)) * distance;
        b.from = p + n, b.to = q + n;
        return b;
    }
    if (s.kind == StrokeKind::Arc || s.kind == StrokeKind::Circle) {
        b.kind = s.kind;
        b.centre = d.at(centrePoint(s));
        b.left = forward;
        b.radius = s.sizes[0] - (forward ? distance : -distance);
        if (b.radius < kSamePoint) return std::nullopt;
        if (s.kind == StrokeKind::Circle) return b;
        const auto out = [&](int point) { return b.centre + unit(d.at(point) - b.centre) * b.radius; };
        b.from = out(ends[forward ? 0 : 1]), b.to = out(ends[forward ? 1 : 0]);
        return b;
    }
    const StrokeRun run(d, s);
    const bool follows = s.kind == StrokeKind::Beside;
    b.kind = StrokeKind::Beside;
    b.source = follows ? s.beside : stroke;
    // Written in the stroke's own direction: its left is the walk's right when it is walked backwards.
    const double own = forward ? distance : -distance;
    b.by = besideBy(s) + own;
    b.forward = forward;
    b.closed = run.closed();
    for (const bool atEnd : {false, true}) {
        const bool last = atEnd == forward; // of the stroke
        const double u = last ? run.end() : 0;
        const Vec2 t = unit(run.slope(b.closed ? 0 : u));
        (atEnd ? b.to : b.from) = run.at(b.closed ? 0 : u) + leftOf(t) * own;
        b.ahead[atEnd ? 1 : 0] = t * (forward ? 1.0 : -1.0);
        const std::size_t end = last ? 1 : 0;
        b.held[atEnd ? 1 : 0] = !follows || (end < s.held.size() && s.held[end]);
    }
    return b;
}

// ---- corners

/// Where two sides meet when they run on, nearest to a place.
std::optional<Vec2> meetRunOn(const Beside& a, const Beside& b, Vec2 near) {
    if (a.kind == StrokeKind::Beside || b.kind == StrokeKind::Beside) return std::nullopt;
    std::vector<Vec2> found;
    const bool lineA = a.kind == StrokeKind::Line, lineB = b.kind == StrokeKind::Line;
    if (lineA && lineB) {
        const Vec2 u = a.to - a.from, v = b.to - b.from;
        const double det = cross(u, v);
        if (std::fabs(det) > 1e-9 * length(u) * length(v))
            found.push_back(a.from + u * (cross(b.from - a.from, v) / det));
    } else if (lineA || lineB) {
        const Beside &l = lineA ? a : b, &c = lineA ? b : a;
        const Vec2 u = unit(l.to - l.from), foot = l.from + u * dot(c.centre - l.from, u);
        const double h = length(foot - c.centre);
        if (h <= c.radius) {
            const double k = std::sqrt(c.radius * c.radius - h * h);
            found = {foot + u * k, foot - u * k};
        }
    } else {
        const Vec2 u = b.centre - a.centre;
        const double apart = length(u);
        if (apart > kSamePoint && apart <= a.radius + b.radius && apart >= std::fabs(a.radius - b.radius)) {
            const double x = (apart * apart + a.radius * a.radius - b.radius * b.radius) / (2 * apart);
            const double y = std::sqrt(std::max(0.0, a.radius * a.radius - x * x));
            const Vec2 foot = a.centre + u * (x / apart), n = leftOf(u) * (1 / apart);
            found = {foot + n * y, foot - n * y};
        }
    }
    if (found.empty()) return std::nullopt;
    return *std::min_element(found.begin(), found.end(),
                             [&](Vec2 p, Vec2 q) { return length(p - near) < length(q - near); });
}

/// Does the side still run the way it did, now that its ends were moved? Arcs more than all round do not.
bool runsOn(const Beside& before, const Beside& now) {
    if (now.kind == StrokeKind::Line) return dot(before.to - before.from, now.to - now.from) > 0;
    if (now.kind != StrokeKind::Arc) return true;
    const auto turn = [](const Beside& b) {
        const Vec2 u = b.from - b.centre, v = b.to - b.centre;
        return b.left ? turnBetween(u, v) : turnBetween(v, u);
    };
    return std::fabs(turn(now) - turn(before)) < kPi;
}

/// Where two sides cross as they are: what curves that cannot run on do on the inside of a corner.
bool crossAsTheyAre(const Drawing& d, Beside& a, Beside& b, Vec2 near) {
    Drawing trial = d;
    const int sideA = drawSide(trial, a), sideB = drawSide(trial, b);
    const StrokeRun ra(trial, *trial.findStroke(sideA)), rb(trial, *trial.findStroke(sideB));
    double least = 1e300;
    Vec2 at;
    for (const Curve2& one : ra.curves())
        for (const Curve2& other : rb.curves())
            for (const Meeting& m : meetings(one, other))
                if (length(m.at - near) < least) least = length(m.at - near), at = m.at;
    if (least > 1e299) return false;
    a.held[1] = b.held[0] = false;
    a.to = b.from = at;
    return true;
}

/// Where the tangents at the ends of two sides meet ahead of both, outside a corner that is not too sharp.
std::optional<Vec2> meetAhead(const Beside& a, const Beside& b) {
    constexpr double kMostReach = 20; // times the gap between the ends
    const Vec2 u = a.direction(true), v = b.direction(false);
    const double det = cross(u, v);
    if (std::fabs(det) < 1e-6) return std::nullopt;
    const Vec2 gap = b.from - a.to;
    const double s = cross(gap, v) / det, t = cross(gap, u) / det;
    if (s < 0 || t > 0 || std::max(s, -t) > kMostReach * length(gap)) return std::nullopt;
    return a.to + u * s;
}

/// The corner between two neighbours: moves their ends onto it, or gives what lies between them: an arc about
/// it, or lines that run on to it.
std::vector<Beside> closeCorner(const Drawing& d, Beside& a, Beside& b, Vec2 corner, double distance,
                                bool roundCorners) {
    if (length(a.to - b.from) < kSamePoint) {
        b.from = a.to;
        return {};
    }
    // On the outside of a corner the sides come apart; on the inside they cross.
    const bool outer = cross(a.direction(true), b.direction(false)) * distance < 0;
    const Vec2 miter = a.to + b.from - corner;
    const auto meet = outer && roundCorners ? std::nullopt : meetRunOn(a, b, miter);
    if (meet) {
        a.to = b.from = *meet;
        return {};
    }
    if (!outer && crossAsTheyAre(d, a, b, miter)) return {};
    if (const auto tip = outer && !roundCorners ? meetAhead(a, b) : std::nullopt) {
        std::vector<Beside> on;
        Beside line;
        if (a.kind == StrokeKind::Line)
            a.to = *tip;
        else
            line.from = a.to, line.to = *tip, on.push_back(line);
        if (b.kind == StrokeKind::Line)
            b.from = *tip;
        else
            line.from = *tip, line.to = b.from, on.push_back(line);
        return on;
    }
    Beside arc;
    arc.kind = StrokeKind::Arc;
    arc.centre = corner;
    arc.radius = std::fabs(distance);
    arc.left = distance < 0;
    arc.from = a.to, arc.to = b.from;
    return {arc};
}

} // namespace

std::optional<Sides> sidesOf(const Drawing& d, const StrokeChain& chain, double distance, bool roundCorners) {
    std::vector<std::size_t> used;
    for (std::size_t i = 0; i < chain.strokes.size(); ++i) used.push_back(i);
    const auto cornerAfter = [&](std::size_t i) {
        const auto ends = endPoints(*d.findStroke(chain.strokes[i]));
        return d.at(ends[chain.forward[i] ? 1 : 0]);
    };
    while (!used.empty()) {
        Sides out;
        out.closed = chain.closed;
        std::vector<Beside> raw;
        std::vector<std::size_t> kept;
        for (const std::size_t i : used)
            if (auto b = beside(d, chain.strokes[i], chain.forward[i], distance)) {
                raw.push_back(*b);
                kept.push_back(i);
            }
        if (raw.empty()) return std::nullopt;
        if (raw.size() == 1 && (raw[0].kind == StrokeKind::Circle || raw[0].closed)) return Sides{raw, true};
        std::vector<Beside> now = raw;
        std::vector<std::vector<Beside>> between(now.size());
        for (std::size_t k = 0; k < now.size(); ++k) {
            if (k + 1 == now.size() && !chain.closed) break;
            const std::size_t next = (k + 1) % now.size();
            const bool neighbours = (kept[k] + 1) % chain.strokes.size() == kept[next];
            if (next == k) return std::nullopt;
            if (neighbours) {
                between[k] = closeCorner(d, now[k], now[next], cornerAfter(kept[k]), distance, roundCorners);
            } else { // what lay between is swallowed: the two run on until they meet
                const auto meet = meetRunOn(now[k], now[next], (now[k].to + now[next].from) * 0.5);
                if (!meet) return std::nullopt;
                now[k].to = now[next].from = *meet;
            }
        }
        std::vector<std::size_t> good;
        for (std::size_t k = 0; k < now.size(); ++k)
            if (runsOn(raw[k], now[k])) good.push_back(kept[k]);
        if (good.size() == used.size()) {
            for (std::size_t k = 0; k < now.size(); ++k) {
                out.list.push_back(now[k]);
                out.list.insert(out.list.end(), between[k].begin(), between[k].end());
            }
            return out;
        }
        used = good;
    }
    return std::nullopt;
}

} // namespace gc
