#include "core/sketch/drawing.hpp"

#include "core/sketch/splines.hpp"

#include <algorithm>
#include <numbers>
#include <set>
#include <stdexcept>

namespace gc {

const std::vector<StrokeWords>& allStrokeWords() {
    static const std::vector<StrokeWords> all{
        {StrokeKind::Point, "point", "point", 1, 1, 0},
        {StrokeKind::Line, "line", "line", 2, 2, 0},
        {StrokeKind::Arc, "arc", "arc", 3, 3, 1},
        {StrokeKind::Circle, "circle", "circle", 1, 1, 1},
        {StrokeKind::Ellipse, "ellipse", "ellipse", 2, 2, 1},
        {StrokeKind::EllipseArc, "ellipse-arc", "elliptical arc", 4, 4, 1},
        {StrokeKind::Conic, "conic", "conic arc", 3, 3, 1},
        {StrokeKind::Spline, "spline", "spline", 4, -1, -1},
        {StrokeKind::Poles, "poles", "spline", 4, -1, 0},
    };
    return all;
}

const StrokeWords& wordsOf(StrokeKind kind) {
    return allStrokeWords()[static_cast<std::size_t>(kind)];
}

const std::vector<RelationWords>& allRelationWords() {
    using K = RelationKind;
    static const std::vector<RelationWords> all{
        {K::Coincident, "coincident", "Coincident", "{0} lies on {1}", false, {}},
        {K::OnStroke, "on", "On", "{0} lies on {1}", false, {}},
        {K::Horizontal, "level", "Level", "{0} is level", false, {}},
        {K::Vertical, "upright", "Upright", "{0} is upright", false, {}},
        {K::Parallel, "parallel", "Parallel", "{0} is parallel to {1}", false, {}},
        {K::Perpendicular, "perpendicular", "Square", "{0} is square to {1}", false, {}},
        {K::Tangent, "tangent", "Tangent", "{0} is tangent to {1}", false, {}},
        {K::Equal, "equal", "Equal", "{0} equals {1}", false, {}},
        {K::Concentric, "concentric", "Concentric", "{0} shares its centre with {1}", false, {}},
        {K::Midpoint, "midpoint", "Midpoint", "{0} is the middle of {1}", false, {}},
        {K::Symmetric, "symmetric", "Symmetric", "{0} mirrors {1} across {2}", false, {}},
        {K::Collinear, "collinear", "In line", "{0} is in line with {1}", false, {}},
        {K::Smooth, "smooth", "Smooth", "{0} runs on into {1} with even curvature", false, {}},
        {K::Fixed, "fixed", "Fixed", "{0} stays where it is", false, {}},
        {K::Together, "together", "Together", "{0} and others keep their places to each other", false, {}},
        {K::SameStep, "same-step", "Same step", "{0} to {1} is the same step as {2} to {3}", false, {}},
        {K::Distance, "distance", "Distance", "distance {0} to {1}", true, kLength},
        {K::Across, "across", "Across", "across from {0} to {1}", true, kLength},
        {K::Along, "up", "Up", "up from {0} to {1}", true, kLength},
        {K::Radius, "radius", "Radius", "radius of {0}", true, kLength},
        {K::Diameter, "diameter", "Diameter", "diameter of {0}", true, kLength},
        {K::DiameterAboutAxis, "about-axis", "Diameter about the axis", "diameter at {0}", true, kLength},
        {K::AngleBetween, "angle", "Angle", "angle of {0} to {1}", true, kAngle},
        {K::ArcLength, "arc-length", "Arc length", "length of {0}", true, kLength},
        {K::Ratio, "ratio", "Ratio", "{0} to {1}", true, kNumber},
        {K::Turned, "turned", "Turn", "turn of {0} to {1} about {2}", true, kAngle},
    };
    return all;
}

const RelationWords& wordsOf(RelationKind kind) {
    return allRelationWords()[static_cast<std::size_t>(kind)];
}

int Drawing::addPoint(Vec2 where) {
    points.push_back({nextId, where});
    return nextId++;
}

int Drawing::addStroke(StrokeKind kind, std::vector<int> pointIds, std::vector<double> sizes) {
    Stroke s;
    s.id = nextId++;
    s.kind = kind;
    s.points = std::move(pointIds);
    s.sizes = std::move(sizes);
    strokes.push_back(std::move(s));
    return strokes.back().id;
}

int Drawing::draw(StrokeKind kind, const std::vector<Vec2>& places, std::vector<double> sizes) {
    std::vector<int> ids;
    for (const Vec2 p : places) ids.push_back(addPoint(p));
    if (kind == StrokeKind::Spline && sizes.empty()) {
        std::vector<Vec2> nodes;
        for (std::size_t i = 0; i < places.size(); i += 2) nodes.push_back(places[i]);
        sizes = spansFor(nodes);
    }
    return addStroke(kind, std::move(ids), std::move(sizes));
}

int Drawing::relate(RelationKind kind, std::vector<int> of, std::string expression) {
    Relation r;
    r.id = nextId++;
    r.kind = kind;
    r.of = std::move(of);
    r.expression = std::move(expression);
    freezeSense(*this, r);
    relations.push_back(std::move(r));
    return relations.back().id;
}

namespace {

template <class List>
auto findById(List& list, int id) -> decltype(&list[0]) {
    const auto it = std::lower_bound(list.begin(), list.end(), id,
                                     [](const auto& x, int wanted) { return x.id < wanted; });
    return it == list.end() || it->id != id ? nullptr : &*it;
}

} // namespace

const DrawnPoint* Drawing::findPoint(int id) const {
    return findById(points, id);
}
DrawnPoint* Drawing::findPoint(int id) {
    return findById(points, id);
}
const Stroke* Drawing::findStroke(int id) const {
    return findById(strokes, id);
}
Stroke* Drawing::findStroke(int id) {
    return findById(strokes, id);
}
const Relation* Drawing::findRelation(int id) const {
    return findById(relations, id);
}
Relation* Drawing::findRelation(int id) {
    return findById(relations, id);
}

Vec2 Drawing::at(int pointId) const {
    if (pointId == kOrigin) return {};
    const DrawnPoint* p = findPoint(pointId);
    if (!p) throw std::logic_error("no point of that id");
    return p->at;
}

void Drawing::erase(const std::vector<int>& ids) {
    std::set<int> gone(ids.begin(), ids.end());
    for (const Stroke& s : strokes) // a stroke without one of its points is no stroke
        if (std::any_of(s.points.begin(), s.points.end(), [&](int p) { return gone.count(p) > 0; }))
            gone.insert(s.id);
    std::erase_if(strokes, [&](const Stroke& s) { return gone.count(s.id) > 0; });
    std::set<int> used;
    for (const Stroke& s : strokes) used.insert(s.points.begin(), s.points.end());
    for (const DrawnPoint& p : points)
        if (!used.count(p.id)) gone.insert(p.id);
    std::erase_if(points, [&](const DrawnPoint& p) { return gone.count(p.id) > 0; });
    for (Relation& r : relations) { // what is left of a group keeps its shape
        if (r.kind != RelationKind::Together || gone.count(r.id)) continue;
        std::erase_if(r.of, [&](int of) { return gone.count(of) > 0; });
        if (r.of.size() < 2)
            gone.insert(r.id);
        else
            freezeSense(*this, r);
    }
    std::erase_if(relations, [&](const Relation& r) {
        return gone.count(r.id) > 0 ||
               std::any_of(r.of.begin(), r.of.end(), [&](int of) { return gone.count(of) > 0; });
    });
}

bool isPoint(const Drawing& d, int id) {
    return id == kOrigin || d.findPoint(id);
}

bool isLine(const Drawing& d, int id) {
    const Stroke* s = d.findStroke(id);
    return id == kLevelLine || id == kAxisLine || (s && s->kind == StrokeKind::Line);
}

bool isRound(const Drawing& d, int id) {
    const Stroke* s = d.findStroke(id);
    return s && (s->kind == StrokeKind::Circle || s->kind == StrokeKind::Arc);
}

LineEnds lineEnds(const Drawing& d, int id) {
    if (id == kLevelLine) return {{0, 0}, {1, 0}};
    if (id == kAxisLine) return {{0, 0}, {0, 1}};
    const Stroke* s = d.findStroke(id);
    if (!s || s->points.size() < 2) throw std::logic_error("no line of that id");
    return {d.at(s->points[0]), d.at(s->points[1])};
}

bool hasOwnSize(const Stroke& s) {
    return s.kind == StrokeKind::Circle || s.kind == StrokeKind::Ellipse;
}

std::vector<int> endPoints(const Stroke& s) {
    switch (s.kind) {
    case StrokeKind::Line:
    case StrokeKind::Arc:
    case StrokeKind::Conic:
        return {s.points[0], s.points[1]};
    case StrokeKind::EllipseArc:
        return {s.points[2], s.points[3]};
    case StrokeKind::Spline:
        return {s.points.front(), s.points[s.points.size() - 2]};
    case StrokeKind::Poles:
        return {s.points.front(), s.points.back()};
    default:
        return {};
    }
}

int centrePoint(const Stroke& s) {
    return s.kind == StrokeKind::Arc ? s.points[2] : s.points[0];
}

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
        if (other && other->kind != StrokeKind::Spline && other->kind != StrokeKind::Poles)
            r.sense = signOf(heightOver(lineEnds(d, r.of[firstLine ? 0 : 1]), d.at(centrePoint(*other))));
        return;
    }
    if (!isRound(d, r.of[0]) || !isRound(d, r.of[1])) return;
    // From outside when the centres lie further apart than the larger radius.
    const Stroke &a = *d.findStroke(r.of[0]), &b = *d.findStroke(r.of[1]);
    const double apart = length(d.at(centrePoint(a)) - d.at(centrePoint(b)));
    r.sense = apart > std::max(a.sizes[0], b.sizes[0]) ? 1 : -1;
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
        if (r.of.size() == 2 && isRound(d, r.of[0])) {
            r.sense = signOf(d.findStroke(r.of[0])->sizes[0] - d.findStroke(r.of[1])->sizes[0]);
        } else if (r.of.size() == 2 && isLine(d, r.of[1])) {
            const Vec2 p = isLine(d, r.of[0]) ? lineEnds(d, r.of[0]).from : d.at(r.of[0]);
            r.sense = signOf(heightOver(lineEnds(d, r.of[1]), p));
        }
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

