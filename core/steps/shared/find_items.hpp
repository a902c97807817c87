#pragma once
/// \file Finding the body that references are about: steps that shape faces or edges name no body.

#include "core/model/arguments.hpp"
#include "core/shape/kernel.hpp"

namespace gc {

/// The items that the references mean, all on one body.
struct FoundItems {
    ThingId id;
    Body body;
    std::vector<int> items; ///< without repeats, in ascending order
    std::vector<Message> notes;
};

/// Error "reference.lost" from the body that rests on the reference's steps; "reference.none" for an empty
/// list; "reference.bodies" when the references lie on different bodies; "reference.tie" when one reference
/// fits on several.
Result<FoundItems> findEdges(const References& references, ModelReader& model);
Result<FoundItems> findFaces(const References& references, ModelReader& model);
/// The same on one body that is known.
Result<FoundItems> findFacesOn(ThingId body, const References& references, ModelReader& model);

/// Where a reference to faces of these steps could lie: the body that it names, or the bodies that have faces
/// which rest on all of them.
std::vector<ThingId> bodiesFor(const std::optional<ThingId>& named, const std::vector<int>& steps,
                               ModelReader& model);

/// A point or a stroke that its drawing no longer has.
Error notDrawn(const std::string& reference, int step);

/// Why a reference is on no body.
Error onNoBody(const std::string& reference, ModelReader& model);

} // namespace gc
