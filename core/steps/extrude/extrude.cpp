#include "core/steps/extrude/ends.hpp"
#include "core/steps/shared/chosen_area.hpp"

#include <BRepTools_Modifier.hxx>
#include <BRep_Builder.hxx>
#include <ShapeCustom_ConvertToBSpline.hxx>

namespace gc {

namespace {

/// The areas that are meant: the one that was chosen, or all that the drawing makes solid.
Result<std::vector<Region>> areasOf(const Arguments& args, const Outline& outline,
                                    std::vector<Message>& notes) {
    const std::string name = "\"" + args.label("outline") + "\"";
    if (!outline.drawn())
        return errorOf(
            "extrude.stations",
            phrase("The outline %1 goes through stations and is there to be turned. Extrude a drawing.",
                   name));
    const auto chosen = chosenAreas(outline, args.text("area"), args.label("outline"), "extrude.area");
    if (!chosen) return chosen.error();
    std::vector<Region> areas;
    for (const ChosenArea& c : *chosen) {
        areas.push_back(*c.area);
        if (!c.note.empty()) notes.push_back(c.note);
    }
    if (!areas.empty()) return areas;
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
    const std::string& does = args.text("does");
    const bool isNew = does == "as new body";
    const auto target = isNew ? std::nullopt : model.bodyIn("target");
    const Body* body = target ? model.body(*target) : nullptr;
    if (!isNew && !body)
        return errorOf(
            "extrude.body",
            phrase("There is no body called \"%1\" before this step. Make a new one, or choose another.",
                   args.label("target")));
    auto made = guarded("extrude.failed", "The drawing cannot be extruded.", [&]() -> Result<StepChange> {
        const auto reach = reachOf(args, model, *outline, target);
        if (!reach) return reach.error();
        TopoDS_Compound solids;
        BRep_Builder().MakeCompound(solids);
        NamedTool tool;
        tool.step = args.id();
        tool.frame = outline->plane;
        for (const Region& area : *areas)
            if (auto wrong =
                    addSolid(profileOf(*outline, area), outline->plane, *reach, args.id(), solids, tool))
                return *wrong;
        tool.shape = onlySolid(solids);
        convertWalls(tool);
        if (isNew) return newBody(tool, areas->size());
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
