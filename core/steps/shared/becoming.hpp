#pragma once
/// \file For .cpp files: what becomes of a solid that a step made, by the slots "does" and "target" (see
/// addBecoming in words.hpp).

#include "core/model/arguments.hpp"
#include "core/steps/shared/boolean.hpp"

namespace gc {

struct Becoming {
    std::optional<ThingId> target; ///< the body that is worked on; nothing where a new one is made
    Body body;                     ///< that one
    Combine how = Combine::Add;
};

/// Error "becoming.body" where the body is not there.
Result<Becoming> becomingOf(const Arguments& args, ModelReader& model);

/// \param pieces of which the solid is. Errors: "becoming.areas" where a new body would be several, and those
/// of combine.
Result<StepChange> become(const Becoming& becoming, const NamedTool& tool, std::size_t pieces);

} // namespace gc
