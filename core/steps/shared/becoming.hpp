#pragma once
/// \file For .cpp files: what becomes of a solid that a step made, by the slots "does", "target" and "pieces"
/// (see addBecoming in words.hpp).

#include "core/model/arguments.hpp"
#include "core/steps/shared/boolean.hpp"

namespace gc {

struct Becoming {
    bool makesNew = false; ///< a body of its own
    Combine how = Combine::Add;
    /// The bodies that are worked on, as the sentence lists them; none: those that the solid meets.
    std::vector<ThingId> targets;
    bool keepsPieces = false; ///< what it cuts apart becomes bodies of their own
    /// The length whose growth would close a gap: its slot, and what it is now, mm.
    std::optional<std::pair<std::string, double>> grows{};
};

/// Error "becoming.body" where a body is not there.
Result<Becoming> becomingOf(const Arguments& args, ModelReader& model);

/// The solid is shown as what the step adds or takes, whether it can or not. \param pieces of which the solid
/// is. Errors: "becoming.areas" where a new body would be several, "becoming.none" where it meets no body,
/// and those of combine.
Result<StepChange> become(const Becoming& becoming, const NamedTool& tool, std::size_t pieces,
                          const Arguments& args, ModelReader& model);

} // namespace gc
