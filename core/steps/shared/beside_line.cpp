#include "core/steps/shared/beside_line.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/laid_line.hpp"
#include "core/steps/shared/laying.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepOffsetAPI_MakeOffset.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <array>
#include <cmath>

namespace gc {

namespace {

/// Gauss-Legendre, five points on [-1, 1] (Abramowitz and Stegun, 25.4.30).
constexpr std::array<std::pair<double, double>, 5> kGauss{{{0, 0.568888888888889},
                                                           {-0.538469310105683, 0.478628670499366},
                                                           {0.538469310105683, 0.478628670499366},
                                                           {-0.906179845938664, 0.236926885056189},
                                                           {0.906179845938664, 0.236926885056189}}};

/// Where the pieces of a curve begin and end; long ones in parts.
std::vector<double> partsOf(const BRepAdaptor_Curve& curve) {
    constexpr int kWithin = 8; // of a piece, for those that are no polynomials
    TColStd_Array1OfReal knots(1, curve.NbIntervals(GeomAbs_CN) + 1);
    curve.Intervals(knots, GeomAbs_CN);
    const int within = knots.Length() > 20 ? 1 : kWithin;
    std::vector<double> out{knots(1)};
    for (int i = 1; i < knots.Length(); ++i)
        for (int k = 1; k <= within; ++k) out.push_back(knots(i) + (knots(i + 1) - knots(i)) * k / within);
    return out;
}

/// Twice the area between an edge, as it is walked, and a place.
double sweptBy(const TopoDS_Edge& edge, const gp_Pnt& from, const gp_Vec& normal) {
    const BRepAdaptor_Curve curve(edge);
    const auto parts = partsOf(curve);
    double out = 0;
    for (std::size_t i = 0; i + 1 < parts.size(); ++i) {
        const double half = 0.5 * (parts[i + 1] - parts[i]), middle = 0.5 * (parts[i + 1] + parts[i]);
        for (const auto& [at, weight] : kGauss) {
            gp_Pnt p;
            gp_Vec d;
            curve.D1(middle + half * at, p, d);
            out += half * weight * gp_Vec(from, p).Crossed(d).Dot(normal);
        }
    }
    return edge.Orientation() == TopAbs_REVERSED ? -out : out;
}

std::vector<TopoDS_Edge> walkOf(const TopoDS_Wire& wire) {
    std::vector<TopoDS_Edge> out;
    for (BRepTools_WireExplorer x(wire); x.More(); x.Next()) out.push_back(x.Current());
    return out;
}

bool isPlainEdge(const TopoDS_Edge& edge) {
    const GeomAbs_CurveType type = BRepAdaptor_Curve(edge).GetType();
    return type == GeomAbs_Line || type == GeomAbs_Circle;
}

/// An edge as it is walked, in a plane, and what lies to its right there.
class WalkedEdge {
  public:
    WalkedEdge(const TopoDS_Edge& edge, const Plane& plane)
        : m_curve(edge), m_normal(directionIn(plane.normal())) {
        m_from = m_curve.FirstParameter(), m_to = m_curve.LastParameter();
        m_back = edge.Orientation() == TopAbs_REVERSED;
    }
    double from() const { return m_from; }
    double to() const { return m_to; }
    bool isBack() const { return m_back; }
    bool isLine() const { return m_curve.GetType() == GeomAbs_Line; }

