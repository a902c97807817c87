// Draft: walls that lean.

#include "core/steps/draft/leaning.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"

namespace gc {

Result<StepChange> runDraft(const Arguments& args, ModelReader& model, const Progress&) {
    const auto plane = findPlane(args, "plane", model);
    if (!plane) return plane.error();
    const Axis up = turnedUp({plane->origin, plane->normal()});
    const gp_Dir pull(up.direction.x, up.direction.y, up.direction.z);
    const gp_Pln level(gp_Pnt(up.origin.x, up.origin.y, up.origin.z), pull);
    std::optional<FoundItems> found;
    if (args.text("which") == "the walls") {
        auto faces = findFaces(args.references("faces"), model);
        if (!faces) return faces.error();
        found = std::move(*faces);
    } else {
        const auto body = findBody(args, "body", model);
        if (!body) return body.error();
        found = FoundItems{body->id, body->body, wallsOf(body->body, pull), {}};
        if (found->items.empty())
            return errorOf(
                "draft.no-walls",
                "No wall of the body stands nearly square to this level. Pick the walls, or choose "
                "another level.");
    }
    const double angle = args.number("angle") * (args.text("sense") == "widening" ? -1 : 1);
    return guarded("draft.failed", "These walls cannot lean here.", [&]() -> Result<StepChange> {
        auto body = args.text("ways") == "both ways from"
                        ? leaningBothWays(found->body, found->items, pull, angle, level)
                        : leaning(found->body, found->items, pull, angle, level);
        if (!body) return body.error();
        StepChange change(ChangedBody{found->id, *body});
        change.checked = true;
        change.notes = found->notes;
        return change;
    });
}

} // namespace gc
