#include "core/steps/extrude/between.hpp"
#include "core/steps/extrude/ends.hpp"
#include "core/steps/extrude/handles.hpp"
#include "core/steps/shared/becoming.hpp"
#include "core/steps/shared/converted_walls.hpp"
#include "core/steps/shared/filling.hpp"

#include <BRep_Builder.hxx>

namespace gc {

Result<StepChange> runExtrude(const Arguments& args, ModelReader& model, const Progress&) {
    auto filled = filledFor(args, model, "extrude", "Extrude");
    if (!filled) return filled.error();
    const Outline& outline = filled->outline();
    const std::vector<Region>& areas = filled->areas;
    auto becoming = becomingOf(args, model);
    if (!becoming) return becoming.error();
    auto made = guarded("extrude.failed", "The drawing cannot be extruded.", [&]() -> Result<StepChange> {
        const auto reach = reachOf(args, model, outline, becoming->targets);
        if (!reach) return reach.error();
        showHandles(args, outline, areas.front(), *reach, model);
        if (args.text("end") == "by" && args.text("way") != "both ways together")
            becoming->grows = {"length", args.number("length")};
        TopoDS_Compound solids;
        BRep_Builder().MakeCompound(solids);
        NamedTool tool;
        tool.step = args.id();
        tool.frame = outline.plane;
        for (const Region& area : areas)
            if (auto wrong = reach->begins.empty()
                                 ? addSolid(outline, area, *reach, args.id(), solids, tool)
                                 : addBetween(outline, area, *reach, args.id(), solids, tool))
                return *wrong;
        tool.shape = onlySolid(solids);
        convertWalls(tool);
        return become(*becoming, tool, areas.size(), args, model);
    });
    if (made) made->notes.insert(made->notes.begin(), filled->notes.begin(), filled->notes.end());
    return made;
}

} // namespace gc
