#include "core/sketch/measured.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/over_all.hpp"

#include <cmath>
#include <numbers>

namespace gc {

double measured(const Drawing& d, const Relation& r) {
    using K = RelationKind;
    if (r.overAll) return measuredOverAll(d, r);
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
        if (r.of.size() == 2 && isRound(d, r.of[0])) return std::fabs(radius(r.of[0]) - radius(r.of[1]));
        if (r.of.size() == 2 && commonSource(d, r.of[0], r.of[1]))
            return std::fabs(besideBy(*d.findStroke(r.of[0])) - besideBy(*d.findStroke(r.of[1])));
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
        return s.sizes[0] * turnBetween(a, b);
    }
    case K::Ratio: {
        if (r.of.size() == 1) return radius(r.of[0]);
        if (!isLine(d, r.of[0])) return radius(r.of[0]) / radius(r.of[1]);
        const LineEnds a = lineEnds(d, r.of[0]), b = lineEnds(d, r.of[1]);
        return length(a.to - a.from) / std::max(length(b.to - b.from), 1e-12);
    }
    case K::Turned: {
        const Vec2 c = d.at(r.of[2]), p = d.at(r.of[0]) - c, q = d.at(r.of[1]) - c;
        return r.sense > 0 ? turnBetween(p, q) : turnBetween(q, p);
    }
    default:
        return 0;
    }
}

} // namespace gc
