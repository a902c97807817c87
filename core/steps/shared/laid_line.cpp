#include "core/steps/shared/laid_line.hpp"

#include "core/base/tolerance.hpp"

#include <Adaptor3d_CurveOnSurface.hxx>
#include <BRepLib_ValidateEdge.hxx>
#include <BRep_Builder.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_Line.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

Handle(Geom2d_BSplineCurve) inParameters(const Handle(Geom_BSplineCurve) & c, const gp_Vec2d& scale) {
    TColgp_Array1OfPnt2d poles(1, c->NbPoles());
    for (int i = 1; i <= c->NbPoles(); ++i)
        poles(i) = gp_Pnt2d(c->Pole(i).X() / scale.X(), c->Pole(i).Y() / scale.Y());
    return new Geom2d_BSplineCurve(poles, c->Knots(), c->Multiplicities(), c->Degree());
}

double offBetween(const LaidLine& line, const Handle(Geom_Surface) & surface) {
    constexpr int kWithin = 10;  // of each span
    constexpr double kSpare = 2; // between the places that are looked at
    double out = kSurfaceFit;
    const Handle(Adaptor3d_Surface) wall = new GeomAdaptor_Surface(surface);
    const Handle(Adaptor2d_Curve2d) laid = new Geom2dAdaptor_Curve(line.laid);
    const Handle(Adaptor3d_Curve) curve = new GeomAdaptor_Curve(line.curve);
    const auto knots = line.curve->Knots();
    for (int i = knots.Lower(); i < knots.Upper(); ++i)
        for (int k = 0; k <= kWithin; ++k) {
            const double t = knots(i) + (knots(i + 1) - knots(i)) * k / kWithin;
            const gp_Pnt2d uv = laid->Value(t);
            out = std::max(out, kSpare * curve->Value(t).Distance(wall->Value(uv.X(), uv.Y())));
        }
    // Where the kernel looks when it checks a body.
    BRepLib_ValidateEdge check(curve, new Adaptor3d_CurveOnSurface(laid, wall), true);
    check.Process();
    return std::max(out, kSpare * check.GetMaxDistance());
}

Handle(Geom2d_BSplineCurve) straightLaid(const gp_Pnt2d& a, const gp_Pnt2d& b, double from, double to) {
    TColgp_Array1OfPnt2d poles(1, 2);
    poles(1) = a, poles(2) = b;
    TColStd_Array1OfReal knots(1, 2);
    knots(1) = from, knots(2) = to;
    TColStd_Array1OfInteger ends(1, 2);
    ends.Init(2);
    return new Geom2d_BSplineCurve(poles, knots, ends, 1);
}

double turnOf(const std::vector<LaidLine>& lines) {
    constexpr int kPlaces = 24;
    std::vector<gp_Pnt2d> p;
    for (const LaidLine& s : lines)
        for (int i = 0; i < kPlaces; ++i) p.push_back(s.laid->Value(double(i) / kPlaces));
    double out = 0;
    for (std::size_t i = 0; i < p.size(); ++i) {
        const gp_Pnt2d &a = p[i], &b = p[(i + 1) % p.size()];
        out += (a.X() - p[0].X()) * (b.Y() - p[0].Y()) - (b.X() - p[0].X()) * (a.Y() - p[0].Y());
    }
    return out;
}

TopoDS_Edge edgeBetween(const Handle(Geom_Curve) & curve, double from, double to, const TopoDS_Vertex& a,
                        const TopoDS_Vertex& b, double tolerance) {
    const BRep_Builder builder;
    TopoDS_Edge e;
    builder.MakeEdge(e, curve, tolerance);
    builder.Add(e, a.Oriented(TopAbs_FORWARD));
    builder.Add(e, b.Oriented(TopAbs_REVERSED));
    builder.Range(e, from, to);
    return e;
}

TopoDS_Edge edgeOf(const LaidLine& line, const TopoDS_Vertex& a, const TopoDS_Vertex& b,
                   const TopoDS_Face& on) {
    const TopoDS_Edge e = edgeBetween(line.curve, 0, 1, a, b, line.off);
    BRep_Builder().UpdateEdge(e, line.laid, on, line.off);
    return e;
}

LaidLoop laidLoop(const std::vector<LaidLine>& feet, const std::vector<LaidLine>& crests,
                  const TopoDS_Face& low, const TopoDS_Face& high) {
    const BRep_Builder builder;
    const std::size_t n = feet.size();
    const auto cornersOf = [&](const std::vector<LaidLine>& lines) {
        std::vector<TopoDS_Vertex> out(n);
        for (std::size_t i = 0; i < n; ++i) {
            const LaidLine &a = lines[(i + n - 1) % n], &b = lines[i];
            builder.MakeVertex(out[i], b.start(), a.off + b.off + a.curve->EndPoint().Distance(b.start()));
        }
        return out;
    };
    const auto below = cornersOf(feet), above = cornersOf(crests);
    LaidLoop out;
    for (std::size_t i = 0; i < n; ++i) {
        const std::size_t j = (i + 1) % n;
        out.foot.push_back(edgeOf(feet[i], below[i], below[j], low));
        out.crest.push_back(edgeOf(crests[i], above[i], above[j], high));
        const gp_Pnt a = feet[i].start(), b = crests[i].start();
        out.up.push_back(edgeBetween(new Geom_Line(a, gp_Dir(gp_Vec(a, b))), 0, a.Distance(b), below[i],
                                     above[i], kKernelPoint));
    }
    return out;
}

TopoDS_Wire wireOf(const std::vector<TopoDS_Edge>& edges, bool against) {
    const BRep_Builder builder;
    TopoDS_Wire w;
    builder.MakeWire(w);
    for (const TopoDS_Edge& e : edges) builder.Add(w, e);
    w.Closed(true);
    return TopoDS::Wire(against ? w.Reversed() : TopoDS_Shape(w));
}

TopoDS_Wire borderOfSide(const LaidLoop& loop, std::size_t i) {
    return wireOf({loop.foot[i], loop.up[(i + 1) % loop.up.size()], TopoDS::Edge(loop.crest[i].Reversed()),
                   TopoDS::Edge(loop.up[i].Reversed())},
                  false);
}

} // namespace gc
