#include "core/sketch/over_all.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

using K = RelationKind;

/// Where a point is, or the centre of a round.
Vec2 middleOf(const Drawing& d, int id) {
    return d.at(isPoint(d, id) ? id : centrePoint(*d.findStroke(id)));
}

double radiusOf(const Drawing& d, int id) {
    return isRound(d, id) ? d.findStroke(id)->sizes[0] : 0;
}

bool reaches(const Drawing& d, const Stroke& s, Vec2 way) {
    if (s.kind != StrokeKind::Arc) return true;
    constexpr double kSlack = 1e-6; // rad
    const Vec2 c = d.at(s.points[2]), a = d.at(s.points[0]) - c, b = d.at(s.points[1]) - c;
    return turnBetween(a, way) <= turnBetween(a, b) + kSlack || turnBetween(way, a) < kSlack;
}

bool toLine(const Drawing& d, const Relation& r) {
    return r.kind == K::DiameterAboutAxis || (r.of.size() == 2 && isLine(d, r.of[1]));
}

int lineOf(const Relation& r) {
    return r.of.size() > 1 ? r.of[1] : kAxisLine;
}

/// The way in which it is measured, from the first to the second, or out from the line.
Vec2 wayOf(const Drawing& d, const Relation& r) {
    if (toLine(d, r)) {
        const LineEnds l = lineEnds(d, lineOf(r));
        return leftOf(unit(l.to - l.from)) * r.sense;
    }
    if (r.kind == K::Across) return {double(r.sense), 0};
    if (r.kind == K::Along) return {0, double(r.sense)};
    return unit(middleOf(d, r.of[1]) - middleOf(d, r.of[0]), {1, 0});
}

} // namespace

int outermostThing(const Drawing& d, int thing, Vec2 way) {
    const Stroke* s = d.findStroke(thing);
    if (!s || reaches(d, *s, way)) return thing;
    const double first = dot(d.at(s->points[0]), way), second = dot(d.at(s->points[1]), way);
    return s->points[first >= second ? 0 : 1];
}

std::string whyNotOverAll(const Drawing& d, const Relation& r, bool asItLies) {
    const auto isPlace = [&](int id) { return isPoint(d, id) || isRound(d, id); };
    const bool rounds = std::any_of(r.of.begin(), r.of.end(), [&](int id) { return isRound(d, id); });
    const bool two = r.of.size() == 2 && r.of[0] != r.of[1];
    const bool places = two && isPlace(r.of[0]) && isPlace(r.of[1]);
    const bool line =
        !r.of.empty() && isRound(d, r.of[0]) && (r.of.size() == 1 || (two && isLine(d, r.of[1])));
    const bool good = r.kind == K::Across || r.kind == K::Along ? places
                      : r.kind == K::Distance                   ? places || (line && two)
                      : r.kind == K::DiameterAboutAxis          ? line
                                                                : false;
    if (!rounds || !good) return "Choose two circles or arcs, or one and a point or a line.";
    if (!asItLies) return {};
    const Vec2 way = wayOf(d, r);
    for (std::size_t i = 0; i < r.of.size(); ++i) {
        const Vec2 out = toLine(d, r) || i > 0 ? way : way * -1;
        if (isRound(d, r.of[i]) && !reaches(d, *d.findStroke(r.of[i]), out))
            return "The arc does not reach out that way. Choose its end instead.";
    }
    return {};
}

void freezeOverAll(const Drawing& d, Relation& r) {
    double apart = 1;
    if (toLine(d, r)) {
        const LineEnds l = lineEnds(d, lineOf(r));
        apart = cross(l.to - l.from, middleOf(d, r.of[0]) - l.from);
    } else {
        const Vec2 by = middleOf(d, r.of[1]) - middleOf(d, r.of[0]);
        apart = r.kind == K::Across ? by.x : r.kind == K::Along ? by.y : 1;
    }
    r.sense = apart < 0 ? -1 : 1;
}

LineEnds overAllSpan(const Drawing& d, const Relation& r) {
    const Vec2 way = wayOf(d, r);
    if (toLine(d, r)) {
        const LineEnds l = lineEnds(d, lineOf(r));
        const Vec2 u = unit(l.to - l.from), c = middleOf(d, r.of[0]);
        const Vec2 out = c + way * radiusOf(d, r.of[0]);
        return {l.from + u * dot(out - l.from, u), out};
    }
    return {middleOf(d, r.of[0]) - way * radiusOf(d, r.of[0]),
            middleOf(d, r.of[1]) + way * radiusOf(d, r.of[1])};
}

double measuredOverAll(const Drawing& d, const Relation& r) {
    const LineEnds span = overAllSpan(d, r);
    const Vec2 by = span.to - span.from;
    return r.kind == K::Across              ? std::fabs(by.x)
           : r.kind == K::Along             ? std::fabs(by.y)
           : r.kind == K::DiameterAboutAxis ? 2 * length(by)
                                            : length(by);
}

std::optional<Relation> takenOtherwise(const Drawing& d, const Relation& r) {
    if (r.kind != K::Across && r.kind != K::Along && r.kind != K::Distance && r.kind != K::DiameterAboutAxis)
        return std::nullopt;
    Relation out = r;
    out.overAll = !r.overAll;
    for (int& id : out.of) {
        if (r.overAll) {
            if (isRound(d, id)) id = centrePoint(*d.findStroke(id));
            continue;
        }
        const auto round = std::find_if(d.strokes.begin(), d.strokes.end(), [&](const Stroke& s) {
            return isRound(d, s.id) && centrePoint(s) == id;
        });
        if (round != d.strokes.end()) id = round->id;
    }
    if (out.of == r.of) return std::nullopt;
    freezeSense(d, out);
    if (!whyNot(d, out).empty()) return std::nullopt;
    return out;
}

} // namespace gc
