/// \file What relations join, and which of the shapes that satisfy one is meant.

#include "core/sketch/drawing.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/over_all.hpp"

#include <algorithm>
#include <set>

namespace gc {

namespace {

int signOf(double v) {
    return v < 0 ? -1 : 1;
}

double heightOver(LineEnds l, Vec2 p) {
    return cross(l.to - l.from, p - l.from);
}

/// The places of a stroke's points from another place, and what the points do not decide.
std::vector<Vec2> heldPlaces(const Drawing& d, const Stroke& s, Vec2 from) {
    std::vector<Vec2> out;
    for (const int p : s.points) out.push_back(d.at(p) - from);
    if (hasOwnSize(s)) out.push_back({s.sizes[0], 0});
    return out;
}

void freezeTangent(const Drawing& d, Relation& r) {
    const bool firstLine = isLine(d, r.of[0]), secondLine = isLine(d, r.of[1]);
    if (firstLine || secondLine) {
        const Stroke* other = d.findStroke(r.of[firstLine ? 1 : 0]);
        if (other && other->kind != StrokeKind::Fair && other->kind != StrokeKind::Spline &&
            other->kind != StrokeKind::Poles && other->kind != StrokeKind::Beside)
            r.sense = signOf(heightOver(lineEnds(d, r.of[firstLine ? 0 : 1]), d.at(centrePoint(*other))));
        return;
    }
    if (!isRound(d, r.of[0]) || !isRound(d, r.of[1])) return;
    // From outside when the centres lie further apart than the larger radius.
    const Stroke &a = *d.findStroke(r.of[0]), &b = *d.findStroke(r.of[1]);
    const double apart = length(d.at(centrePoint(a)) - d.at(centrePoint(b)));
    r.sense = apart > std::max(a.sizes[0], b.sizes[0]) ? 1 : -1;
}

void freezeDistance(const Drawing& d, Relation& r) {
    if (r.of.size() == 2 && commonSource(d, r.of[0], r.of[1])) {
        r.sense = signOf(besideBy(*d.findStroke(r.of[0])) - besideBy(*d.findStroke(r.of[1])));
    } else if (r.of.size() == 2 && isRound(d, r.of[0])) {
        r.sense = signOf(d.findStroke(r.of[0])->sizes[0] - d.findStroke(r.of[1])->sizes[0]);
    } else if (r.of.size() == 2 && isLine(d, r.of[1])) {
        const Vec2 p = isLine(d, r.of[0]) ? lineEnds(d, r.of[0]).from : d.at(r.of[0]);
        r.sense = signOf(heightOver(lineEnds(d, r.of[1]), p));
    }
}

void freezeAngle(const Drawing& d, Relation& r) {
    const LineEnds a = lineEnds(d, r.of[0]), b = lineEnds(d, r.of[1]);
    const Vec2 u = a.to - a.from;
    Vec2 v = b.to - b.from;
    r.turned = dot(u, v) < 0;
    if (r.turned) v = v * -1;
    r.sense = signOf(cross(u, v));
}

} // namespace

void freezeSense(const Drawing& d, Relation& r) {
    if (r.overAll) return freezeOverAll(d, r);
    switch (r.kind) {
    case RelationKind::Tangent:
        freezeTangent(d, r);
        break;
    case RelationKind::AngleBetween:
        freezeAngle(d, r);
        break;
    case RelationKind::Together:
        r.where.clear();
        for (const int id : r.of) {
            const auto held = heldPlaces(d, *d.findStroke(id), d.at(d.findStroke(r.of[0])->points[0]));
            r.where.insert(r.where.end(), held.begin(), held.end());
        }
        break;
    case RelationKind::Fixed:
    case RelationKind::Follows:
    case RelationKind::OnTrace:
        r.where.clear();
        for (const int id : r.of)
            if (isPoint(d, id))
                r.where.push_back(d.at(id));
            else if (const Stroke* s = d.findStroke(id)) {
                const auto held = heldPlaces(d, *s, {});
                r.where.insert(r.where.end(), held.begin(), held.end());
            }
        break;
    case RelationKind::Distance:
        freezeDistance(d, r);
        break;
    case RelationKind::Across:
    case RelationKind::Along: {
        Vec2 a, b;
        if (r.of.size() == 1 && isLine(d, r.of[0])) {
            const LineEnds l = lineEnds(d, r.of[0]);
            a = l.from, b = l.to;
        } else {
            a = r.of.size() == 1 ? Vec2{} : d.at(r.of[0]);
            b = d.at(r.of.back());
        }
        r.sense = signOf(r.kind == RelationKind::Across ? b.x - a.x : b.y - a.y);
        break;
    }
    case RelationKind::DiameterAboutAxis: {
        const LineEnds axis = lineEnds(d, r.of.size() > 1 ? r.of[1] : kAxisLine);
        const Vec2 p = isLine(d, r.of[0]) ? lineEnds(d, r.of[0]).from : d.at(r.of[0]);
        r.sense = signOf(heightOver(axis, p));
        break;
    }
    case RelationKind::Turned: {
        const Vec2 c = d.at(r.of[2]);
        r.sense = signOf(cross(d.at(r.of[0]) - c, d.at(r.of[1]) - c));
        break;
    }
    default:
        break;
    }
}

namespace {

struct Operands {
    int points = 0, lines = 0, rounds = 0, others = 0, unknown = 0;
    std::size_t all = 0;
};

Operands count(const Drawing& d, const std::vector<int>& of) {
    Operands n;
    n.all = of.size();
    for (const int id : of)
        ++(isPoint(d, id)     ? n.points
           : isLine(d, id)    ? n.lines
           : isRound(d, id)   ? n.rounds
           : d.findStroke(id) ? n.others
                              : n.unknown);
    return n;
}

bool haveSharedEnd(const Drawing& d, const std::vector<int>& of) {
    const Stroke *a = d.findStroke(of[0]), *b = d.findStroke(of[1]);
    if (!a || !b) return false;
    for (const int p : endPoints(*a))
        for (const int q : endPoints(*b))
            if (p == q || length(d.at(p) - d.at(q)) < 1e-6) return true;
    return false;
}

/// Two ellipses, two conics, or two curves beside others.
bool areAlike(const Drawing& d, const std::vector<int>& of) {
    const Stroke *a = d.findStroke(of[0]), *b = d.findStroke(of[1]);
    const auto oval = [](const Stroke* s) {
        return s && (s->kind == StrokeKind::Ellipse || s->kind == StrokeKind::EllipseArc);
    };
    const auto beside = [](const Stroke* s) { return s && s->kind == StrokeKind::Beside && s->sizes[0] > 0; };
    return (oval(a) && oval(b)) || (beside(a) && beside(b)) ||
           (a && b && a->kind == StrokeKind::Conic && b->kind == StrokeKind::Conic);
}

std::string need(bool good, const char* sentence) {
    return good ? std::string() : sentence;
}

/// Is any of them a stroke of that kind?
bool anyIs(const Drawing& d, const std::vector<int>& of, StrokeKind kind) {
    return std::any_of(of.begin(), of.end(), [&](int id) {
        const Stroke* s = d.findStroke(id);
        return s && s->kind == kind;
    });
}

std::string whyNotTangent(const Drawing& d, const std::vector<int>& of, const Operands& n, bool asItLies) {
    if (n.all != 2 || n.points || n.lines == 2) return "Choose two strokes, at least one of them curved.";
    if (n.others && n.rounds + n.others == 2 && asItLies && !haveSharedEnd(d, of))
        return "Two curves can be tangent where their ends meet. Join their ends first.";
    if (asItLies && anyIs(d, of, StrokeKind::Beside) && !haveSharedEnd(d, of))
        return "A curve that follows another can be tangent at its ends. Join the ends first.";
    return {};
}

std::string whyNotSmooth(const Drawing& d, const std::vector<int>& of, const Operands& n, bool asItLies) {
    if (anyIs(d, of, StrokeKind::EllipseArc))
        return "An elliptical arc has a curvature of its own at its ends. Make it tangent instead.";
    if (anyIs(d, of, StrokeKind::Beside))
        return "A curve that follows another has a curvature of its own at its ends. Make it tangent "
               "instead.";
    return need(n.all == 2 && !n.points && n.lines < 2 && (!asItLies || haveSharedEnd(d, of)),
                "Choose two strokes whose ends meet, at least one of them curved.");
}

std::string whyNotSymmetric(const Drawing& d, const std::vector<int>& of, const Operands& n) {
    const char* const choose = "Choose two alike things, then the line to mirror across.";
    if (n.all != 3 || !isLine(d, of[2])) return choose;
    if (isPoint(d, of[0]) && isPoint(d, of[1])) return {};
    const Stroke *a = d.findStroke(of[0]), *b = d.findStroke(of[1]);
    return need(a && b && a->kind == b->kind && a->points.size() == b->points.size(), choose);
}

/// The same for dimensions.
std::string whyNoSize(const Drawing& d, RelationKind kind, const std::vector<int>& of, const Operands& n) {
    using K = RelationKind;
    switch (kind) {
    case K::Distance:
        return need((n.all == 1 && n.lines == 1) || (n.all == 2 && n.points == 2) ||
                        (n.all == 2 && isLine(d, of[1]) && n.points + n.lines == 2) ||
                        (n.all == 2 && n.rounds == 2) || (n.all == 2 && commonSource(d, of[0], of[1])),
                    "Choose a line, two points, a point and a line, two arcs, or a curve and its offset.");
    case K::Across:
    case K::Along:
        return need((n.all == 1 && n.lines + n.points == 1) || (n.all == 2 && n.points == 2),
                    "Choose a line or two points.");
    case K::Radius:
    case K::Diameter: {
        const Stroke* s = n.all == 1 ? d.findStroke(of[0]) : nullptr;
        const bool oval =
            kind == K::Radius && s && (s->kind == StrokeKind::Ellipse || s->kind == StrokeKind::EllipseArc);
        return need((n.all == 1 && n.rounds == 1) || oval, "Choose a circle or an arc.");
    }
    case K::DiameterAboutAxis:
        return need((n.all == 1 || (n.all == 2 && isLine(d, of[1]))) && !n.rounds && !n.others,
                    "Choose a point or an upright line, and the axis if it is not the drawing's own.");
    case K::AngleBetween:
        return need(n.all == 2 && n.lines == 2, "Choose two lines.");
    case K::ArcLength: {
        const Stroke* s = n.all == 1 ? d.findStroke(of[0]) : nullptr;
        return need(s && s->kind == StrokeKind::Arc, "Choose an arc.");
    }
    case K::Ratio:
        if (const Stroke* s = n.all == 1 ? d.findStroke(of[0]) : nullptr; s && s->kind == StrokeKind::Conic)
            return {};
        return need(n.all == 2 && (n.lines == 2 || n.rounds == 2), "Choose two lines or two arcs.");
    case K::Turned:
        return need(n.all == 3 && n.points == 3, "Choose a point, the point that it turns to, and a centre.");
    default:
        return {};
    }
}

/// From a to b as from b to c may name one point twice.
bool namesOneTwice(RelationKind kind, const std::vector<int>& of) {
    const bool repeats = std::set<int>(of.begin(), of.end()).size() != of.size();
    return repeats && (kind != RelationKind::SameStep || of.size() != 4 || of[0] == of[1] || of[2] == of[3]);
}

} // namespace

std::string whyNot(const Drawing& d, RelationKind kind, const std::vector<int>& of, bool asItLies) {
    const Operands n = count(d, of);
    const bool fair = anyIs(d, of, StrokeKind::Fair);
    if (fair && kind != RelationKind::Symmetric && kind != RelationKind::Carried &&
        kind != RelationKind::Together && kind != RelationKind::Fixed)
        return "A fair curve goes where its stations are. Choose a station instead.";
    if (n.unknown) return "Something that this relation needs is no longer in the drawing.";
    using K = RelationKind;
    if (namesOneTwice(kind, of)) return "Choose two different things.";
    switch (kind) {
    case K::Coincident:
        return need(n.points == 2 && n.all == 2, "Choose two points.");
    case K::OnStroke:
        return need(n.points == 1 && n.all == 2 && isPoint(d, of[0]),
                    "Choose a point, then a line or curve.");
    case K::Horizontal:
    case K::Vertical:
        return need((n.all == 1 && n.lines == 1) || (n.all == 2 && n.points == 2),
                    "Choose a line or two points.");
    case K::Parallel:
    case K::Perpendicular:
    case K::Collinear:
        return need(n.all == 2 && n.lines == 2, "Choose two lines.");
    case K::Tangent:
        return whyNotTangent(d, of, n, asItLies);
    case K::Smooth:
        return whyNotSmooth(d, of, n, asItLies);
    case K::Equal:
        return need(n.all == 2 && (n.lines == 2 || n.rounds == 2 || areAlike(d, of)),
                    "Choose two lines, two arcs, two ellipses or two conic arcs.");
    case K::Concentric:
        return need(n.all == 2 && (n.rounds == 2 || (n.rounds == 1 && n.points == 1)),
                    "Choose two arcs or circles, or one and a point.");
    case K::Midpoint:
        return need(n.all == 2 && n.points == 1 && n.lines == 1 && isPoint(d, of[0]) && d.findStroke(of[1]),
                    "Choose a point, then a line.");
    case K::Symmetric:
        return whyNotSymmetric(d, of, n);
    case K::Fixed:
        return need(n.all == 1 && of[0] > 0, "Choose a point or a stroke.");
    case K::Follows:
        return need(n.all == 1 && d.findStroke(of[0]), "Choose a stroke.");
    case K::OnTrace:
        return need(n.all == 1 && n.points == 1 && of[0] > 0, "Choose a point.");
    case K::Together:
        return need(n.all > 1 && std::all_of(of.begin(), of.end(), [&](int id) { return d.findStroke(id); }),
                    "Choose two or more strokes.");
    case K::Carried: {
        const Stroke* rail = n.all == 3 && n.points == 2 ? d.findStroke(of[2]) : nullptr;
        return need(rail && rail->kind != StrokeKind::Point,
                    "Choose two points, then the curve between them.");
    }
    case K::SameStep:
        return need(n.all == 4 && n.points == 4, "Choose two points, then two more.");
    default:
        return whyNoSize(d, kind, of, n);
    }
}

std::string whyNot(const Drawing& d, const Relation& r, bool asItLies) {
    return r.overAll ? whyNotOverAll(d, r, asItLies) : whyNot(d, r.kind, r.of, asItLies);
}

} // namespace gc
