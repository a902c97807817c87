#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/copied_detail.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/moved_body.hpp"
#include "core/steps/shared/without_seam.hpp"

#include <gp_Ax2.hxx>

namespace gc {

namespace {

gp_Trsf mirrorAt(const Plane& plane) {
    const Vec3 o = plane.origin, n = plane.normal();
    gp_Trsf t;
    t.SetMirror(gp_Ax2(gp_Pnt(o.x, o.y, o.z), gp_Dir(n.x, n.y, n.z)));
    return t;
}

/// What the faces add or take, once more beyond the plane.
Result<StepChange> mirrorDetail(const Arguments& args, ModelReader& model, const Plane& plane) {
    if (args.references("detail").empty())
        return errorOf("mirror.detail", "Pick the faces of the detail in the stand, or all of a step.");
    const auto found = findFaces(args.references("detail"), model);
    if (!found) return found.error();
    auto made = detailCopied(found->body, found->items, {{mirrorAt(plane), {}}}, args.id());
    if (!made) return made.error();
    StepChange change(ChangedBody{found->id, std::move(made->body)});
    change.notes = found->notes;
    if (!made->alike)
        change.notes.push_back(
            "The image does not add or take as much as the detail: it runs into the detail "
            "itself, or the body is another there.");
    return change;
}

Result<StepChange> mirrorBody(const Arguments& args, ModelReader& model, const Plane& plane) {
    const auto found = findBody(args, "body", model);
    if (!found) return found.error();
    const std::string& what = args.text("what");
    const bool inPlace = what == "in its place";
    const auto image =
        movedBody(found->body, mirrorAt(plane), inPlace ? CopyName() : CopyName{args.id(), "image of"});
    if (!image) return image.error();
    if (inPlace) return StepChange(ChangedBody{found->id, *image});
    if (what == "as new body") return StepChange(MadeBody{*image});
    auto joined = combine(found->body, toolOf(*image, args.id()), Combine::Add);
    if (!joined) return joined.error();
    const auto whole = withoutSeam(*joined, plane, args.id());
    return StepChange(ChangedBody{found->id, whole ? *whole : *joined});
}

} // namespace

Result<StepChange> runMirror(const Arguments& args, ModelReader& model, const Progress&) {
    const auto plane = findPlane(args, "plane", model);
    if (!plane) return plane.error();
    const bool detail = args.text("subject") == "the detail";
    return guarded(
        "mirror.failed",
        detail ? "The detail cannot be mirrored there." : "The body cannot be mirrored there.",
        [&] { return detail ? mirrorDetail(args, model, *plane) : mirrorBody(args, model, *plane); });
}

} // namespace gc
