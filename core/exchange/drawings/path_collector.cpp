#include "core/exchange/drawings/path_collector.hpp"
#include "core/base/angles.hpp"

#include "core/sketch/splines.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kLeast = 1e-7; ///< mm: shorter strokes are nothing

bool sound(const std::vector<Vec2>& at) {
    constexpr double kFar = 1e6; // a kilometre is no part
    return std::all_of(at.begin(), at.end(),
                       [](Vec2 p) { return std::fabs(p.x) < kFar && std::fabs(p.y) < kFar; });
}

double spread(const std::vector<Vec2>& at) {
    double most = 0;
    for (const Vec2 p : at) most = std::max(most, length(p - at.front()));
    return most;
}

} // namespace

void PathCollector::add(StrokeKind kind, const std::vector<Vec2>& at, std::vector<double> sizes) {
    if (full() || !sound(at)) return;
    if (kind != StrokeKind::Point && at.size() > 1 && spread(at) < kLeast) return;
    m_drawing.draw(kind, at, std::move(sizes));
}

void PathCollector::line(Vec2 from, Vec2 to) {
    add(StrokeKind::Line, {through(from), through(to)});
}

void PathCollector::cubic(const std::array<Vec2, 4>& p) {
    add(StrokeKind::Poles, {through(p[0]), through(p[1]), through(p[2]), through(p[3])});
}

void PathCollector::quadratic(Vec2 from, Vec2 apex, Vec2 to) {
    conic(from, apex, to, 1);
}

void PathCollector::conic(Vec2 from, Vec2 apex, Vec2 to, double weight) {
    const Vec2 a = through(from), m = through(apex), b = through(to);
    const double flat = std::fabs(cross(m - a, b - a));
    // With its apex on the chord, a conic is a line; a conic stroke needs a corner to lean into.
    if (flat < 1e-9 * std::max(1.0, dot(b - a, b - a)) || length(b - a) < kLeast) {
        if (dot(m - a, m - b) <= 0) return add(StrokeKind::Line, {a, b});
        return add(StrokeKind::Poles, {a, a + (m - a) * (2.0 / 3), b + (m - b) * (2.0 / 3), b});
    }
    add(StrokeKind::Conic, {a, b, m}, {std::clamp(weight / (1 + weight), 1e-3, 0.999)});
}

void PathCollector::ellipse(Vec2 centre, Vec2 axis, Vec2 other, double from, double turn) {
    const Vec2 c = through(centre), p = through.direction(axis), q = through.direction(other);
    const auto at = [&](double t) { return c + p * std::cos(t) + q * std::sin(t); };
    if (std::fabs(cross(p, q)) < kLeast * kLeast) return add(StrokeKind::Line, {at(from), at(from + turn)});
    // The principal axes of conjugate half diameters: where the distance from the centre is extreme.
    const double t0 = 0.5 * std::atan2(2 * dot(p, q), dot(p, p) - dot(q, q));
    Vec2 u = at(t0) - c, v = at(t0 + kPi / 2) - c;
    const bool whole = std::fabs(turn) > 2 * kPi - 1e-9;
    const bool round = std::fabs(length(u) - length(v)) < 1e-9 * length(u);
    // Strokes run counter-clockwise.
    const bool forward = (turn > 0) == (cross(p, q) > 0);
    const Vec2 start = at(forward ? from : from + turn), end = at(forward ? from + turn : from);
    if (round && whole) return add(StrokeKind::Circle, {c}, {length(u)});
    if (round) return add(StrokeKind::Arc, {start, end, c}, {length(u)});
    if (whole) return add(StrokeKind::Ellipse, {c, c + u}, {length(v)});
    add(StrokeKind::EllipseArc, {c, c + u, start, end}, {length(v)});
}

void PathCollector::point(Vec2 at) {
    add(StrokeKind::Point, {through(at)});
}

void PathCollector::spline(const std::vector<Vec2>& nodes, const std::vector<Vec2>& derivatives,
                           const std::vector<double>& spans) {
    if (full() || nodes.size() < 2) return;
    std::vector<Vec2> at;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const Vec2 n = through(nodes[i]);
        at.push_back(n);
        at.push_back(n + through.direction(derivatives[i]) * (meanSpan(spans, static_cast<int>(i)) / 3));
    }
    if (!sound(at) || spread(at) < kLeast) return;
    const int s = m_drawing.draw(StrokeKind::Spline, at, spans);
    m_drawing.findStroke(s)->held.assign(nodes.size(), true);
}

void PathCollector::poles(const std::vector<Vec2>& at) {
    std::vector<Vec2> seen;
    for (const Vec2 p : at) seen.push_back(through(p));
    add(StrokeKind::Poles, seen);
}

Drawing PathCollector::take() {
    std::vector<int> ids;
    for (const Stroke& s : m_drawing.strokes) ids.push_back(s.id);
    if (ids.size() > 1) m_drawing.relate(RelationKind::Together, ids);
    m_drawing.sized = true; // it comes true to size
    return std::move(m_drawing);
}

Result<ImportedDrawing> imported(PathCollector& collector, std::vector<Message> notes,
                                 const std::string& code) {
    if (collector.endless())
        return errorOf(code + ".endless",
                       "The file reuses its pieces within each other so often that it has no end. "
                       "Dissolve them in the program that wrote it, and export it again.");
    if (collector.full())
        return errorOf(
            code + ".large",
            phrase("The file has more than %1 lines and curves. Export the part of it that you need.",
                   std::to_string(kMostImported)));
    if (collector.empty())
        return errorOf(code + ".empty",
                       notes.empty() ? Message("There is no line or curve in this file.")
                                     : phrase("There is no line or curve in this file. %1", notes.front()));
    ImportedDrawing out;
    out.notes = std::move(notes);
    out.drawing = collector.take();
    return out;
}

} // namespace gc
