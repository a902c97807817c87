#include "core/base/tolerance.hpp"
#include "core/shape/places.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/profile.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>

namespace gc {

namespace {

Result<Axis> wherePlanesMeet(const Arguments& args, ModelReader& model) {
    const auto a = findPlane(args, "from", model);
    if (!a) return a.error();
    const auto b = findPlane(args, "to", model);
    if (!b) return b.error();
    const Vec3 n = a->normal(), m = b->normal(), d = cross(n, m);
    if (length(d) < kParallel * 1e3)
        return errorOf("axis.parallel", "The two planes run alongside each other, so they meet in no line. "
                                        "Choose another one.");
    // The point of both planes that is nearest to the space's origin.
    const double p = dot(n, a->origin), q = dot(m, b->origin), c = dot(n, m), s = 1 - c * c;
    return Axis{n * ((p - q * c) / s) + m * ((q - p * c) / s), unit(d)};
}

Result<Axis> axisThroughPoints(const Arguments& args, ModelReader& model) {
    const References& refs = args.references("points");
    if (refs.size() != 2)
        return errorOf("axis.points",
                       phrase("An axis needs two points; %1%2 picked. Click corners, middles or "
                              "centres in the stand.",
                              std::to_string(refs.size()), (refs.size() == 1 ? " is" : " are")));
    const auto a = findPoint(refs[0], model);
    if (!a) return a.error();
    const auto b = findPoint(refs[1], model);
    if (!b) return b.error();
    if (length(*b - *a) < kSamePoint)
        return errorOf("axis.same", "The two points lie in the same place. Pick one that lies apart.");
    return Axis{*a, *b - *a};
}

Result<Axis> squareToFace(const Arguments& args, ModelReader& model) {
    const References& refs = args.references("face");
    if (refs.empty()) return errorOf("axis.face", "Pick a face in the stand, where the axis shall leave it.");
    const References& points = args.references("point");
    if (points.empty()) return errorOf("axis.spot", "Pick the point that the axis shall go through.");
    const auto found = findFaces(refs, model);
    if (!found) return found.error();
    const auto at = findPoint(points.front(), model);
    if (!at) return at.error();
    const auto best = nearestOnFaces(found->body, found->items, *at);
    if (!best) return errorOf("axis.tip", "The face has no direction there. Pick another spot of it.");
    return Axis{*at, best->normal};
}

/// The middle of a region, in space.
Vec3 middleOf(const Outline& outline, const Region& region) {
    GProp_GProps props;
    BRepGProp::SurfaceProperties(profileOf(outline, region).face, props, 1e-9);
    return toVec(props.CentreOfMass());
}

Result<Axis> throughArea(const Arguments& args, ModelReader& model) {
    const auto id = model.outlineIn("outline");
    const Outline* outline = id ? model.outline(*id) : nullptr;
    if (!outline)
        return errorOf("axis.outline",
                       phrase("There is no drawing called \"%1\" before this step.", args.label("outline")));
    const auto chosen = chosenAreas(*outline, args.text("area"), args.label("outline"), "axis.area");
    if (!chosen) return chosen.error();
    if (chosen->size() > 1 || (chosen->empty() && outline->regions.size() != 1))
        return errorOf("axis.areas",
                       phrase("The drawing \"%1\" has not just one area. Choose one of them in the "
                              "sentence.",
                              args.label("outline")));
    const Region& region = chosen->empty() ? outline->regions.front() : *chosen->front().area;
    return Axis{middleOf(*outline, region), outline->plane.normal()};
}

Result<Axis> axisFor(const Arguments& args, ModelReader& model) {
    const std::string& way = args.text("way");
    if (way == "where planes meet") return wherePlanesMeet(args, model);
    if (way == "through points") return axisThroughPoints(args, model);
    if (way == "square to a face") return squareToFace(args, model);
    if (way == "through the middle of") return throughArea(args, model);
    return findAxis(args, "line", model);
}

} // namespace

Result<StepChange> runAxis(const Arguments& args, ModelReader& model, const Progress&) {
    return guarded("axis.failed", "The axis cannot be found.", [&]() -> Result<StepChange> {
        const auto axis = axisFor(args, model);
        if (!axis) return axis.error();
        return StepChange(MadeAxis{turnedUp(*axis)});
    });
}

} // namespace gc
