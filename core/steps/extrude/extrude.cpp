#include "core/model/arguments.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/profile.hpp"

#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools_Modifier.hxx>
#include <BRep_Builder.hxx>
#include <ShapeCustom_ConvertToBSpline.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Trsf.hxx>
#include <gp_Vec.hxx>

#include <algorithm>

namespace gc {

namespace {

/// From where to where along the drawing's normal.
struct Reach {
    gp_Vec from, along;
};

Reach reachOf(const Arguments& args, const Plane& plane) {
    const Vec3 n = plane.normal();
    const gp_Vec normal(n.x, n.y, n.z);
    const double length = args.number("length");
    const std::string& way = args.text("way");
    if (way == "backward") return {gp_Vec(), normal * -length};
    if (way == "forward") return {gp_Vec(), normal * length};
    return {normal * (-0.5 * length), normal * length};
}

/// The areas that are meant: the one that was chosen, or all that the drawing makes solid.
Result<std::vector<Region>> areasOf(const Arguments& args, const Outline& outline,
                                    std::vector<Message>& notes) {
    const std::string name = "\"" + args.label("outline") + "\"";
    if (!outline.drawn())
        return errorOf(
            "extrude.stations",
            phrase("The outline %1 goes through stations and is there to be turned. Extrude a drawing.",
                   name));
    const auto chosen = chosenArea(outline, args.text("area"), args.label("outline"), "extrude.area");
    if (!chosen) return chosen.error();
    if (*chosen) {
        if (!(*chosen)->note.empty()) notes.push_back((*chosen)->note);
        return std::vector{*(*chosen)->area};
    }
    if (outline.regions.empty())
        return errorOf(
            "extrude.open",
            phrase("The drawing %1 encloses nothing yet. Close it: its gaps are listed beside it.", name));
    return outline.regions;
}

/// A surface that is a spline moved along is measured wrongly by the kernel: it becomes a B-spline, to the
/// last digit the same. Planes and cylinders stay what they are.
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

void addPrism(const Profile& profile, const Reach& reach, int step, TopoDS_Compound& solids,
              NamedTool& tool) {
    gp_Trsf move;
    move.SetTranslation(reach.from);
    // Moved once, edges and face together: two moves give places that are not the same place.
    BRepBuilderAPI_Transform moved(profile.face, move, true);
    BRepPrimAPI_MakePrism prism(moved.Shape(), reach.along);
    BRep_Builder().Add(solids, prism.Shape());
    tool.names.emplace_back(prism.FirstShape(), internName(step, "start"));
    tool.names.emplace_back(prism.LastShape(), internName(step, "end"));
    for (const ProfileEdge& edge : profile.edges)
        for (const TopoDS_Shape& face : toVector(prism.Generated(moved.ModifiedShape(edge.edge))))
            for (const std::string& role : edge.roles) tool.names.emplace_back(face, internName(step, role));
}

Result<StepChange> newBody(const NamedTool& tool, std::size_t areas) {
    if (areas > 1)
        return errorOf("extrude.areas", phrase("The drawing encloses %1 areas that do not touch, so the body "
                                               "would be as many pieces. Choose one of them in the sentence.",
                                               std::to_string(areas)));
    NameBuilder names(onlySolid(tool.shape));
    names.frame(tool.step, tool.frame);
    for (const auto& [face, name] : tool.names) names.add(face, name);
    auto body = names.finish();
    return body ? Result<StepChange>(StepChange(MadeBody{*body})) : body.error();
}

} // namespace

Result<StepChange> runExtrude(const Arguments& args, ModelReader& model, const Progress&) {
    const auto id = model.outlineIn("outline");
    const Outline* outline = id ? model.outline(*id) : nullptr;
    if (!outline)
        return errorOf("extrude.outline",
                       phrase("There is no outline called \"%1\" before this step.", args.label("outline")));
    std::vector<Message> notes;
    const auto areas = areasOf(args, *outline, notes);
    if (!areas) return areas.error();
    auto made = guarded("extrude.failed", "The drawing cannot be extruded.", [&]() -> Result<StepChange> {
        const Reach reach = reachOf(args, outline->plane);
        TopoDS_Compound solids;
        BRep_Builder().MakeCompound(solids);
        NamedTool tool;
        tool.step = args.id();
        tool.frame = outline->plane;
        for (const Region& area : *areas) addPrism(profileOf(*outline, area), reach, args.id(), solids, tool);
        tool.shape = areas->size() == 1 ? onlySolid(solids) : TopoDS_Shape(solids);
        convertWalls(tool);
        const std::string& does = args.text("does");
        if (does == "as new body") return newBody(tool, areas->size());
        const auto target = model.bodyIn("target");
        const Body* body = target ? model.body(*target) : nullptr;
        if (!body)
            return errorOf(
                "extrude.body",
                phrase("There is no body called \"%1\" before this step. Make a new one, or choose another.",
                       args.label("target")));
        auto joined = combine(*body, tool,
                              does == "adding to"     ? Combine::Add
                              : does == "taking from" ? Combine::Take
                                                      : Combine::Common);
        return joined ? Result<StepChange>(StepChange(ChangedBody{*target, *joined})) : joined.error();
    });
    if (made) made.value().notes = std::move(notes);
    return made;
}

} // namespace gc
