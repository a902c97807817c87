#include "core/steps/shared/lean_face.hpp"
#include "core/base/angles.hpp"

#include "core/base/tolerance.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Circle.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

namespace {

constexpr double kUpright = 1e-12; // rad
constexpr int kMostPoles = 1500;   // of one row

} // namespace

TopoDS_Edge edgeOn(const Handle(Geom_Curve) & curve, const TopoDS_Vertex& a, const TopoDS_Vertex& b,
                   double from, double to) {
    BRep_Builder builder;
    TopoDS_Edge edge;
    builder.MakeEdge(edge, curve, kKernelPoint);
    builder.Add(edge, a.Oriented(TopAbs_FORWARD));
    builder.Add(edge, b.Oriented(TopAbs_REVERSED));
    builder.Range(edge, from, to);
    const auto widen = [&](const TopoDS_Vertex& v, double at) {
        builder.UpdateVertex(v, curve->Value(at).Distance(BRep_Tool::Pnt(v)) * 1.01 + kKernelPoint);
    };
    widen(a, from), widen(b, to);
    return edge;
}

// ---- rows

std::optional<LeanRows> LeanRows::of(const InsetSide& side, double from, double to,
                                     const std::vector<double>& moves) {
    std::vector<double> breaks = side.breaks();
    breaks.front() = from, breaks.back() = to;
    std::vector<int> smooth(breaks.size(), 0);
    // The curve goes on evenly, its normal once less so.
    for (std::size_t i = 1; i + 1 < breaks.size(); ++i) smooth[i] = side.isEvenAt(i) ? 1 : 0;
    LeanRows rows{FitDirection(std::move(breaks), smooth)};
    for (;;) {
        rows.m_direction.refine();
        if (rows.m_direction.poles() > kMostPoles || !rows.fit(side, moves)) return std::nullopt;
        if (rows.farthest(side, moves) < kSurfaceFit) return rows;
    }
}

bool LeanRows::fit(const InsetSide& side, const std::vector<double>& moves) {
    const std::vector<double>& at = m_direction.points();
    const std::size_t width = 2 * moves.size();
    std::vector<double> values;
    for (const double t : at)
        for (const double by : moves) {
            const Vec2 p = side.moved(t, by);
            values.insert(values.end(), {p.x, p.y});
        }
    if (!m_direction.solve(values, width)) return false;
    m_rows.assign(moves.size(), {});
    for (std::size_t i = 0; i < at.size(); ++i)
        for (std::size_t r = 0; r < moves.size(); ++r)
            m_rows[r].push_back({values[i * width + 2 * r], values[i * width + 2 * r + 1]});
    return true;
}

double LeanRows::farthest(const InsetSide& side, const std::vector<double>& moves) const {
    double worst = 0;
    for (std::size_t r = 0; r < moves.size(); ++r) {
        const Handle(Geom_BSplineCurve) c = curve(r, 0);
        for (const double t : m_direction.middles())
            worst = std::max(worst, c->Value(t).Distance(inFrame(side.moved(t, moves[r]), 0)));
    }
    return worst;
}

Handle(Geom_BSplineCurve) LeanRows::curve(std::size_t row, double height) const {
    TColgp_Array1OfPnt poles(1, m_direction.poles());
    for (int i = 1; i <= m_direction.poles(); ++i)
        poles(i) = inFrame(m_rows[row][static_cast<std::size_t>(i - 1)], height);
    return new Geom_BSplineCurve(poles, m_direction.knots(), m_direction.multiplicities(),
                                 FitDirection::kDegree);
}

Handle(Geom_Surface) LeanRows::ruled(std::size_t row, const LeanHalf& half) const {
    TColgp_Array2OfPnt poles(1, m_direction.poles(), 1, 2);
    for (int i = 1; i <= m_direction.poles(); ++i) {
        const auto k = static_cast<std::size_t>(i - 1);
        poles(i, 1) = inFrame(m_rows[0][k], 0);
        poles(i, 2) = inFrame(m_rows[row][k], half.sense * half.height);
    }
    TColStd_Array1OfReal knots(1, 2);
    knots(1) = 0, knots(2) = half.height / std::cos(half.lean);
    TColStd_Array1OfInteger ends(1, 2);
    ends.Init(2);
    return new Geom_BSplineSurface(poles, m_direction.knots(), knots, m_direction.multiplicities(), ends,
                                   FitDirection::kDegree, 1);
}

// ---- a face

