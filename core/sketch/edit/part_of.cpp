#include "core/sketch/edit/part_of.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/splines.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

StrokeShape shapeOf(const Drawing& d, const Stroke& s) {
    StrokeShape out{s.kind, {}, s.sizes, s.held, s.beside, s.right};
    for (const int p : s.points) out.at.push_back(d.at(p));
    return out;
}

namespace {

/// A row of nodes with the derivative at each, before it is written as a spline.
struct Nodes {
    std::vector<Vec2> at, derivative;
    std::vector<double> spans;
    std::vector<bool> held;

    StrokeShape spline() const {
        StrokeShape out{StrokeKind::Spline, {}, spans, held};
        for (std::size_t i = 0; i < at.size(); ++i)
            out.at.insert(out.at.end(),
                          {at[i], at[i] + derivative[i] * (meanSpan(spans, static_cast<int>(i)) / 3)});
        return out;
    }
};

Nodes nodesOf(const Drawing& d, const Stroke& s) {
    Nodes n;
    const StrokeRun run(d, s);
    if (s.kind == StrokeKind::Poles) {
        // Between even knots it is a row of cubics with even curvature from one to the next.
        n.spans.assign(run.curves().size(), 1.0);
        for (double u = 0; u <= run.end(); ++u)
            n.at.push_back(run.at(u)), n.derivative.push_back(run.slope(u));
        n.held.assign(n.at.size(), false);
        n.held.front() = n.held.back() = true;
        return n;
    }
    if (s.kind == StrokeKind::Fair) {
        // Pieces as long in the parameter as the B-spline's spans were: slopes are even across joints.
        for (std::size_t i = 0; i < run.curves().size(); ++i) {
            const double before = i == 0 ? 1 : n.spans.back();
            const double out = i == 0 ? 1 : gc::length(run.curves()[i - 1].slope(1));
            const double in = i == 0 ? 1 : gc::length(run.curves()[i].slope(0));
            n.spans.push_back(out > 1e-12 ? before * in / out : before);
        }
        for (std::size_t i = 0; i <= run.curves().size(); ++i) {
            const std::size_t piece = std::min(i, run.curves().size() - 1);
            n.at.push_back(run.at(static_cast<double>(i)));
            n.derivative.push_back(run.slope(static_cast<double>(i)) * (1 / n.spans[piece]));
        }
        n.held.assign(n.at.size(), true);
        return n;
    }
    n.spans = s.sizes;
    for (std::size_t i = 0; i < s.points.size() / 2; ++i) {
        const Vec2 node = d.at(s.points[2 * i]);
        n.at.push_back(node);
        n.derivative.push_back((d.at(s.points[2 * i + 1]) - node) *
                               (3 / meanSpan(n.spans, static_cast<int>(i))));
    }
    n.held = s.held;
    n.held.resize(n.at.size(), false);
    return n;
}

StrokeShape splinePart(const Drawing& d, const Stroke& s, double u, double v) {
    const Nodes whole = nodesOf(d, s);
    const StrokeRun run(d, s);
    Nodes part;
    const auto push = [&](double at, bool held) {
        const double piece = std::min(std::floor(at), run.end() - 1);
        part.at.push_back(run.at(at));
        part.derivative.push_back(run.slope(at) * (1 / whole.spans[static_cast<std::size_t>(piece)]));
        part.held.push_back(held);
    };
    // Parameters of the nodes of the part: both ends, and what lies well between them.
    constexpr double kApart = 1e-9;
    std::vector<double> at{u};
    for (double k = std::floor(u) + 1; k < v - kApart; ++k)
        if (k > u + kApart) at.push_back(k);
    at.push_back(v);
    for (std::size_t i = 0; i < at.size(); ++i) {
        const auto node = static_cast<std::size_t>(std::lround(at[i]));
        const bool whole_ = std::fabs(at[i] - std::round(at[i])) < kApart;
        const bool wasEnd = node == 0 || node + 1 == whole.at.size();
        const bool cut = (i == 0 || i + 1 == at.size()) && !(whole_ && wasEnd);
        push(at[i], cut || (whole_ && whole.held[node]));
        if (i > 0) {
            const auto piece = static_cast<std::size_t>(std::min(std::floor(at[i - 1]), run.end() - 1));
            part.spans.push_back((at[i] - at[i - 1]) * whole.spans[piece]);
        }
    }
    return part.spline();
}

} // namespace