    /// Tiny corners, as the kernel leaves them where it cuts through fitted walls, are spread over the
    /// stretches between them: what lies beside would not meet there. \return false where it has true ones
    bool spreadCorners() {
        constexpr double kTiny = 0.01; // rad
        TColStd_Array1OfReal knots(1, m_curve.NbIntervals(GeomAbs_C1) + 1);
        m_curve.Intervals(knots, GeomAbs_C1);
        m_breaks.assign(knots.begin(), knots.end());
        m_turns.assign(m_breaks.size(), 0);
        const double little = 1e-7 * (m_to - m_from);
        for (std::size_t i = 1; i + 1 < m_breaks.size(); ++i) {
            const gp_Vec before = along(m_breaks[i] - little), after = along(m_breaks[i] + little);
            m_turns[i] = before.AngleWithRef(after, m_normal);
            if (std::fabs(m_turns[i]) > kTiny) return false;
        }
        return true;
    }
    gp_Pnt beside(double t, double distance) const {
        gp_Vec out = along(t).Crossed(m_normal).Normalized();
        const double turn = spreadAt(t);
        if (turn != 0) out = out * std::cos(turn) + m_normal.Crossed(out) * std::sin(turn);
        return m_curve.Value(t).Translated(out * (m_back ? -distance : distance));
    }
    /// Is it bent more closely than that? Looked at over a stretch: what is fitted has tiny waves.
    bool folds(double distance) const {
        constexpr int kLooks = 400;
        constexpr double kLeast = 0.02; // of its length there
        gp_Pnt before = m_curve.Value(m_from), besideBefore = beside(m_from, distance);
        for (int i = 1; i <= kLooks; ++i) {
            const double t = m_from + (m_to - m_from) * i / kLooks;
            const gp_Pnt p = m_curve.Value(t), q = beside(t, distance);
            const gp_Vec step(before, p);
            if (gp_Vec(besideBefore, q).Dot(step) < kLeast * step.SquareMagnitude()) return true;
            before = p, besideBefore = q;
        }
        return false;
    }
    /// The curves beside it. Empty where it is too rough for that.
    std::vector<Handle(Geom_BSplineCurve)> curvesBeside(const std::vector<double>& distances) const {
        if (isLine()) return straightBeside(distances);
        const auto at = [&](double t) -> std::optional<std::vector<gp_Pnt>> {
            std::vector<gp_Pnt> out;
            for (const double d : distances) out.push_back(beside(t, d));
            return out;
        };
        return curvesAlong(m_breaks, distances.size(), at, {1e-5, 1e-4, 1e-3}, kMostPoles, {1, 0});
    }

  private:
    static constexpr int kMostPoles = 600;

    gp_Vec along(double t) const {
        gp_Pnt p;
        gp_Vec d;
        m_curve.D1(t, p, d);
        return d;
    }
    /// From half the turn at one corner, back, to half the turn at the next.
    double spreadAt(double t) const {
        if (m_breaks.size() < 3) return 0;
        const auto after = std::upper_bound(m_breaks.begin() + 1, m_breaks.end() - 1, t);
        const auto i = std::size_t(after - m_breaks.begin());
        const double share = (t - m_breaks[i - 1]) / (m_breaks[i] - m_breaks[i - 1]);
        return -0.5 * m_turns[i - 1] * (1 - share) + 0.5 * m_turns[i] * share;
    }
    std::vector<Handle(Geom_BSplineCurve)> straightBeside(const std::vector<double>& distances) const {
        std::vector<Handle(Geom_BSplineCurve)> out;
        TColStd_Array1OfReal knots(1, 2);
        knots(1) = m_from, knots(2) = m_to;
        TColStd_Array1OfInteger ends(1, 2);
        ends.Init(2);
        for (const double d : distances) {
            TColgp_Array1OfPnt poles(1, 2);
            poles(1) = beside(m_from, d), poles(2) = beside(m_to, d);
            out.push_back(new Geom_BSplineCurve(poles, knots, ends, 1));
        }
        return out;
    }

