#include "core/steps/shared/converted_walls.hpp"

#include "core/shape/kept_parameters.hpp"

#include <BRepTools.hxx>
#include <BRepTools_Modifier.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_BezierCurve.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Geom_SurfaceOfLinearExtrusion.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>

namespace gc {

namespace {

/// The spline that is moved along; null where another curve is.
Handle(Geom_BSplineCurve) splineOf(const Handle(Geom_Curve) & curve) {
    Handle(Geom_Curve) basis = curve;
    if (const auto trimmed = Handle(Geom_TrimmedCurve)::DownCast(basis); !trimmed.IsNull())
        basis = trimmed->BasisCurve();
    if (const auto spline = Handle(Geom_BSplineCurve)::DownCast(basis); !spline.IsNull()) return spline;
    if (!Handle(Geom_BezierCurve)::DownCast(basis).IsNull()) return GeomConvert::CurveToBSplineCurve(basis);
    return nullptr;
}

/// The same places at the same parameters: a spline of degree 1 from one end of its way to the other.
Handle(Geom_BSplineSurface)
    movedAlong(const Handle(Geom_BSplineCurve) & c, const gp_Dir& way, double from, double to) {
    TColgp_Array2OfPnt poles(1, c->NbPoles(), 1, 2);
    TColStd_Array2OfReal weights(1, c->NbPoles(), 1, 2);
    for (int i = 1; i <= c->NbPoles(); ++i) {
        poles(i, 1) = c->Pole(i).Translated(gp_Vec(way) * from);
        poles(i, 2) = c->Pole(i).Translated(gp_Vec(way) * to);
        weights(i, 1) = weights(i, 2) = c->Weight(i);
    }
    TColStd_Array1OfReal across(1, 2);
    across(1) = from, across(2) = to;
    TColStd_Array1OfInteger ends(1, 2);
    ends.Init(2);
    return new Geom_BSplineSurface(poles, weights, c->Knots(), across, c->Multiplicities(), ends, c->Degree(),
                                   1, c->IsPeriodic(), false);
}

class MovedSplines : public SwappedSurfaces {
  public:
    DEFINE_STANDARD_RTTI_INLINE(MovedSplines, SwappedSurfaces)

  private:
    Handle(Geom_Surface) insteadOf(const TopoDS_Face& face, TopLoc_Location& place) const override {
        Handle(Geom_Surface) plain = BRep_Tool::Surface(face, place);
        if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(plain); !trimmed.IsNull())
            plain = trimmed->BasisSurface();
        const auto moved = Handle(Geom_SurfaceOfLinearExtrusion)::DownCast(plain);
        const auto spline = moved.IsNull() ? nullptr : splineOf(moved->BasisCurve());
        if (spline.IsNull()) return nullptr;
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(face, u0, u1, v0, v1);
        return movedAlong(spline, moved->Direction(), v0, v1);
    }
};

} // namespace

void convertWalls(NamedTool& tool) {
    BRepTools_Modifier modifier(tool.shape, new MovedSplines);
    if (!modifier.IsDone()) return;
    for (auto& [face, name] : tool.names) face = modifier.ModifiedShape(face);
    tool.shape = modifier.ModifiedShape(tool.shape);
}

} // namespace gc
