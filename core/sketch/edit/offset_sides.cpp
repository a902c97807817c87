#include "core/sketch/edit/offset_sides.hpp"

#include "core/base/tolerance.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

constexpr double kPi = std::numbers::pi;

Vec2 leftOf(Vec2 u) {
    return {-u.y, u.x};
}

} // namespace

Vec2 Beside::direction(bool atEnd) const {
    if (kind == StrokeKind::Line) return unit(to - from);
    if (kind == StrokeKind::Spline) {
        const std::size_t node = atEnd ? fitted.at.size() - 2 : 0;
        return unit(fitted.at[node + 1] - fitted.at[node]);
    }
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
        return drawShape(d, b.fitted);
    }
}

namespace {

/// A spline through points of the true offset that lies within kOffsetFit of it, with the true directions.
StrokeShape fitBeside(const StrokeRun& run, double from, double to, double distance) {
    const auto at = [&](double u) { return run.at(u) + leftOf(unit(run.slope(u))) * distance; };
    StrokeShape out;
    for (int pieces = 4 * static_cast<int>(std::ceil(std::fabs(to - from))); pieces <= 128; pieces *= 2) {
        std::vector<Vec2> nodes;
        std::vector<double> lengths;
        const auto parameter = [&](double k) { return from + (to - from) * k / pieces; };
        for (int k = 0; k <= pieces; ++k) nodes.push_back(at(parameter(k)));
        for (int k = 0; k < pieces; ++k)
            lengths.push_back(std::max(
                length(nodes[static_cast<std::size_t>(k) + 1] - nodes[static_cast<std::size_t>(k)]), 1e-9));
        out = {StrokeKind::Spline, {}, lengths, std::vector<bool>(nodes.size(), true)};
        for (int k = 0; k <= pieces; ++k) {
            const auto i = static_cast<std::size_t>(k);
            // Directions of the offset are those of the curve; its speed along the chords is one.
            const double mean = k == 0        ? lengths.front()
                                : k == pieces ? lengths.back()
                                              : 0.5 * (lengths[i - 1] + lengths[i]);
            const Vec2 ahead = unit(run.slope(parameter(k))) * (to > from ? 1.0 : -1.0);
            out.at.insert(out.at.end(), {nodes[i], nodes[i] + ahead * (mean / 3)});
        }
        Drawing trial;
        const int s = drawShape(trial, out);
        const StrokeRun fit(trial, *trial.findStroke(s));
        double worst = 0;
        for (int k = 0; k < pieces; ++k)
            for (const double part : {0.25, 0.5, 0.75}) {
                const Vec2 p = at(parameter(k + part)), q = fit.at(k + part);
                const Vec2 u = unit(fit.slope(k + part));
                worst = std::max(worst, std::fabs(cross(u, p - q)));
            }
        if (worst < kOffsetFit) break;
    }
    return out;
}

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
    b.kind = StrokeKind::Spline;
    // Written in the stroke's own direction: its left is the walk's right when it is walked backwards.
    b.fitted = fitBeside(run, 0, run.end(), forward ? distance : -distance);
    if (!forward) { // turned round, so that it runs as the walk does
        StrokeShape back = b.fitted;
        const std::size_t n = back.at.size() / 2;
        for (std::size_t i = 0; i < n; ++i) {
            const Vec2 node = b.fitted.at[2 * (n - 1 - i)], handle = b.fitted.at[2 * (n - 1 - i) + 1];
            back.at[2 * i] = node, back.at[2 * i + 1] = node * 2 - handle;
        }
        std::reverse(back.sizes.begin(), back.sizes.end());
        b.fitted = back;
    }
    b.from = b.fitted.at.front(), b.to = b.fitted.at[b.fitted.at.size() - 2];
    return b;
}

// ---- corners

/// Where two sides meet when they run on, nearest to a place.
std::optional<Vec2> meetRunOn(const Beside& a, const Beside& b, Vec2 near) {
    if (a.kind == StrokeKind::Spline || b.kind == StrokeKind::Spline) return std::nullopt;
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

Drawing drawnAlone(const Beside& b) {
    Drawing d;
    drawSide(d, b);
    return d;
}

/// Where two sides cross as they are: what curves that cannot run on do on the inside of a corner.
bool crossAsTheyAre(Beside& a, Beside& b, Vec2 near) {
    const Drawing da = drawnAlone(a), db = drawnAlone(b);
    const StrokeRun ra(da, da.strokes[0]), rb(db, db.strokes[0]);
    double least = 1e300, onA = 0, onB = 0;
    for (std::size_t i = 0; i < ra.curves().size(); ++i)
        for (std::size_t j = 0; j < rb.curves().size(); ++j)
            for (const Meeting& m : meetings(ra.curves()[i], rb.curves()[j]))
                if (length(m.at - near) < least) {
                    least = length(m.at - near);
                    onA = static_cast<double>(i) + m.onFirst, onB = static_cast<double>(j) + m.onSecond;
                }
    if (least > 1e299) return false;
    const Vec2 at = ra.at(onA);
    if (a.kind == StrokeKind::Spline) a.fitted = partOf(da, da.strokes[0], 0, onA);
    if (b.kind == StrokeKind::Spline) b.fitted = partOf(db, db.strokes[0], onB, rb.end());
    a.to = b.from = at;
    return true;
}

/// The corner between two neighbours: moves their ends onto it, or gives the arc about it.
std::optional<Beside> closeCorner(Beside& a, Beside& b, Vec2 corner, double distance, bool roundCorners) {
    if (length(a.to - b.from) < kSamePoint) {
        b.from = a.to;
        return std::nullopt;
    }
    // On the outside of a corner the sides come apart; on the inside they cross.
    const bool outer = cross(a.direction(true), b.direction(false)) * distance < 0;
    const Vec2 miter = a.to + b.from - corner;
    const auto meet = outer && roundCorners ? std::nullopt : meetRunOn(a, b, miter);
    if (meet) {
        a.to = b.from = *meet;
        return std::nullopt;
    }
    if (!outer && crossAsTheyAre(a, b, miter)) return std::nullopt;
    Beside arc;
    arc.kind = StrokeKind::Arc;
    arc.centre = corner;
    arc.radius = std::fabs(distance);
    arc.left = distance < 0;
    arc.from = a.to, arc.to = b.from;
    return arc;
}

} // namespace

std::optional<Sides> sidesOf(const Drawing& d, const Chain& chain, double distance, bool roundCorners) {
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
        if (raw.size() == 1 && raw[0].kind == StrokeKind::Circle) return Sides{raw, true};
        std::vector<Beside> now = raw;
        std::vector<std::optional<Beside>> arcs(now.size());
        for (std::size_t k = 0; k < now.size(); ++k) {
            if (k + 1 == now.size() && !chain.closed) break;
            const std::size_t next = (k + 1) % now.size();
            const bool neighbours = (kept[k] + 1) % chain.strokes.size() == kept[next];
            if (next == k) return std::nullopt;
            if (neighbours) {
                arcs[k] = closeCorner(now[k], now[next], cornerAfter(kept[k]), distance, roundCorners);
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
                if (arcs[k]) out.list.push_back(*arcs[k]);
            }
            return out;
        }
        used = good;
    }
    return std::nullopt;
}

} // namespace gc