    BRepAdaptor_Curve m_curve;
    gp_Vec m_normal;
    std::vector<double> m_breaks; ///< where it may have corners, ends included
    std::vector<double> m_turns;  ///< there, to the left, rad
    double m_from = 0, m_to = 0;
    bool m_back = false;
};

/// The same line of new edges, each where it is: the kernel puts what is beside an edge that was moved there
/// at twice the way.
BesideWire ofItsOwn(const TopoDS_Wire& border) {
    const BRep_Builder builder;
    const auto walk = walkOf(border);
    struct Piece {
        Handle(Geom_Curve) curve;
        double from = 0, to = 0;
        bool back = false;
    };
    std::vector<Piece> pieces;
    for (const TopoDS_Edge& edge : walk) {
        Piece& p = pieces.emplace_back();
        p.curve = BRep_Tool::Curve(edge, p.from, p.to);
        p.back = edge.Orientation() == TopAbs_REVERSED;
    }
    std::vector<TopoDS_Vertex> corners(walk.size());
    for (std::size_t i = 0; i < walk.size(); ++i) {
        const Piece &a = pieces[(i + walk.size() - 1) % walk.size()], &b = pieces[i];
        const gp_Pnt end = a.curve->Value(a.back ? a.from : a.to),
                     begin = b.curve->Value(b.back ? b.to : b.from);
        builder.MakeVertex(corners[i], begin, std::max(kKernelPoint, 1.5 * begin.Distance(end)));
    }
    BesideWire out;
    builder.MakeWire(out.wire);
    for (std::size_t i = 0; i < walk.size(); ++i) {
        const TopoDS_Vertex &a = corners[i], &b = corners[(i + 1) % walk.size()];
        const Piece& p = pieces[i];
        TopoDS_Edge own = edgeBetween(p.curve, p.from, p.to, p.back ? b : a, p.back ? a : b, kKernelPoint);
        if (p.back) own.Reverse();
        builder.Add(out.wire, own);
        out.edges.emplace_back(own, walk[i]);
    }
    out.wire.Closed(true);
    return out;
}

std::optional<BesideWire> besideBy(const TopoDS_Wire& border, const Plane& plane, double distance,
                                   GeomAbs_JoinType join) {
    const BesideWire own = ofItsOwn(border);
    if (distance == 0) return own;
    try {
        BRepOffsetAPI_MakeOffset offset(BRepBuilderAPI_MakeFace(plnOf(plane), own.wire, true).Face(), join);
        offset.Perform(distance);
        if (!offset.IsDone() || offset.Shape().IsNull()) return std::nullopt;
        int wires = 0;
        TopoDS_Wire line;
        for (TopExp_Explorer x(offset.Shape(), TopAbs_WIRE); x.More(); x.Next(), ++wires)
            line = TopoDS::Wire(x.Current());
        if (wires != 1 || !BRep_Tool::IsClosed(line)) return std::nullopt;
        BesideWire out = ofItsOwn(line);
        // From the new edges by way of the line's own to those of the border.
        std::vector<std::pair<TopoDS_Edge, TopoDS_Edge>> from;
        for (const auto& [edge, of] : out.edges)
            for (const auto& [before, ofBorder] : own.edges)
                for (const TopoDS_Shape& made : toVector(offset.Generated(before)))
                    if (made.IsSame(of)) from.emplace_back(edge, ofBorder);
        out.edges = std::move(from);
        return out;
    } catch (const Standard_Failure&) {
        return std::nullopt;
    }
}

/// Do they meet from edge to edge, the last with the first?
bool areJoined(const std::vector<BesideEdge>& edges) {
    constexpr double kJoined = 1e-3; // mm: what a fitted wall may leave there
    for (std::size_t i = 0; i < edges.size(); ++i) {
        const BesideEdge &a = edges[i], &b = edges[(i + 1) % edges.size()];
        for (std::size_t k = 0; k < a.curves.size(); ++k)
            if (a.curves[k]
                    ->Value(a.back ? a.from : a.to)
                    .Distance(b.curves[k]->Value(b.back ? b.to : b.from)) > kJoined)
                return false;
    }
    return true;
}

} // namespace

gp_Pln plnOf(const Plane& p) {
    const Vec3 n = p.normal();
    return gp_Pln(
        gp_Ax3(placeIn(p.origin), gp_Dir(n.x, n.y, n.z), gp_Dir(p.across.x, p.across.y, p.across.z)));
}

double areaWithin(const TopoDS_Wire& wire, const Plane& plane) {
    double twice = 0;
    for (const TopoDS_Edge& e : walkOf(wire))
        twice += sweptBy(e, placeIn(plane.origin), directionIn(plane.normal()));
    return 0.5 * twice;
}

bool isPlain(const TopoDS_Wire& border) {
    const auto walk = walkOf(border);
    return std::all_of(walk.begin(), walk.end(), isPlainEdge);
}

std::optional<BesideWire> besideOf(const TopoDS_Wire& border, const Plane& plane, double distance) {
    const double area = std::fabs(areaWithin(border, plane));
    // The kernel's sign is by the sense of the wire.
    for (const GeomAbs_JoinType join : {GeomAbs_Intersection, GeomAbs_Arc})
        for (const double sign : {1.0, -1.0}) {
            const auto made = besideBy(border, plane, sign * distance, join);
            if (!made) continue;
            const double now = std::fabs(areaWithin(made->wire, plane));
            if (distance == 0 || (now > area) == (distance > 0)) return made;
        }
    return std::nullopt;
}

std::optional<std::vector<BesideEdge>> ruledBeside(const TopoDS_Wire& border, const Plane& plane,
                                                   const std::vector<double>& distances) {
    const double sign = areaWithin(border, plane) > 0 ? 1 : -1; // the right of the walk is outside
    std::vector<double> right;
    for (const double d : distances) right.push_back(sign * d);
    std::vector<BesideEdge> out;
    for (const TopoDS_Edge& edge : walkOf(border)) {
        WalkedEdge walked(edge, plane);
        if (!walked.spreadCorners() ||
            std::any_of(right.begin(), right.end(), [&](double d) { return walked.folds(d); }))
            return std::nullopt;
        auto curves = walked.curvesBeside(right);
        if (curves.empty()) return std::nullopt;
        out.push_back({edge, walked.from(), walked.to(), walked.isBack(), std::move(curves)});
    }
    return areJoined(out) ? std::optional(std::move(out)) : std::nullopt;
}

} // namespace gc
