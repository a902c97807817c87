#include "core/steps/shared/traced_edge.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAlgoAPI_Section.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>

#include <algorithm>
#include <numbers>
#include <optional>

namespace gc {

namespace {

constexpr double kTurn = 2 * std::numbers::pi;
constexpr double kAlike = 2e-4; ///< mm: how near a spline lies to the line or circle that it is
constexpr int kMostPieces = 64;

Vec3 toVec3(const gp_XYZ& v) {
    return {v.X(), v.Y(), v.Z()};
}

/// centre + a cos t + b sin t, t from `from` to `to`.
struct Oval {
    Vec2 centre, a, b;
    double from = 0, to = kTurn;
    Vec2 at(double t) const { return centre + a * std::cos(t) + b * std::sin(t); }
    bool closed() const { return to - from > kTurn - 1e-9; }
};

/// An oval seen on edge is a line between its outermost points.
Trace flatOval(const Oval& o) {
    const Vec2 u = unit(length(o.a) > length(o.b) ? o.a : o.b);
    const double x = dot(o.a, u), y = dot(o.b, u);
    std::vector<double> at{o.from, o.to};
    for (int k = -2; k <= 4; ++k) {
        const double t = std::atan2(y, x) + k * std::numbers::pi;
        if (t > o.from && t < o.to) at.push_back(t);
    }
    const auto along = [&](double t) { return dot(o.at(t), u); };
    const auto [low, high] =
        std::minmax_element(at.begin(), at.end(), [&](double s, double t) { return along(s) < along(t); });
    Trace out;
    out.at = {o.at(*low), o.at(*high)};
    return out;
}

/// The main axes of an oval from two conjugate half diameters (Rytz).
Trace ovalTrace(const Oval& o) {
    const double size = std::max(length(o.a), length(o.b));
    if (std::fabs(cross(o.a, o.b)) < 1e-9 * size * size) return flatOval(o);
    const double t = 0.5 * std::atan2(2 * dot(o.a, o.b), dot(o.a, o.a) - dot(o.b, o.b));
    const Vec2 longHalf = o.a * std::cos(t) + o.b * std::sin(t);
    const Vec2 shortHalf = o.b * std::cos(t) - o.a * std::sin(t);
    const double r = length(longHalf), s = length(shortHalf);
    const bool round = r - s < 1e-9 * r;
    Trace out;
    out.sizes = {round ? r : s};
    Vec2 start = o.at(o.from), end = o.at(o.to);
    if (cross(o.a, o.b) < 0) std::swap(start, end); // strokes run counter-clockwise
    if (o.closed()) {
        out.kind = round ? StrokeKind::Circle : StrokeKind::Ellipse;
        out.at = {o.centre};
        if (!round) out.at.push_back(o.centre + longHalf);
    } else if (round) {
        out.kind = StrokeKind::Arc;
        out.at = {start, end, o.centre};
    } else {
        out.kind = StrokeKind::EllipseArc;
        out.at = {o.centre, o.centre + longHalf, start, end};
    }
    return out;
}

/// Cubic pieces with the curve's own places and directions at even parameters, as many as it takes.
Trace splineTrace(const BRepAdaptor_Curve& curve, const Plane& plane) {
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    Trace out;
    out.kind = StrokeKind::Spline;
    for (int pieces = 4; pieces <= kMostPieces; pieces *= 2) {
        const double h = (to - from) / pieces;
        std::vector<Vec2> nodes, slopes;
        double span = 0;
        for (int i = 0; i <= pieces; ++i) {
            gp_Pnt p;
            gp_Vec d;
            curve.D1(from + i * h, p, d);
            nodes.push_back(plane.foot(toVec(p)));
            slopes.push_back(plane.alongside(toVec3(d.XYZ())) * h); // per piece
            if (i > 0) span += length(nodes.back() - nodes[nodes.size() - 2]) / pieces;
        }
        out.at.clear();
        for (std::size_t i = 0; i < nodes.size(); ++i)
            out.at.insert(out.at.end(), {nodes[i], nodes[i] + slopes[i] * (1.0 / 3)});
        out.sizes.assign(static_cast<std::size_t>(pieces), std::max(span, kKernelPoint));
        const auto curves = curvesOf(out);
        double off = 0;
        for (std::size_t i = 0; i < curves.size(); ++i)
            for (const double t : {0.25, 0.5, 0.75})
                off = std::max(off, length(curves[i].at(t) - plane.foot(toVec(curve.Value(
                                                                 from + (static_cast<double>(i) + t) * h)))));
        if (off < kCurveFit) break;
    }
    return out;
}

/// The circle through three places; nothing where they lie in a row.
std::optional<std::pair<Vec2, double>> circleThrough(Vec2 a, Vec2 b, Vec2 c) {
    const Vec2 u = b - a, v = c - a;
    const double twice = 2 * cross(u, v);
    if (std::fabs(twice) < 1e-9 * (dot(u, u) + dot(v, v))) return std::nullopt;
    const Vec2 m = Vec2{v.y * dot(u, u) - u.y * dot(v, v), u.x * dot(v, v) - v.x * dot(u, u)} * (1 / twice);
    return std::pair{a + m, length(m)};
}

/// A curve that is seen as a line or as part of a circle becomes that, whatever the kernel keeps it as: a
/// person measures radii.
std::optional<Trace> plainTrace(const BRepAdaptor_Curve& curve, const Plane& plane) {
    constexpr int kLooks = 48;
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    std::vector<Vec2> seen;
    for (int i = 0; i <= kLooks; ++i)
        seen.push_back(plane.foot(toVec(curve.Value(from + (to - from) * i / kLooks))));
    const Vec2 a = seen.front(), b = seen.back(), u = unit(b - a);
    const auto all = [&](const auto& good) { return std::all_of(seen.begin(), seen.end(), good); };
    if (length(b - a) > kKernelPoint && all([&](Vec2 p) {
            return std::fabs(cross(u, p - a)) < kAlike && dot(p - a, u) > -kAlike && dot(p - b, u) < kAlike;
        }))
        return Trace{{}, 0, 1, StrokeKind::Line, {a, b}, {}};
    const auto round = circleThrough(a, seen[seen.size() / 3], seen[2 * seen.size() / 3]);
    if (!round || !all([&](Vec2 p) { return std::fabs(length(p - round->first) - round->second) < kAlike; }))
        return std::nullopt;
    if (length(b - a) < kAlike) return Trace{{}, 0, 1, StrokeKind::Circle, {round->first}, {round->second}};
    const bool left = cross(seen[1] - a, round->first - a) > 0; // counter-clockwise
    return Trace{{}, 0, 1, StrokeKind::Arc, {left ? a : b, left ? b : a, round->first}, {round->second}};
}

} // namespace

Trace projected(const TopoDS_Edge& edge, const Plane& plane) {
    const BRepAdaptor_Curve curve(edge);
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    const auto oval = [&](const gp_Ax2& place, double r, double s) {
        return ovalTrace({plane.foot(toVec(place.Location())),
                          plane.alongside(toVec3(place.XDirection().XYZ())) * r,
                          plane.alongside(toVec3(place.YDirection().XYZ())) * s, from, to});
    };
    Trace out;
    if (curve.GetType() == GeomAbs_Circle) {
        out = oval(curve.Circle().Position(), curve.Circle().Radius(), curve.Circle().Radius());
    } else if (curve.GetType() == GeomAbs_Ellipse) {
        out = oval(curve.Ellipse().Position(), curve.Ellipse().MajorRadius(), curve.Ellipse().MinorRadius());
    } else if (curve.GetType() == GeomAbs_Line) {
        out.at = {plane.foot(toVec(curve.Value(from))), plane.foot(toVec(curve.Value(to)))};
    } else {
        const auto plain = plainTrace(curve, plane);
        out = plain ? *plain : splineTrace(curve, plane);
    }
    if (out.kind == StrokeKind::Line && length(out.at[0] - out.at[1]) < kKernelPoint)
        out = Trace{{}, 0, 1, StrokeKind::Point, {out.at[0]}, {}};
    return out;
}

Handle(Geom_Plane) kernelPlane(const Plane& plane) {
    const Vec3 n = plane.normal(), o = plane.origin;
    return new Geom_Plane(gp_Pnt(o.x, o.y, o.z), gp_Dir(n.x, n.y, n.z));
}

std::vector<TopoDS_Edge> cutThrough(const TopoDS_Face& face, const Plane& plane) {
    std::vector<TopoDS_Edge> out;
    BRepAlgoAPI_Section section(face, kernelPlane(plane), false);
    section.Approximation(true);
    section.Build();
    if (!section.IsDone()) return out;
    for (TopExp_Explorer x(section.Shape(), TopAbs_EDGE); x.More(); x.Next())
        out.push_back(TopoDS::Edge(x.Current()));
    return out;
}

} // namespace gc
