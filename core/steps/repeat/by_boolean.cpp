#include "core/steps/repeat/surgery.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

namespace gc {

namespace {

/// A detail as a solid: its faces, closed by what its mouths leave of the faces that it stands in.
struct DetailSolid {
    TopoDS_Shape shape;
    bool takes = false; ///< it is a hollow
};

DetailSolid solidOf(const Detail& detail) {
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const TopoDS_Face& f : detail.faces) builder.Add(shell, f);
    for (const Mouth& m : detail.mouths) {
        // Within the host the loop is a hole: run the other way it is the border of what fills it.
        TopoDS_Face lid = TopoDS::Face(m.host.EmptyCopied().Oriented(TopAbs_FORWARD));
        builder.Add(lid, m.loop.Reversed());
        // The lid looks the other way than the host: towards the detail.
        builder.Add(shell, lid.Oriented(TopAbs::Reverse(m.host.Orientation())));
    }
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    GProp_GProps props;
    BRepGProp::VolumeProperties(solid, props);
    // A boss closed below by lids that look down is a solid that looks outward; of a hollow all faces look
    // inward.
    if (props.Mass() > 0) return {solid, false};
    return {solid.Reversed(), true};
}

} // namespace

Result<Body> addedOrTaken(const NamedShape& shape, const Detail& detail,
                          const std::vector<Placement>& placements, int step) {
    const DetailSolid solid = solidOf(detail);
    TopTools_ListOfShape bodies, tools;
    bodies.Append(shape.shape);
    std::vector<std::unique_ptr<BRepBuilderAPI_Transform>> copies;
    for (const Placement& p : placements) {
        copies.push_back(std::make_unique<BRepBuilderAPI_Transform>(solid.shape, p.by, true));
        tools.Append(copies.back()->Shape());
    }
    BRepAlgoAPI_Cut cut;
    BRepAlgoAPI_Fuse fuse;
    BRepAlgoAPI_BooleanOperation& operation =
        solid.takes ? static_cast<BRepAlgoAPI_BooleanOperation&>(cut) : fuse;
    operation.SetArguments(bodies);
    operation.SetTools(tools);
    operation.SetNonDestructive(true);
    operation.SetRunParallel(false);
    operation.Build();
    if (operation.HasErrors())
        return errorOf("repeat.failed",
                       "The copies cannot be worked into the body there. Move them a little, or take fewer.");
    NameBuilder names(onlySolid(operation.Shape()));
    names.carry(shape, operation);
    for (std::size_t k = 0; k < copies.size(); ++k)
        for (const TopoDS_Face& f : detail.faces) {
            const TopoDS_Shape moved = copies[k]->ModifiedShape(f);
            auto now = toVector(operation.Modified(moved));
            if (now.empty()) now.push_back(moved);
            for (const TopoDS_Shape& n : now)
                if (names.has(n)) nameCopy(names, shape, f, n, placements[k].place, step);
        }
    return names.finish();
}

} // namespace gc
