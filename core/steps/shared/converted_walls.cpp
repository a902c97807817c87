#include "core/steps/shared/converted_walls.hpp"

#include <BRepTools_Modifier.hxx>
#include <ShapeCustom_ConvertToBSpline.hxx>

namespace gc {

void convertWalls(NamedTool& tool) {
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
