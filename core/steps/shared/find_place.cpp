#include "core/steps/shared/find_place.hpp"

#include "core/document/planes.hpp"
#include "core/shape/places.hpp"
#include "core/steps/shared/find_items.hpp"

#include <algorithm>

namespace gc {

Result<Plane> findPlane(const Arguments& args, const std::string& slot, ModelReader& model) {
    const auto made = model.planeIn(slot);
    if (made)
        if (const auto plane = model.plane(*made)) return *plane;
    // The reader's record of the slot tells a fixed plane or a face from any other.
    const std::string& text = args.label(slot);
    if (text.empty())
        return errorOf("plane.none", "Pick a flat face in the stand, or choose a plane from the list.");
    if (const auto fixed = fixedPlane(text)) return *fixed;
    const auto face = parseFaceRef(text);
    if (!face)
        return errorOf("plane.lost", phrase("There is no plane called \"%1\" before this step.", text));
    const auto found = findFaces({text}, model);
    if (!found) return found.error();
    std::optional<Plane> plane;
    for (const int item : found->items) {
        const auto flat = planeOfFace(found->body, item);
        // One face cut into pieces still has one plane.
        const bool other = flat && plane &&
                           (length(flat->normal() - plane->normal()) > 1e-6 ||
                            std::fabs(plane->before(flat->origin)) > 1e-6);
        if (!flat || other) {
            Error e = errorOf(
                other ? "plane.several" : "plane.curved",
                other ? phrase("%1 is several faces that do not lie in one plane.", marked(text))
                      : phrase("%1 is not flat, so it has no plane. Pick a flat face.", marked(text)));
            e.culprits = {text};
            return e;
        }
        plane = flat;
    }
    return *plane;
}

Result<Vec3> findPoint(const std::string& reference, ModelReader& model) {
    const auto ref = parsePointRef(reference);
    if (!ref) return ref.error();
    if (ref->kind == PointRef::Kind::Drawn) {
        const Outline* drawn = model.outline({ref->step, 0});
        const auto point = drawn ? drawn->points.find(ref->item) : std::map<int, Vec2>::const_iterator();
        if (drawn && point != drawn->points.end()) return drawn->plane.at(point->second);
        return notDrawn(reference, ref->step);
    }
    std::optional<Error> cause;
    std::optional<Vec3> found;
    for (const ThingId id : bodiesFor(ref->body, stepsIn(*ref), model)) {
        const auto at = resolvePoint(*model.body(id), *ref);
        if (!at) {
            if (!cause) cause = at.error();
            continue;
        }
        if (found)
            return errorOf("reference.tie",
                           phrase("%1 is on several bodies. Pick the one that is meant in the stand.",
                                  marked(reference)));
        found = *at;
    }
    if (found) return *found;
    return cause ? *cause : onNoBody(reference, model);
}

} // namespace gc
