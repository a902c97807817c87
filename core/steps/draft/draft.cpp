// Draft: walls that lean.

#include "core/steps/draft/leaning.hpp"
#include "core/steps/shared/face_normal.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <BRepTools.hxx>
#include <TopoDS.hxx>

#include <cmath>

namespace gc {

namespace {

/// The lean of the first wall, as an arc that begins square to the level in which it turns.
void showLean(const NamedShape& s, int item, const gp_Pln& level, double angle, bool widens, bool bothWays,
              ModelReader& model) {
    constexpr double kLeast = 4; // mm: a shorter arm could not be taken hold of
    const TopoDS_Face face = TopoDS::Face(s.faces(item + 1));
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    gp_Pnt p;
    const auto n = outwardNormal(BRepAdaptor_Surface(face, false), face.Orientation() == TopAbs_REVERSED,
                                 {0.5 * (u0 + u1), 0.5 * (v0 + v1)}, p);
    if (!n) return;
    const gp_Vec up(level.Axis().Direction());
    const double high = gp_Vec(level.Location(), p).Dot(up);
    const gp_Vec about = n->Crossed(up);
    if (about.Magnitude() < 0.1) return; // it lies in the level
    const double arm = std::copysign(std::max(std::fabs(high), kLeast), high),
                 sense = (widens ? -1 : 1) * (bothWays && high < 0 ? -1 : 1);
    model.show(turnHandle("angle", toVec(p.Translated(up * -high)), unit(toWay(about)) * sense,
                          toWay(up * arm), angle));
}

} // namespace

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
    asAid([&] {
        showLean(found->body.shape(), found->items.front(), level, args.number("angle"),
                 args.text("sense") == "widening", args.text("ways") == "both ways from", model);
    });
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
