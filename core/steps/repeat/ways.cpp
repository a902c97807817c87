#include "core/steps/repeat/ways.hpp"

#include "core/base/tolerance.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>

namespace gc {

namespace {

/// A flat wall, between the edges at its two sides.
class FlatWays : public Ways {
  public:
    FlatWays(const gp_Pnt& a, const gp_Vec& alongA, const gp_Pnt& b, const gp_Vec& alongB)
        : m_a(a), m_b(b), m_alongA(alongA), m_alongB(alongB) {}
    OnWay at(double t, double height) const override {
        const gp_Vec along = m_alongA * (1 - t) + m_alongB * t;
        return {m_a.Translated(gp_Vec(m_a, m_b) * t + along * height), along};
    }
    double heightAt(double) const override { return 0; }
    gp_Pnt2d parametersAt(double, double) const override { return {}; }
    bool hasParameters() const override { return false; }

  private:
    gp_Pnt m_a, m_b;
    gp_Vec m_alongA, m_alongB;
};

/// A wall that is turned or drawn along a line: the lines of its own net.
class NetWays : public Ways {
  public:
    NetWays(Handle(Geom_Surface) surface, const gp_Pnt2d& from, const gp_Pnt2d& to)
        : m_surface(std::move(surface)), m_from(from), m_to(to) {}
    OnWay at(double t, double height) const override {
        OnWay out;
        gp_Vec across;
        m_surface->D1(m_from.X() + (m_to.X() - m_from.X()) * t, height, out.at, across, out.along);
        return out;
    }
    double heightAt(double t) const override { return m_from.Y() + (m_to.Y() - m_from.Y()) * t; }
    gp_Pnt2d parametersAt(double t, double height) const override {
        return {m_from.X() + (m_to.X() - m_from.X()) * t, height};
    }
    bool hasParameters() const override { return true; }