StrokeShape partOf(const Drawing& d, const Stroke& s, double u, double v) {
    const StrokeRun run(d, s);
    switch (s.kind) {
    case StrokeKind::Line:
        return {s.kind, {run.at(u), run.at(v)}};
    case StrokeKind::Circle:
    case StrokeKind::Arc:
        return {StrokeKind::Arc, {run.at(u), run.at(v), d.at(centrePoint(s))}, s.sizes};
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
        return {
            StrokeKind::EllipseArc, {d.at(s.points[0]), d.at(s.points[1]), run.at(u), run.at(v)}, s.sizes};
    case StrokeKind::Conic: {
        const Curve2 part = run.curves()[0].part(u, v);
        return {s.kind, {part.p[0], part.p[2], part.p[1]}, {part.weight / (1 + part.weight)}};
    }
    case StrokeKind::Spline:
    case StrokeKind::Poles:
    case StrokeKind::Fair:
        return splinePart(d, s, u, v);
    case StrokeKind::Beside: {
        constexpr double kThere = 1e-9;
        return {s.kind,
                {run.at(u), run.at(v)},
                s.sizes,
                {!run.closed() && u < kThere && endHeld(s, 0),
                 !run.closed() && v > run.end() - kThere && endHeld(s, 1)},
                s.beside,
                s.right};
    }
    default:
        return shapeOf(d, s);
    }
}

int drawShape(Drawing& d, const StrokeShape& shape) {
    const int id = d.draw(shape.kind, shape.at, shape.sizes);
    Stroke& s = *d.findStroke(id);
    s.held = shape.held;
    s.beside = shape.beside;
    s.right = shape.right;
    return id;
}

void followOwnGuide(Drawing& d, int id) {
    const Stroke whole = *d.findStroke(id);
    if (whole.kind != StrokeKind::Spline && whole.kind != StrokeKind::Poles &&
        whole.kind != StrokeKind::Conic)
        return;
    const StrokeRun run(d, whole);
    Stroke guide = whole;
    guide.name.clear();
    guide.helper = true;
    const int first = d.addPoint(run.at(0)), last = d.addPoint(run.at(run.end()));
    guide.id = d.nextId++;
    d.strokes.push_back(guide);
    Stroke& s = *d.findStroke(id);
    s.kind = StrokeKind::Beside;
    s.points = {first, last};
    s.sizes = {0};
    s.held = {true, true};
    s.beside = guide.id;
    for (Stroke& other : d.strokes)
        if (other.id != id && other.kind == StrokeKind::Beside && other.beside == id) other.beside = guide.id;
    for (Relation& r : d.relations) std::replace(r.of.begin(), r.of.end(), id, guide.id);
}

void reshape(Drawing& d, int id, const StrokeShape& shape) {
    constexpr double kSame = 1e-9; // mm
    const std::vector<int> before = d.findStroke(id)->points;
    std::vector<int> points;
    for (const Vec2 p : shape.at) {
        const auto kept = std::find_if(before.begin(), before.end(), [&](int old) {
            return length(d.at(old) - p) < kSame &&
                   std::find(points.begin(), points.end(), old) == points.end();
        });
        points.push_back(kept == before.end() ? d.addPoint(p) : *kept);
    }
    Stroke& s = *d.findStroke(id);
    s.kind = shape.kind;
    s.points = points;
    s.sizes = shape.sizes;
    s.held = shape.held;
    s.beside = shape.beside;
    s.right = shape.right;
    std::vector<int> gone;
    for (const int p : before)
        if (std::none_of(d.strokes.begin(), d.strokes.end(), [&](const Stroke& x) {
                return std::find(x.points.begin(), x.points.end(), p) != x.points.end();
            }))
            gone.push_back(p);
    d.erase(gone);
}

} // namespace gc