LeanFace::LeanFace(const InsetSide& side, const LeanHalf& half, const LeanRows* rows, std::size_t row)
    : m_side(&side), m_half(half), m_rows(rows), m_row(row) {
    if (side.kind() == InsetSide::Kind::Line) {
        const Vec2 along = side.heading(0), left = leftOf(along);
        // Right of the walk is out of the solid.
        const gp_Vec up(left.x * std::tan(half.lean), left.y * std::tan(half.lean), half.sense);
        const gp_Vec out = gp_Vec(along.x, along.y, 0).Crossed(up) * half.sense;
        m_surface = new Geom_Plane(inFrame(side.at(0.5), 0), gp_Dir(out));
    } else if (side.kind() == InsetSide::Kind::Arc) {
        // An arc's surface begins opposite its middle, a whole circle's at its vertex.
        const bool whole = side.closed();
        m_zero = whole ? side.angleAt(0) : side.angleAt(0.5) + kPi;
        m_shift = !whole ? kPi : side.turn() * half.sense > 0 ? 0 : 2 * kPi;
        const double inward = side.turn() > 0 ? -half.lean : half.lean;
        if (std::fabs(half.lean) < kUpright)
            m_surface = new Geom_CylindricalSurface(place(0), side.radius());
        else
            m_surface = new Geom_ConicalSurface(place(0), inward, side.radius());
    } else {
        m_surface = rows->ruled(row, half);
    }
}

gp_Ax3 LeanFace::place(double height) const {
    return {inFrame(m_side->centre(), m_half.sense * height), gp_Dir(0, 0, m_half.sense),
            gp_Dir(std::cos(m_zero), std::sin(m_zero), 0)};
}

bool LeanFace::looksIn() const {
    switch (m_side->kind()) {
    case InsetSide::Kind::Line:
        return false;
    case InsetSide::Kind::Arc:
        return m_side->turn() < 0; // of round surfaces it looks away from the axis
    case InsetSide::Kind::Free:
        return m_half.sense < 0;
    }
    return false;
}

gp_Pnt2d LeanFace::at(double t, double height) const {
    const double along = height / std::cos(m_half.lean);
    if (m_side->kind() != InsetSide::Kind::Arc) return {t, along};
    const double reference = m_side->closed() ? m_side->angleAt(0) : m_side->angleAt(0.5);
    return {m_half.sense * (m_side->angleAt(t) - reference) + m_shift, along};
}

TopoDS_Edge LeanFace::roundLevel(double from, double to, const TopoDS_Vertex& a, const TopoDS_Vertex& b,
                                 double height) const {
    const double moved = m_half.movedAt(height);
    const double radius = m_side->turn() > 0 ? m_side->radius() - moved : m_side->radius() + moved;
    const gp_Pnt2d begin = at(from, height), end = at(to, height);
    const bool grows = end.X() > begin.X();
    const Handle(Geom_Curve) circle = new Geom_Circle(place(height).Ax2(), radius);
    TopoDS_Edge edge =
        grows ? edgeOn(circle, a, b, begin.X(), end.X()) : edgeOn(circle, b, a, end.X(), begin.X());
    BRep_Builder().UpdateEdge(edge, new Geom2d_Line(gp_Pnt2d(0, begin.Y()), gp_Dir2d(1, 0)), m_surface,
                              TopLoc_Location(), kKernelPoint);
    return grows ? edge : TopoDS::Edge(edge.Reversed());
}

std::optional<TopoDS_Edge> LeanFace::level(double from, double to, const TopoDS_Vertex& a,
                                           const TopoDS_Vertex& b, double height) const {
    if (m_side->kind() == InsetSide::Kind::Line) {
        BRepBuilderAPI_MakeEdge edge(a, b);
        return edge.IsDone() ? std::optional(edge.Edge()) : std::nullopt;
    }
    if (m_side->kind() == InsetSide::Kind::Arc) return roundLevel(from, to, a, b, height);
    const gp_Pnt2d begin = at(from, height);
    const auto curve = m_rows->curve(height > 0 ? m_row : 0, m_half.sense * height);
    TopoDS_Edge edge = edgeOn(curve, a, b, from, to);
    BRep_Builder().UpdateEdge(edge, new Geom2d_Line(gp_Pnt2d(0, begin.Y()), gp_Dir2d(1, 0)), m_surface,
                              TopLoc_Location(), kKernelPoint);
    return edge;
}

/// At the height 0. Round surfaces of the two halves run against each other.
void LeanFace::lay(const TopoDS_Edge& edge, const LeanFace& other) const {
    if (flat()) return;
    Handle(Geom2d_Line) line = new Geom2d_Line(gp_Pnt2d(0, 0), gp_Dir2d(1, 0));
    if (m_side->kind() == InsetSide::Kind::Arc)
        line = new Geom2d_Line(gp_Pnt2d(at(0, 0).X() + other.at(0, 0).X(), 0), gp_Dir2d(-1, 0));
    BRep_Builder().UpdateEdge(edge, line, m_surface, TopLoc_Location(), kKernelPoint);
}

} // namespace gc
