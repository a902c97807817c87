#include "core/sketch/trace.hpp"

#include <algorithm>

namespace gc {

namespace {

int drawTrace(Drawing& d, const Trace& t) {
    const int id = d.draw(t.kind, t.at, t.sizes);
    Stroke& s = *d.findStroke(id);
    if (s.kind == StrokeKind::Spline) s.sizes = t.sizes, s.held.assign(t.at.size() / 2, true);
    return id;
}

bool sameTrace(const Relation& r, const Trace& t) {
    return r.source == t.source && r.piece == t.piece && r.pieces == t.pieces;
}

/// The places as a relation keeps them: of the points, then what they do not decide.
std::vector<Vec2> placesOf(const Trace& t) {
    std::vector<Vec2> out = t.at;
    Stroke s;
    s.kind = t.kind;
    if (hasOwnSize(s)) out.push_back({t.sizes[0], 0});
    return out;
}

double apart(const std::vector<Vec2>& a, const std::vector<Vec2>& b) {
    double sum = a.size() == b.size() ? 0 : 1e300;
    for (std::size_t i = 0; i < std::min(a.size(), b.size()); ++i) sum += length(a[i] - b[i]);
    return sum;
}

/// Pieces that are told apart by their number alone may have changed places: then another one lies nearer to
/// where this one was, and only a person can say which is meant.
bool changedPlaces(const Relation& r, const Trace& found, const std::vector<Trace>& all) {
    if (found.pieces < 2 || r.where.empty()) return false;
    const double far = apart(placesOf(found), r.where);
    return std::any_of(all.begin(), all.end(), [&](const Trace& t) {
        return t.source == found.source && t.piece != found.piece && t.kind == found.kind &&
               apart(placesOf(t), r.where) < far;
    });
}

void relateTo(Drawing& d, RelationKind kind, int of, const Trace& t) {
    Relation& r = *d.findRelation(d.relate(kind, {of}));
    r.source = t.source;
    r.piece = t.piece;
    r.pieces = t.pieces;
    r.where = placesOf(t);
    d.sized = true;
}

} // namespace

bool isHold(RelationKind kind) {
    return kind == RelationKind::Fixed || kind == RelationKind::Follows || kind == RelationKind::OnTrace;
}

std::vector<Curve2> curvesOf(const Trace& trace) {
    Drawing d;
    const int id = drawTrace(d, trace);
    return curvesOf(d, *d.findStroke(id));
}

int followTrace(Drawing& d, const Trace& t) {
    for (const Relation& r : d.relations)
        if (r.kind == RelationKind::Follows && sameTrace(r, t)) return r.of[0];
    const int id = drawTrace(d, t);
    relateTo(d, RelationKind::Follows, id, t);
    return id;
}

void holdPoint(Drawing& d, int point, const Trace& t) {
    relateTo(d, RelationKind::OnTrace, point, t);
}

Renewal renewTraces(Drawing& d, const std::vector<Trace>& traces) {
    Renewal out;
    for (Relation& r : d.relations) {
        if (r.kind != RelationKind::Follows && r.kind != RelationKind::OnTrace) continue;
        const auto t =
            std::find_if(traces.begin(), traces.end(), [&](const Trace& one) { return sameTrace(r, one); });
        Stroke* s = r.kind == RelationKind::Follows ? d.findStroke(r.of[0]) : nullptr;
        const bool alike = t != traces.end() &&
                           (s ? s->kind == t->kind && s->points.size() == t->at.size() : t->at.size() == 1);
        if (!alike || changedPlaces(r, *t, traces)) {
            out.lost.push_back(r.id);
            continue;
        }
        const auto places = placesOf(*t);
        if (places != r.where) out.moved.push_back(r.id);
        r.where = places;
        if (s && s->kind == StrokeKind::Spline) s->sizes = t->sizes;
    }
    return out;
}

} // namespace gc
