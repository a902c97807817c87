// Flange: a ring outside a rim, as thick as is said below its level, and a second one along its edge.

#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/rim_ring.hpp"
#include "core/steps/shared/without_seam.hpp"

#include <BRep_Builder.hxx>
#include <TopoDS_Compound.hxx>

namespace gc {

namespace {

/// What the sentence asks for, and the tools that it comes to.
struct FlangeMaker {
    const FoundItems& found;
    const Rim& rim;
    int step;

    /// A ring between two distances beside a border, so far below the rim's level.
    Result<NamedTool> ring(const TopoDS_Wire& border, double from, double to, bool outward, double deep,
                           const char* kind) const {
        const auto made = ringBeside(found.body, rim, border, from, to, outward);
        if (!made) return made.error();
        TopoDS_Compound solids;
        BRep_Builder().MakeCompound(solids);
        NamedTool tool;
        tool.step = step;
        tool.frame = rim.plane;
        const NamePtr own = found.body.shape().namesOf(rim.face).front();
        addRaised(*made, -rim.plane.normal(), deep, 0, step, kind, own, solids, tool);
        tool.shape = onlySolid(solids);
        return tool;
    }
};

Result<StepChange> flange(const Arguments& args, ModelReader& model, const FoundItems& found) {
    if (found.items.size() != 1)
        return errorOf("flange.one", "The rim that was picked is several faces. Pick one of them.");
    const auto rim = rimOf(found.body, found.items.front());
    if (!rim) return rim.error();
    const bool out = args.text("way") == "out", turned = args.text("edge") == "turned";
    if (!out && rim->inner.size() != 1)
        return errorOf("flange.open",
                       "Into an opening a flange reaches from a rim with just one of them. Pick such a "
                       "rim, or let it reach outward.");
    const double reach = args.number("reach"), thickness = args.number("thickness");
    const double drop = turned ? args.number("drop") : 0;
    if (turned && reach <= thickness)
        return errorOf("flange.turned",
                       phrase("Its edge is %1 thick itself, so a flange that reaches %2 has none to "
                              "turn down. Make it wider, or leave it flat.",
                              formatAmount(thickness, "mm", 2), formatAmount(reach, "mm", 2)));
    if (turned && drop <= thickness)
        return errorOf("flange.turned",
                       phrase("Turned down by %1 its edge does not come out below a flange of %2. Turn "
                              "it down further, or leave it flat.",
                              formatAmount(drop, "mm", 2), formatAmount(thickness, "mm", 2)));
    const FlangeMaker make{found, *rim, args.id()};
    const TopoDS_Wire& border = out ? rim->outer : rim->inner.front();
    auto flat = make.ring(border, 0, reach, out, thickness, "flange");
    if (!flat) return flat.error();
    if (auto shown = bodyOf(*flat)) model.show(*shown, false);
    auto body = combine(found.body, *flat, Combine::Add);
    if (!body) return body.error();
    if (turned) {
        auto skirt = make.ring(border, reach - thickness, reach, out, drop, "skirt");
        if (!skirt) return skirt.error();
        body = combine(*body, *skirt, Combine::Add);
        if (!body) return body.error();
        const auto level = withoutSeam(*body, moved(rim->plane, -thickness), args.id());
        if (level) body = *level;
    }
    const auto whole = withoutSeam(*body, rim->plane, args.id());
    StepChange change(ChangedBody{found.id, whole ? *whole : *body});
    change.notes = found.notes;
    return change;
}

} // namespace

Result<StepChange> runFlange(const Arguments& args, ModelReader& model, const Progress&) {
    const auto found = findFaces(args.references("rim"), model);
    if (!found) return found.error();
    return guarded("flange.failed", "No flange can be made around this rim.",
                   [&] { return flange(args, model, *found); });
}

} // namespace gc
