#include "core/sketch/fair_stroke.hpp"

#include "core/base/recent.hpp"
#include "core/sketch/fair_curve.hpp"
#include "core/sketch/splines.hpp"

namespace gc {

namespace {

/// A cubic B-spline span by span, from value and slope at both ends of each.
std::vector<Curve2> piecesOf(const BSpline2& b) {
    std::vector<Curve2> out;
    for (std::size_t i = 0; i + 1 < b.knots.size(); ++i) {
        const double from = b.knots[i], to = b.knots[i + 1], h = to - from;
        if (h < 1e-12) continue;
        // Within the span: at its end the next one would be asked.
        const double end = i + 2 < b.knots.size() && to < 1 ? std::nextafter(to, from) : to;
        Curve2 c;
        c.kind = Curve2::Kind::Cubic;
        const Vec2 p = b.at(from), q = b.at(end);
        c.p = {p, p + b.at(from, 1) * (h / 3), q - b.at(end, 1) * (h / 3), q};
        out.push_back(c);
    }
    return out;
}

std::vector<Curve2> natural(const std::vector<Vec2>& stations) {
    Drawing d;
    std::vector<Vec2> points;
    for (const Vec2 p : stations) points.insert(points.end(), {p, p});
    relaxHandles(points, spansFor(stations), {});
    const int id = d.draw(StrokeKind::Spline, points);
    return curvesOf(d, *d.findStroke(id));
}

std::vector<Curve2> fitted(const std::vector<Vec2>& stations, double tolerance) {
    FairCurveRequest request;
    for (const Vec2 p : stations) request.stations.push_back({p, tolerance, 0});
    request.stations.front().tolerance = request.stations.back().tolerance = 0;
    const auto curve = fitFairCurve(request);
    if (!curve || curve->curve.degree != 3) return natural(stations);
    auto pieces = piecesOf(curve->curve);
    // The ends are joined to other strokes: there nothing is left to rounding.
    pieces.front().p[0] = stations.front();
    pieces.back().p[3] = stations.back();
    return pieces;
}

} // namespace

std::vector<Curve2> fairCurves(const std::vector<Vec2>& stations, double tolerance) {
    if (stations.size() < 2) return {};
    thread_local Recent<std::pair<std::vector<Vec2>, double>, std::vector<Curve2>> known(24);
    return known.get({stations, tolerance}, [&] { return fitted(stations, tolerance); });
}

} // namespace gc
