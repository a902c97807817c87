#include "core/steps/shared/parted_at_jumps.hpp"

#include "core/base/tolerance.hpp"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRep_Tool.hxx>
#include <Geom_BSplineSurface.hxx>
#include <ShapeBuild_ReShape.hxx>
#include <ShapeUpgrade_ShapeDivideContinuity.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

namespace gc {

bool bendJumpsOn(const TopoDS_Shape& face) {
    const auto s = Handle(Geom_BSplineSurface)::DownCast(BRep_Tool::Surface(TopoDS::Face(face)));
    return !s.IsNull() && (!s->IsCNu(2) || !s->IsCNv(2));
}

std::vector<TopoDS_Edge> Parted::piecesOf(const TopoDS_Edge& edge) const {
    std::vector<TopoDS_Edge> out;
    for (TopExp_Explorer x(context->Apply(copy->ModifiedShape(edge)), TopAbs_EDGE); x.More(); x.Next())
        out.push_back(TopoDS::Edge(x.Current()));
    return out;
}

std::vector<TopoDS_Face> Parted::piecesOf(const TopoDS_Face& face) const {
    std::vector<TopoDS_Face> out;
    for (TopExp_Explorer x(context->Apply(copy->ModifiedShape(face)), TopAbs_FACE); x.More(); x.Next())
        out.push_back(TopoDS::Face(x.Current()));
    return out;
}

std::optional<Parted> partedAtJumps(const NamedShape& shape) {
    Parted out;
    // Its edges are its own: what the body before shares with others must not change.
    out.copy = std::make_shared<BRepBuilderAPI_Copy>(shape.shape);
    ShapeUpgrade_ShapeDivideContinuity divide(out.copy->Shape());
    divide.SetBoundaryCriterion(GeomAbs_C2);
    divide.SetSurfaceCriterion(GeomAbs_C2);
    divide.SetPCurveCriterion(GeomAbs_C2);
    divide.SetTolerance(kSurfaceFit);
    if (!divide.Perform() || divide.Result().IsNull()) return std::nullopt;
    out.context = divide.GetContext();
    NameBuilder names(onlySolid(divide.Result()));
    names.inherit(shape);
    for (int i = 1; i <= shape.faces.Extent(); ++i)
        for (const TopoDS_Face& piece : out.piecesOf(TopoDS::Face(shape.faces(i))))
            if (names.has(piece)) names.add(piece, shape.namesOf(shape.faces(i)));
    auto made = names.finish();
    if (!made) return std::nullopt;
    out.body = std::move(*made);
    return out;
}

} // namespace gc
