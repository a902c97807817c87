#pragma once
/// \file Finding the body that references are about: steps that shape faces or edges name no body.

#include "core/shape/kernel.hpp"
#include "core/steps/step_run.hpp"

namespace gc {

/// The items that the references mean, all on one body.
struct FoundItems {
    std::string bodyName;
    Body body;
    std::vector<int> items; ///< without repeats, in ascending order
    std::vector<std::string> notes;
};

/// Error "reference.lost" from the body that rests on the reference's steps; "reference.none" for an empty
/// list; "reference.bodies" when the references lie on different bodies.
Result<FoundItems> findEdges(const References& references, const ModelState& state);
Result<FoundItems> findFaces(const References& references, const ModelState& state);

} // namespace gc
