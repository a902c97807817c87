#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/moved_body.hpp"

#include <gp_Ax2.hxx>

namespace gc {

Result<StepChange> runMirror(const Arguments& args, ModelReader& model, const Progress&) {
    const auto found = findBody(args, "body", model);
    if (!found) return found.error();
    const auto plane = findPlane(args, "plane", model);
    if (!plane) return plane.error();
    const std::string& what = args.text("what");
    return guarded("mirror.failed", "The body cannot be mirrored there.", [&]() -> Result<StepChange> {
        const Vec3 o = plane->origin, n = plane->normal();
        gp_Trsf t;
        t.SetMirror(gp_Ax2(gp_Pnt(o.x, o.y, o.z), gp_Dir(n.x, n.y, n.z)));
        const bool inPlace = what == "in its place";
        const auto image = movedBody(found->body, t, inPlace ? CopyName() : CopyName{args.id(), "image of"});
        if (!image) return image.error();
        if (inPlace) return StepChange(ChangedBody{found->id, *image});
        if (what == "as new body") return StepChange(MadeBody{*image});
        auto joined = combine(found->body, toolOf(*image, args.id()), Combine::Add);
        return joined ? Result<StepChange>(StepChange(ChangedBody{found->id, *joined})) : joined.error();
    });
}

} // namespace gc
