#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/moved_body.hpp"

#include <gp_Ax1.hxx>

namespace gc {

namespace {

Result<gp_Trsf> moveOf(const Arguments& args, ModelReader& model) {
    gp_Trsf t;
    const std::string& way = args.text("way");
    if (way == "by") {
        t.SetTranslation(gp_Vec(args.number("right"), args.number("back"), args.number("up")));
        return t;
    }
    const auto axis = findAxis(args, "line", model);
    if (!axis) return axis.error();
    const Vec3 o = axis->origin, d = axis->direction;
    if (way == "along")
        t.SetTranslation(gp_Vec(d.x, d.y, d.z) * args.number("distance"));
    else
        t.SetRotation(gp_Ax1(gp_Pnt(o.x, o.y, o.z), gp_Dir(d.x, d.y, d.z)), args.number("angle"));
    return t;
}

} // namespace

Result<StepChange> runMove(const Arguments& args, ModelReader& model, const Progress&) {
    const auto found = findBody(args, "body", model);
    if (!found) return found.error();
    const auto by = moveOf(args, model);
    if (!by) return by.error();
    const bool copies = args.text("what") == "a copy of";
    return guarded("move.failed", "The body cannot be moved there.", [&]() -> Result<StepChange> {
        const auto there = movedBody(found->body, *by, copies ? CopyName{args.id(), "twin of"} : CopyName());
        if (!there) return there.error();
        return copies ? StepChange(MadeBody{*there}) : StepChange(ChangedBody{found->id, *there});
    });
}

} // namespace gc
