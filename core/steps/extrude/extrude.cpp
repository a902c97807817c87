#include "core/steps/extrude/between.hpp"
#include "core/steps/extrude/ends.hpp"
#include "core/steps/extrude/handles.hpp"
#include "core/steps/shared/becoming.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/converted_walls.hpp"
#include "core/steps/shared/filling.hpp"

#include <BRep_Builder.hxx>

namespace gc {

namespace {

/// The areas that are meant.
Result<std::vector<Region>> areasOf(const Arguments& args, const Outline& outline,
                                    std::vector<Message>& notes) {
    if (!outline.drawn())
        return errorOf("extrude.stations",
                       phrase("The outline \"%1\" goes through stations and is there to be turned. "
                              "Extrude a drawing.",
                              args.label("outline")));
    return meantAreas(args, outline, "extrude", notes);
}

} // namespace

Result<StepChange> runExtrude(const Arguments& args, ModelReader& model, const Progress&) {
    const auto id = model.outlineIn("outline");
    const Outline* outline = id ? model.outline(*id) : nullptr;
    if (!outline)
        return errorOf("extrude.outline",
                       phrase("There is no outline called \"%1\" before this step.", args.label("outline")));
    std::vector<Message> notes;
    std::optional<Outline> wall;
    if (isWall(args)) {
        auto along = wallAlong(args, *outline);
        if (!along) return along.error();
        wall = std::move(*along);
        outline = &*wall;
    }
    const auto areas = wall ? Result<std::vector<Region>>(wall->regions) : areasOf(args, *outline, notes);
    if (!areas) return areas.error();
    auto becoming = becomingOf(args, model);
    if (!becoming) return becoming.error();
    auto made = guarded("extrude.failed", "The drawing cannot be extruded.", [&]() -> Result<StepChange> {
        const auto reach = reachOf(args, model, *outline, becoming->targets);
        if (!reach) return reach.error();
        showHandles(args, *outline, areas->front(), *reach, model);
        if (args.text("end") == "by" && args.text("way") != "both ways together")
            becoming->grows = {"length", args.number("length")};
        TopoDS_Compound solids;
        BRep_Builder().MakeCompound(solids);
        NamedTool tool;
        tool.step = args.id();
        tool.frame = outline->plane;
        for (const Region& area : *areas)
            if (auto wrong = reach->begins.empty()
                                 ? addSolid(*outline, area, *reach, args.id(), solids, tool)
                                 : addBetween(*outline, area, *reach, args.id(), solids, tool))
                return *wrong;
        tool.shape = onlySolid(solids);
        convertWalls(tool);
        return become(*becoming, tool, areas->size(), args, model);
    });
    if (made) made.value().notes.insert(made.value().notes.begin(), notes.begin(), notes.end());
    return made;
}

} // namespace gc
