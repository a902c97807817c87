#include "core/sketch/edit/draw_by_clicks.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/arcs.hpp"
#include "core/sketch/edit/corner.hpp"

#include <cmath>

namespace gc {

namespace {

using Places = std::vector<Vec2>;

DrawnByClicks one(const Drawing& d, int stroke, const std::vector<std::size_t>& points) {
    DrawnByClicks out;
    if (!stroke) return out;
    out.strokes = {stroke};
    for (const std::size_t i : points) out.points.push_back(d.findStroke(stroke)->points[i]);
    return out;
}

/// A stroke of the drawing and which of its points stand at the places that made it.
int pointOf(const Drawing& d, int stroke, std::size_t i) {
    return d.findStroke(stroke)->points[i];
}

/// An arc's ends in the order in which they were clicked: it runs counter-clockwise whatever that was.
std::vector<std::size_t> endsFrom(const Drawing& d, int arc, Vec2 first) {
    if (!arc || length(d.at(pointOf(d, arc, 0)) - first) < 1e-9) return {0, 1};
    return {1, 0};
}

/// The distance of the third place from the line through the first two.
double widthOf(const Places& at) {
    const Vec2 u = at[1] - at[0];
    return length(u) < 1e-9 ? 0 : std::fabs(cross(u, at[2] - at[0])) / length(u);
}

DrawnByClicks arcOnFrom(Drawing& d, Vec2 from, Vec2 to) {
    int stroke = 0, end = 0;
    for (const Stroke& s : d.strokes)
        for (const int p : endPoints(s))
            if (!end && length(d.at(p) - from) < kSamePoint) stroke = s.id, end = p;
    if (!end) return {};
    const int arc = drawTangentArc(d, stroke, end, to);
    DrawnByClicks out = one(d, arc, endsFrom(d, arc, from));
    if (!arc) return out;
    d.relate(RelationKind::Coincident, {out.points[0], end});
    d.relate(RelationKind::Tangent, {stroke, arc});
    out.points[0] = 0; // joined already
    return out;
}

/// Of strokes drawn together: the points at the places are given.
DrawnByClicks group(std::vector<int> strokes, std::vector<int> points) {
    DrawnByClicks out;
    out.strokes = std::move(strokes);
    out.points = std::move(points);
    return out;
}

DrawnByClicks rectangle(Drawing& d, Clicked what, const Places& at) {
    if (what == Clicked::RectangleRound)
        return group(drawRoundedRectangle(d, at[0], at[1], length(at[2] - at[1])), {});
    const bool about = what == Clicked::RectangleAbout;
    const auto lines = about ? drawCentredRectangle(d, at[0], at[1]) : drawRectangle(d, at[0], at[1]);
    if (lines.empty()) return {};
    return group(lines, {pointOf(d, about ? lines.back() : lines[0], 0), pointOf(d, lines[2], 0)});
}

DrawnByClicks spline(Drawing& d, Clicked what, const Places& at) {
    constexpr double kWithin = 0.1; // mm, what a caliper is good for
    const bool handles = what == Clicked::Spline;
    std::vector<std::size_t> points;
    for (std::size_t i = 0; i < at.size(); ++i) points.push_back(handles ? 2 * i : i);
    const int id = handles                  ? drawSpline(d, at)
                   : what == Clicked::Poles ? drawPoles(d, at)
                                            : d.draw(StrokeKind::Fair, at, {kWithin});
    return one(d, id, points);
}

DrawnByClicks circleAbout(Drawing& d, const Places& at) {
    const double r = length(at[1] - at[0]);
    if (r < kSamePoint) return {};
    DrawnByClicks out = one(d, d.draw(StrokeKind::Circle, {at[0]}, {r}), {0});
    out.rim = out.strokes[0];
    return out;
}

} // namespace

int placesFor(Clicked what) {
    switch (what) {
    case Clicked::Point:
        return 1;
    case Clicked::CircleAbout:
    case Clicked::ArcOnFrom:
    case Clicked::Rectangle:
    case Clicked::RectangleAbout:
    case Clicked::Polygon:
    case Clicked::Spline:
        return 2;
    case Clicked::Poles:
        return 4;
    default:
        return 3;
    }
}

bool takesMore(Clicked what) {
    return what == Clicked::Spline || what == Clicked::Poles || what == Clicked::Fair;
}

DrawnByClicks drawByClicks(Drawing& d, Clicked what, const Places& at, int sides) {
    if (static_cast<int>(at.size()) < placesFor(what)) return {};
    switch (what) {
    case Clicked::Point:
        return one(d, d.draw(StrokeKind::Point, {at[0]}), {0});
    case Clicked::CircleAbout:
        return circleAbout(d, at);
    case Clicked::CircleThrough:
        return one(d, drawCircleThrough(d, at[0], at[1], at[2]), {});
    case Clicked::ArcThrough: {
        const int arc = drawArcThrough(d, at[0], at[2], at[1]);
        return one(d, arc, endsFrom(d, arc, at[0]));
    }
    case Clicked::ArcAbout: {
        const int arc = drawArcAbout(d, at[0], at[1], at[2]);
        auto points = endsFrom(d, arc, at[1]);
        points.insert(points.begin(), 2);
        return one(d, arc, points);
    }
    case Clicked::ArcOnFrom:
        return arcOnFrom(d, at[0], at[1]);
    case Clicked::Rectangle:
    case Clicked::RectangleAbout:
    case Clicked::RectangleRound:
        return rectangle(d, what, at);
    case Clicked::Polygon: {
        const auto lines = drawPolygon(d, at[0], at[1], sides);
        if (lines.empty()) return {};
        return group(lines, {pointOf(d, lines.back(), 0), pointOf(d, lines[0], 0)});
    }
    case Clicked::Ellipse:
        if (widthOf(at) < kSamePoint) return {};
        return one(d, d.draw(StrokeKind::Ellipse, {at[0], at[1]}, {widthOf(at)}), {0, 1});
    case Clicked::Slot: {
        const auto centres = drawSlot(d, at[0], at[1], widthOf(at));
        if (centres.empty()) return {};
        return group({d.strokes.back().id}, centres);
    }
    case Clicked::Conic:
        if (widthOf(at) < kSamePoint) return {};
        return one(d, d.draw(StrokeKind::Conic, at, {0.5}), {0, 1, 2});
    case Clicked::Spline:
    case Clicked::Poles:
    case Clicked::Fair:
        return spline(d, what, at);
    }
    return {};
}

} // namespace gc