  private:
    Handle(Geom_Surface) m_surface;
    gp_Pnt2d m_from, m_to;
};

/// Null where it is none: straight one way between its only two rows of poles.
Handle(Geom_BSplineSurface) ruledOf(const TopoDS_Face& face) {
    TopLoc_Location place;
    const auto s = Handle(Geom_BSplineSurface)::DownCast(BRep_Tool::Surface(face, place));
    const bool ruled = !s.IsNull() && place.IsIdentity() && s->VDegree() == 1 && s->NbVPoles() == 2 &&
                       !s->IsURational() && !s->IsVRational();
    return ruled ? s : Handle(Geom_BSplineSurface)();
}

bool isNet(const TopoDS_Face& face) {
    if (!ruledOf(face).IsNull()) return true;
    switch (BRepAdaptor_Surface(face, false).GetType()) {
    case GeomAbs_Cylinder:
    case GeomAbs_Cone:
    case GeomAbs_Sphere:
    case GeomAbs_Torus:
    case GeomAbs_SurfaceOfRevolution:
    case GeomAbs_SurfaceOfExtrusion:
        return true;
    default:
        return false;
    }
}

/// Along a straight edge, from its other end to a corner of it, of length 1.
std::optional<gp_Vec> towards(const TopoDS_Edge& edge, const TopoDS_Vertex& corner) {
    double a = 0, b = 0;
    const Handle(Geom_Curve) c = BRep_Tool::Curve(edge, a, b);
    if (c.IsNull() || GeomAdaptor_Curve(c).GetType() != GeomAbs_Line) return std::nullopt;
    const gp_Vec d(c->Value(a), c->Value(b));
    if (d.Magnitude() < kKernelPoint) return std::nullopt;
    const bool atEnd = TopExp::LastVertex(TopoDS::Edge(edge.Oriented(TopAbs_FORWARD))).IsSame(corner);
    return d.Normalized() * (atEnd ? 1 : -1);
}

} // namespace

void goOnBeyond(const TopoDS_Face& wall) {
    constexpr double kBeyond = 4; // times as far as between its two lines
    const Handle(Geom_BSplineSurface) old = ruledOf(wall);
    if (old.IsNull()) return;
    TColgp_Array2OfPnt poles(1, old->NbUPoles(), 1, 2);
    for (int i = 1; i <= old->NbUPoles(); ++i) {
        const gp_Vec across(old->Pole(i, 1), old->Pole(i, 2));
        poles(i, 1) = old->Pole(i, 1).Translated(across * -kBeyond);
        poles(i, 2) = old->Pole(i, 2).Translated(across * kBeyond);
    }
    TColStd_Array1OfReal knots(1, 2);
    const double low = old->VKnot(1), high = old->VKnot(2);
    knots(1) = low - kBeyond * (high - low), knots(2) = high + kBeyond * (high - low);
    TColStd_Array1OfInteger ends(1, 2);
    ends.Init(2);
    const Handle(Geom_BSplineSurface) longer =
        new Geom_BSplineSurface(poles, old->UKnots(), knots, old->UMultiplicities(), ends, old->UDegree(), 1);
    const BRep_Builder builder;
    const TopoDS_Face ahead = TopoDS::Face(wall.Oriented(TopAbs_FORWARD));
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(ahead, TopAbs_EDGE, edges);
    for (int k = 1; k <= edges.Extent(); ++k) {
        const TopoDS_Edge edge = TopoDS::Edge(edges(k).Oriented(TopAbs_FORWARD));
        double a = 0, b = 0;
        const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(edge, ahead, a, b);
        const double tolerance = BRep_Tool::Tolerance(edge);
        if (BRep_Tool::IsClosed(edge, ahead)) {
            const Handle(Geom2d_Curve) other =
                BRep_Tool::CurveOnSurface(TopoDS::Edge(edge.Reversed()), ahead, a, b);
            builder.UpdateEdge(edge, {}, {}, old, {}, tolerance);
            builder.UpdateEdge(edge, on, other, longer, {}, tolerance);
        } else {
            builder.UpdateEdge(edge, {}, old, {}, tolerance);
            builder.UpdateEdge(edge, on, longer, {}, tolerance);
        }
    }
    builder.UpdateFace(wall, longer, {}, BRep_Tool::Tolerance(wall));
}

std::unique_ptr<Ways> waysOf(const TopoDS_Edge& ahead, const TopoDS_Face& wall, const TopoDS_Edge& left,
                             const TopoDS_Edge& right) {
    const TopoDS_Vertex a = TopExp::FirstVertex(ahead), b = TopExp::LastVertex(ahead);
    if (BRepAdaptor_Surface(wall, false).GetType() == GeomAbs_Plane) {
        if (left.IsNull() || right.IsNull() || a.IsSame(b)) return nullptr;
        const auto alongA = towards(left, a), alongB = towards(right, b);
        if (!alongA || !alongB || *alongA * *alongB <= 0) return nullptr;
        return std::make_unique<FlatWays>(BRep_Tool::Pnt(a), *alongA, BRep_Tool::Pnt(b), *alongB);
    }
    if (!isNet(wall)) return nullptr;
    double from = 0, to = 0;
    const Handle(Geom2d_Curve) on =
        BRep_Tool::CurveOnSurface(ahead, TopoDS::Face(wall.Oriented(TopAbs_FORWARD)), from, to);
    if (on.IsNull()) return nullptr;
    // The net's lines are met one after the other.
    constexpr int kPlaces = 32;
    const double whole = on->Value(to).X() - on->Value(from).X();
    for (int i = 0; i < kPlaces; ++i) {
        const double step = on->Value(from + (to - from) * (i + 1) / kPlaces).X() -
                            on->Value(from + (to - from) * i / kPlaces).X();
        if (step * whole <= 0) return nullptr;
    }
    return std::make_unique<NetWays>(BRep_Tool::Surface(wall), on->Value(from), on->Value(to));
}

} // namespace gc
