#include "core/base/tolerance.hpp"
#include "core/shape/extended_face.hpp"
#include "core/shape/extremes.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/revolve/turn.hpp"
#include "core/steps/shared/becoming.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/filling.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <BRep_Builder.hxx>
#include <TopoDS.hxx>

namespace gc {

namespace {

/// The areas of a drawing that are meant: of several, a new body is one of them.
Result<std::vector<Region>> areasOf(const Arguments& args, const Outline& outline,
                                    std::vector<Message>& notes) {
    auto areas = meantAreas(args, outline, "revolve", notes);
    if (!areas || areas->size() < 2 || !args.text("area").empty() || args.text("does") != "as new body")
        return areas;
    const std::string called = args.label("outline");
    Error e = errorOf(
        "revolve.regions",
        phrase("The drawing \"%1\" encloses %2 areas. Click inside one on the drawing table and choose "
               "\"Revolve this area\", or make the lines that divide them helpers.",
               called, std::to_string(areas->size())));
    e.culprits = {called};
    return e;
}

/// Arcs through the middle of the area: its angle, and the one back.
void showHandles(const Arguments& args, const Outline& outline, const Region& area, const Turn& turn,
                 ModelReader& model) {
    if (args.text("end") != "by") return;
    const Vec3 middle = outline.plane.at(middleOf(area)), d = turn.axis.direction;
    const Vec3 foot = turn.axis.origin + d * dot(middle - turn.axis.origin, d);
    if (length(middle - foot) < kSamePoint) return;
    const std::string& way = turn.full() ? std::string("forward") : args.text("way");
    const auto arc = [&](const char* slot, double sense) {
        return turnHandle(slot, foot, d * sense, middle - foot, args.number(slot));
    };
    Handle end = arc("angle", way == "backward" ? -1 : 1);
    if (way == "both ways together")
        end.way = 0.5;
    else if (way != "forward, and back by")
        end.turnsRound = "way";
    model.show(end);
    if (way == "forward, and back by") model.show(arc("second", -1));
}

/// Until the faces end it: as they are, and where that is not enough, continued.
std::optional<Error> addEnded(Swept whole, const Turn& turn, int step, TopoDS_Compound& solids,
                              NamedTool& tool) {
    EndedSolid solid(std::move(whole));
    std::vector<TopoDS_Shape> tools = turn.ends;
    auto open = solid.cut(tools);
    if (!open || *open > kCovered) {
        const double by = length(extentOf(solid.whole().solid).size());
        for (TopoDS_Shape& f : tools) f = extendedFace(TopoDS::Face(f), by);
        open = solid.cut(tools);
    }
    if (!open || *open > kCovered)
        return errorOf("revolve.no-end",
                       phrase("%1 does not end the turn on all of the drawing, even if continued. "
                              "Choose another face, or give it an angle.",
                              marked(turn.said)));
    solid.addKept(step, solids, tool);
    return std::nullopt;
}

} // namespace

Result<StepChange> runRevolve(const Arguments& args, ModelReader& model, const Progress&) {
    const auto id = model.outlineIn("outline");
    const Outline* outline = id ? model.outline(*id) : nullptr;
    if (!outline)
        return errorOf("revolve.outline",
                       phrase("There is no outline called \"%1\" before this step.", args.label("outline")));
    const auto turn = turnOf(args, model, *outline);
    if (!turn) return turn.error();
    std::vector<Message> notes;
    std::vector<Region> areas;
    std::optional<Outline> wall;
    if (isWall(args)) {
        const Plane& plane = outline->plane;
        auto along = wallAlong(
            args, *outline, WallAxis{plane.foot(turn->axis.origin), plane.alongside(turn->axis.direction)});
        if (!along) return along.error();
        wall = std::move(*along);
        outline = &*wall;
        areas = wall->regions;
    } else if (outline->drawn()) {
        auto meant = areasOf(args, *outline, notes);
        if (!meant) return meant.error();
        areas = std::move(*meant);
    }
    const auto becoming = becomingOf(args, model);
    if (!becoming) return becoming.error();
    for (const Region& area : areas)
        if (auto wrong = whyNotTurned(*outline, area, turn->axis, args.label("outline"))) return *wrong;
    if (!areas.empty()) showHandles(args, *outline, areas.front(), *turn, model);
    auto made = guarded(
        "revolve.failed", "The outline cannot be revolved. Check its stations.", [&]() -> Result<StepChange> {
            TopoDS_Compound solids;
            BRep_Builder().MakeCompound(solids);
            NamedTool tool;
            tool.step = args.id();
            tool.frame = outline->plane;
            std::vector<Profile> profiles;
            for (const Region& area : areas) profiles.push_back(profileOf(*outline, area));
            if (areas.empty()) profiles.push_back(profileOf(*outline));
            for (Profile& profile : profiles) {
                Swept whole = turned(std::move(profile), *turn);
                if (turn->ends.empty())
                    EndedSolid(std::move(whole)).addWhole(args.id(), solids, tool);
                else if (auto wrong = addEnded(std::move(whole), *turn, args.id(), solids, tool))
                    return *wrong;
            }
            tool.shape = onlySolid(solids);
            return become(*becoming, tool, profiles.size(), args, model);
        });
    if (made) made.value().notes.insert(made.value().notes.begin(), notes.begin(), notes.end());
    return made;
}

} // namespace gc