std::string need(bool good, const char* sentence) {
    return good ? std::string() : sentence;
}

/// The same for dimensions.
std::string whyNoSize(const Drawing& d, RelationKind kind, const std::vector<int>& of, const Operands& n) {
    using K = RelationKind;
    switch (kind) {
    case K::Distance:
        return need((n.all == 1 && n.lines == 1) || (n.all == 2 && n.points == 2) ||
                        (n.all == 2 && isLine(d, of[1]) && n.points + n.lines == 2) ||
                        (n.all == 2 && n.rounds == 2),
                    "Choose a line, two points, a point and a line, or two arcs.");
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

} // namespace

std::string whyNot(const Drawing& d, RelationKind kind, const std::vector<int>& of, bool asItLies) {
    const Operands n = count(d, of);
    if (n.unknown) return "Something that this relation needs is no longer in the drawing.";
    using K = RelationKind;
    // From a to b as from b to c names one point twice.
    const bool repeats = std::set<int>(of.begin(), of.end()).size() != of.size();
    if (repeats && (kind != K::SameStep || of.size() != 4 || of[0] == of[1] || of[2] == of[3]))
        return "Choose two different things.";
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
        if (n.all != 2 || n.points || n.lines == 2) return "Choose two strokes, at least one of them curved.";
        if (n.others && n.rounds + n.others == 2 && asItLies && !haveSharedEnd(d, of))
            return "Two curves can be tangent where their ends meet. Join their ends first.";
        return {};
    case K::Smooth:
        return need(n.all == 2 && !n.points && n.lines < 2 && (!asItLies || haveSharedEnd(d, of)),
                    "Choose two strokes whose ends meet, at least one of them curved.");
    case K::Equal:
        return need(n.all == 2 && (n.lines == 2 || n.rounds == 2), "Choose two lines or two arcs.");
    case K::Concentric:
        return need(n.all == 2 && (n.rounds == 2 || (n.rounds == 1 && n.points == 1)),
                    "Choose two arcs or circles, or one and a point.");
    case K::Midpoint:
        return need(n.all == 2 && n.points == 1 && n.lines == 1 && isPoint(d, of[0]) && d.findStroke(of[1]),
                    "Choose a point, then a line.");
    case K::Symmetric: {
        if (n.all != 3 || !isLine(d, of[2]))
            return "Choose two alike things, then the line to mirror across.";
        if (isPoint(d, of[0]) && isPoint(d, of[1])) return {};
        const Stroke *a = d.findStroke(of[0]), *b = d.findStroke(of[1]);
        return need(a && b && a->kind == b->kind && a->points.size() == b->points.size(),
                    "Choose two alike things, then the line to mirror across.");
    }
    case K::Fixed:
        return need(n.all == 1 && of[0] > 0, "Choose a point or a stroke.");
    case K::Together:
        return need(n.all > 1 && std::all_of(of.begin(), of.end(), [&](int id) { return d.findStroke(id); }),
                    "Choose two or more strokes.");
    case K::SameStep:
        return need(n.all == 4 && n.points == 4, "Choose two points, then two more.");
    default:
        return whyNoSize(d, kind, of, n);
    }
}

} // namespace gc
