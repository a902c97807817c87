#include "core/steps/shared/converted_walls.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools_Modifier.hxx>
#include <ShapeCustom_ConvertToBSpline.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

namespace gc {

namespace {

bool hasOvalWall(const TopoDS_Shape& shape) {
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) {
        const BRepAdaptor_Surface s(TopoDS::Face(x.Current()), false);
        if (s.GetType() == GeomAbs_SurfaceOfExtrusion && s.BasisCurve()->GetType() == GeomAbs_Ellipse)
            return true;
    }
    return false;
}

} // namespace

void convertWalls(NamedTool& tool) {
    // The wall over an oval comes out wrong: its own parameter is another than that of its B-spline.
    if (hasOvalWall(tool.shape)) return;
    Handle(ShapeCustom_ConvertToBSpline) convert = new ShapeCustom_ConvertToBSpline;
    convert->SetExtrusionMode(true);
    convert->SetRevolutionMode(false);
    convert->SetOffsetMode(false);
    convert->SetPlaneMode(false);
    BRepTools_Modifier modifier(tool.shape, convert);
    if (!modifier.IsDone()) return;
    for (auto& [face, name] : tool.names) face = modifier.ModifiedShape(face);
    tool.shape = modifier.ModifiedShape(tool.shape);
}

} // namespace gc
