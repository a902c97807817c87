#pragma once
/// \file For .cpp files of tests: bodies turned about z under a spline.

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GeomAPI_PointsToBSpline.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColgp_Array1OfPnt.hxx>

#include <vector>

namespace gc::test {

/// A profile in the plane of x and z near these radii, mm, one after the other a step apart in height.
inline Handle(Geom_BSplineCurve) profileNear(const std::vector<double>& radii, double step) {
    TColgp_Array1OfPnt p(1, static_cast<int>(radii.size()));
    for (int i = 0; i < p.Length(); ++i) p(i + 1) = gp_Pnt(radii[static_cast<std::size_t>(i)], 0, step * i);
    return GeomAPI_PointsToBSpline(p).Curve();
}

/// What lies between the axis and the profile, turned all round.
inline TopoDS_Shape turned(const Handle(Geom_BSplineCurve) & profile) {
    const gp_Pnt from = profile->StartPoint(), to = profile->EndPoint(), low(0, 0, from.Z()),
                 high(0, 0, to.Z());
    BRepBuilderAPI_MakeWire wire;
    wire.Add(BRepBuilderAPI_MakeEdge(low, from));
    wire.Add(BRepBuilderAPI_MakeEdge(profile));
    wire.Add(BRepBuilderAPI_MakeEdge(to, high));
    wire.Add(BRepBuilderAPI_MakeEdge(high, low));
    return BRepPrimAPI_MakeRevol(BRepBuilderAPI_MakeFace(wire.Wire()).Face(), gp::OZ()).Shape();
}

} // namespace gc::test
