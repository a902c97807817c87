#include "core/steps/find_place.hpp"

#include "core/document/planes.hpp"
#include "core/shape/places.hpp"
#include "core/steps/find_body.hpp"

#include <algorithm>

namespace gc {

const Outline* outlineOfStep(const ModelState& state, int step) {
    const auto it = std::find_if(state.outlines.begin(), state.outlines.end(),
                                 [&](const auto& o) { return o.second->step == step; });
    return it == state.outlines.end() ? nullptr : it->second.get();
}

Result<Plane> findPlane(const std::string& text, const ModelState& state) {
    if (text.empty())
        return errorOf("plane.none", "Pick a flat face in the stand, or choose a plane from the list.");
    if (const auto fixed = fixedPlane(text)) return *fixed;
    if (const auto made = state.planes.find(text); made != state.planes.end()) return made->second->plane;
    const auto face = parseFaceRef(text);
    if (!face) return errorOf("plane.lost", "There is no plane called \"" + text + "\" before this step.");
    const auto found = findFaces({text}, state);
    if (!found) return found.error();
    std::optional<Plane> plane;
    for (const int item : found->items) {
        const auto flat = planeOfFace(found->body, item);
        // One face cut into pieces still has one plane.
        const bool other = flat && plane &&
                           (length(flat->normal() - plane->normal()) > 1e-6 ||
                            std::fabs(plane->before(flat->origin)) > 1e-6);
        if (!flat || other) {
            Error e = errorOf(other ? "plane.several" : "plane.curved",
                              other ? "\"" + text + "\" is several faces that do not lie in one plane."
                                    : "\"" + text + "\" is not flat, so it has no plane. Pick a flat face.");
            e.culprits = {text};
            return e;
        }
        plane = flat;
    }
    return *plane;
}

Result<Vec3> findPoint(const std::string& reference, const ModelState& state) {
    const auto ref = parsePointRef(reference);
    if (!ref) return ref.error();
    if (ref->kind == PointRef::Kind::Drawn) {
        const Outline* drawn = outlineOfStep(state, ref->step);
        const auto point = drawn ? drawn->points.find(ref->item) : std::map<int, Vec2>::const_iterator();
        if (drawn && point != drawn->points.end()) return drawn->plane.at(point->second);
        return errorOf("reference.lost", "The point of a drawing that was picked is no longer there.");
    }
    Error e = errorOf("reference.lost", "There is no body yet that \"" + reference + "\" could be on.");
    const auto steps = stepsIn(*ref);
    for (const auto& [name, body] : state.bodies) {
        const auto at = resolvePoint(body, *ref);
        if (at) return at;
        const bool home =
            std::any_of(steps.begin(), steps.end(), [&b = body](int s) { return restsOnStep(b, s); });
        if (home || state.bodies.size() == 1) e = at.error();
    }
    return e;
}

} // namespace gc
