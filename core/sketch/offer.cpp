#include "core/sketch/offer.hpp"

#include "core/sketch/curve2.hpp"
#include "core/sketch/drawing_words.hpp"

#include <algorithm>
#include <cmath>
#include <set>

namespace gc {

namespace {

constexpr double kNearAngle = 0.055; ///< rad: about three degrees

int nearestPoint(const Drawing& d, Vec2 place, double reach, const std::vector<int>& not_) {
    int best = 0;
    double least = reach;
    const auto hold = [&](int id, Vec2 at) {
        const double apart = length(at - place);
        if (apart < least && std::find(not_.begin(), not_.end(), id) == not_.end()) least = apart, best = id;
    };
    // Handles that follow their nodes are not shown and are no place to land.
    std::set<int> hidden;
    for (const Stroke& s : d.strokes)
        for (std::size_t i = 1; s.kind == StrokeKind::Spline && i < s.points.size(); i += 2)
            if (i / 2 >= s.held.size() || !s.held[i / 2]) hidden.insert(s.points[i]);
    for (const DrawnPoint& p : d.points)
        if (!hidden.count(p.id)) hold(p.id, p.at);
    hold(kOrigin, {});
    return best;
}

struct OnStrokeHit {
    int id = 0;
    Vec2 at, along; ///< the foot, and the direction there
    double apart = 1e300;
};

OnStrokeHit nearestStroke(const Drawing& d, Vec2 place, double reach) {
    OnStrokeHit best;
    for (const Stroke& s : d.strokes)
        for (const Curve2& c : curvesOf(d, s)) {
            const double t = c.nearest(place), apart = length(c.at(t) - place);
            if (apart < reach && apart < best.apart) best = {s.id, c.at(t), c.slope(t), apart};
        }
    if (best.id) return best; // what was drawn comes before what is always there
    if (std::fabs(place.x) < reach) return {kAxisLine, {0, place.y}, {0, 1}, std::fabs(place.x)};
    if (std::fabs(place.y) < reach) return {kLevelLine, {place.x, 0}, {1, 0}, std::fabs(place.y)};
    return best;
}

Relation relation(RelationKind kind, std::vector<int> of) {
    Relation r;
    r.kind = kind;
    r.of = std::move(of);
    return r;
}

/// A direction that the new line may be meant to have.
struct Way {
    Vec2 along;
    Relation relation;
    std::string words;
};

/// How a curve would run on beyond its end at that place; nothing where it does not end there.
std::optional<Vec2> directionAtEnd(const Drawing& d, const Stroke& s, Vec2 end) {
    for (const Curve2& c : curvesOf(d, s))
        for (const double t : {0.0, 1.0})
            if (length(c.at(t) - end) < 1e-6) return c.slope(t) * (t > 0 ? 1 : -1);
    return std::nullopt;
}

std::vector<Way> waysFor(const Drawing& d, int lastLine, std::optional<Vec2> from) {
    std::vector<Way> ways{{{1, 0}, relation(RelationKind::Horizontal, {kNewLine}), "level"},
                          {{0, 1}, relation(RelationKind::Vertical, {kNewLine}), "upright"}};
    const Stroke* last = d.findStroke(lastLine);
    if (!last) return ways;
    if (last->kind != StrokeKind::Line) { // a chain runs on smoothly from its arcs
        const auto on = from ? directionAtEnd(d, *last, *from) : std::nullopt;
        if (on && length(*on) > 1e-9)
            ways.push_back({*on, relation(RelationKind::Tangent, {lastLine, kNewLine}),
                            "tangent to " + nameOf(d, lastLine)});
        return ways;
    }
    const LineEnds l = lineEnds(d, lastLine);
    const Vec2 u = l.to - l.from;
    if (length(u) < 1e-9) return ways;
    const std::string name = nameOf(d, lastLine);
    ways.push_back(
        {{-u.y, u.x}, relation(RelationKind::Perpendicular, {lastLine, kNewLine}), "square to " + name});
    return ways;
}

} // namespace

Offer offerFor(const Drawing& d, const OfferQuestion& q) {
    Offer out;
    out.at = q.pointer;
    if (q.free) return out;
    const int point = nearestPoint(d, q.pointer, q.reach, q.notPoints);
    if (point) {
        out.at = d.at(point);
        out.relations.push_back(relation(RelationKind::Coincident, {kNewPoint, point}));
        out.words = point == kOrigin ? "on the origin" : "joined";
    }
    const OnStrokeHit hit = point ? OnStrokeHit{} : nearestStroke(d, q.pointer, q.reach);
    const Way* way = nullptr;
    const auto ways = waysFor(d, q.lastLine, q.from);
    if (q.from) {
        const Vec2 v = out.at - *q.from;
        const double far = length(v);
        for (const Way& w : ways) {
            const double off = std::fabs(cross(w.along, v)) / std::max(length(w.along), 1e-12);
            // Landing on a point, the direction must hold by itself; else the point gives way to it.
            const bool back = w.relation.kind == RelationKind::Tangent && dot(w.along, v) < 0; // a cusp
            if (!back && far > q.reach && off < (point ? 1e-7 : std::min(far * kNearAngle, 2 * q.reach))) {
                way = &w;
                break;
            }
        }
    }
    if (way && !point) {
        const Vec2 u = way->along * (1 / length(way->along));
        out.at = *q.from + u * dot(out.at - *q.from, u);
    }
    if (hit.id) {
        const bool runsAlong =
            way && std::fabs(cross(hit.along, way->along)) < 1e-6 * length(hit.along) * length(way->along);
        if (!way) {
            out.at = hit.at;
        } else if (!runsAlong) { // where the direction meets the stroke, to first order; exact for lines
            const double t = cross(hit.at - *q.from, hit.along) / cross(way->along, hit.along);
            out.at = *q.from + way->along * t;
        }
        if (!runsAlong) {
            out.relations.push_back(relation(RelationKind::OnStroke, {kNewPoint, hit.id}));
            out.words = "on " + nameOf(d, hit.id);
        }
    }
    if (way) {
        out.relations.push_back(way->relation);
        out.words = way->words + (out.words.empty() ? "" : ", " + out.words);
    }
    // A level or upright line that goes on from an arc about where the arc points is tangent to it, too: the
    // arc gives way.
    const Way& on = ways.back();
    if (way && way != &on && on.relation.kind == RelationKind::Tangent &&
        std::fabs(cross(on.along, way->along)) < kNearAngle * length(on.along) * length(way->along) &&
        dot(on.along, out.at - *q.from) > 0) {
        out.relations.push_back(on.relation);
        out.words = way->words + ", " + on.words + out.words.substr(way->words.size());
    }
    return out;
}

int thingAt(const Drawing& d, Vec2 place, double reach) {
    if (const int p = nearestPoint(d, place, reach, {})) return p;
    return nearestStroke(d, place, reach).id;
}

int strokeAt(const Drawing& d, Vec2 place, double reach) {
    const int found = nearestStroke(d, place, reach).id;
    return found > 0 ? found : 0;
}

std::vector<int> strokesWithin(const Drawing& d, const std::vector<Vec2>& loop) {
    const auto inside = [&](Vec2 p) { // even and odd crossings of a ray to the right
        bool in = false;
        for (std::size_t i = 0, j = loop.size() - 1; i < loop.size(); j = i++)
            if ((loop[i].y > p.y) != (loop[j].y > p.y) &&
                p.x < loop[j].x + (loop[i].x - loop[j].x) * (p.y - loop[j].y) / (loop[i].y - loop[j].y))
                in = !in;
        return in;
    };
    std::vector<int> out;
    if (loop.size() < 3) return out;
    for (const Stroke& s : d.strokes) {
        const auto curves = curvesOf(d, s);
        bool all = s.kind != StrokeKind::Point || inside(d.at(s.points[0]));
        for (const Curve2& c : curves) {
            constexpr int kLooks = 24;
            for (int k = 0; k <= kLooks && all; ++k) all = inside(c.at(static_cast<double>(k) / kLooks));
        }
        if (all) out.push_back(s.id);
    }
    return out;
}

} // namespace gc
