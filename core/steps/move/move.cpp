#include "core/base/tolerance.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/moved_body.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <gp_Ax1.hxx>

namespace gc {

namespace {

/// \param box of the body as it was
Result<gp_Trsf> moveOf(const Arguments& args, const Box& box, ModelReader& model) {
    const Vec3 middle = box.centre();
    gp_Trsf t;
    const std::string& way = args.text("way");
    if (way == "by") {
        const Vec3 by{args.number("right"), args.number("back"), args.number("up")};
        model.show(sizeHandle("right", middle + Vec3{0, by.y, by.z}, {1, 0, 0}, by.x));
        model.show(sizeHandle("back", middle + Vec3{by.x, 0, by.z}, {0, 1, 0}, by.y));
        model.show(sizeHandle("up", middle + Vec3{by.x, by.y, 0}, {0, 0, 1}, by.z));
        t.SetTranslation(gp_Vec(by.x, by.y, by.z));
        return t;
    }
    const auto axis = findAxis(args, "line", model);
    if (!axis) return axis.error();
    const Vec3 o = axis->origin, d = axis->direction;
    if (way == "along") {
        model.show(sizeHandle("distance", middle, d, args.number("distance")));
        t.SetTranslation(gp_Vec(d.x, d.y, d.z) * args.number("distance"));
        return t;
    }
    const Vec3 foot = o + d * dot(middle - o, d);
    Handle h = turnHandle("angle", foot, d, middle - foot, args.number("angle"));
    if (length(h.arm) < kSamePoint) // it turns about its own middle: any arm does, as long as it is seen
        h.arm =
            unit(cross(d, std::fabs(d.z) < 0.9 ? Vec3{0, 0, 1} : Vec3{0, 1, 0})) * (0.5 * length(box.size()));
    model.show(h);
    t.SetRotation(gp_Ax1(gp_Pnt(o.x, o.y, o.z), gp_Dir(d.x, d.y, d.z)), args.number("angle"));
    return t;
}

} // namespace

Result<StepChange> runMove(const Arguments& args, ModelReader& model, const Progress&) {
    const auto found = findBody(args, "body", model);
    if (!found) return found.error();
    const auto by = moveOf(args, looseEnvelope(found->body), model);
    if (!by) return by.error();
    const bool copies = args.text("what") == "a copy of";
    return guarded("move.failed", "The body cannot be moved there.", [&]() -> Result<StepChange> {
        const auto there = movedBody(found->body, *by, copies ? CopyName{args.id(), "twin of"} : CopyName());
        if (!there) return there.error();
        return copies ? StepChange(MadeBody{*there}) : StepChange(ChangedBody{found->id, *there});
    });
}

} // namespace gc
