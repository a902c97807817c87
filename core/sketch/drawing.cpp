#include "core/sketch/drawing.hpp"

#include "core/sketch/repeats.hpp"
#include "core/sketch/texts.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/splines.hpp"

#include <algorithm>
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
        {StrokeKind::Fair, "fair", "fair curve", 2, -1, 1},
        {StrokeKind::Beside, "beside", "offset", 1, 2, 1},
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
        {K::Carried, "carried", "Carried", "{0} is carried along {2} to {1}", false, {}},
        {K::SameStep, "same-step", "Same step", "{0} to {1} is the same step as {2} to {3}", false, {}},
        {K::Follows, "follows", "Follows", "{0} follows the body", false, {}},
        {K::OnTrace, "on-trace", "Meets", "{0} lies where an edge of the body meets the table", false, {}},
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
    keepPlaces(*this, gone);
    std::vector<int> orphans; // what followed it keeps its shape
    for (const Stroke& s : strokes)
        if (s.kind == StrokeKind::Beside && gone.count(s.beside) && !gone.count(s.id))
            orphans.push_back(s.id);
    for (const int id : orphans) makePlain(*this, id);
    std::erase_if(strokes, [&](const Stroke& s) { return gone.count(s.id) > 0; });
    std::set<int> used;
    for (const Stroke& s : strokes) used.insert(s.points.begin(), s.points.end());
    for (const DrawnPoint& p : points)
        if (!used.count(p.id)) gone.insert(p.id);
    std::erase_if(points, [&](const DrawnPoint& p) { return gone.count(p.id) > 0; });
    for (Relation& r : relations) { // what is left of a group keeps its shape
        if (r.kind != RelationKind::Together || gone.count(r.id)) continue;
        if (std::erase_if(r.of, [&](int of) { return gone.count(of) > 0; }) == 0) continue;
        if (r.of.size() < 2)
            gone.insert(r.id);
        else
            freezeSense(*this, r);
    }
    std::erase_if(relations, [&](const Relation& r) {
        return gone.count(r.id) > 0 ||
               std::any_of(r.of.begin(), r.of.end(), [&](int of) { return gone.count(of) > 0; });
    });
    forgetRepeated(*this);
    forgetWritten(*this);
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

bool solvesSizes(const Stroke& s) {
    if (s.kind == StrokeKind::Beside) return s.sizes[0] > 0;
    return !s.sizes.empty() && s.kind != StrokeKind::Spline && s.kind != StrokeKind::Fair;
}

std::vector<int> endPoints(const Stroke& s) {
    switch (s.kind) {
    case StrokeKind::Line:
    case StrokeKind::Arc:
    case StrokeKind::Conic:
        return {s.points[0], s.points[1]};
    case StrokeKind::EllipseArc:
        return {s.points[2], s.points[3]};
    case StrokeKind::Beside:
        if (s.points.size() < 2) return {};
        return {s.points[0], s.points[1]};
    case StrokeKind::Spline:
        return {s.points.front(), s.points[s.points.size() - 2]};
    case StrokeKind::Poles:
    case StrokeKind::Fair:
        return {s.points.front(), s.points.back()};
    default:
        return {};
    }
}

int centrePoint(const Stroke& s) {
    return s.kind == StrokeKind::Arc ? s.points[2] : s.points[0];
}

} // namespace gc
