#pragma once
/// \file The body that a slot names.

#include "core/model/arguments.hpp"

namespace gc {

struct FoundBody {
    ThingId id;
    Body body;
};

/// Error "body.lost" where there is none of that name before the step.
Result<FoundBody> findBody(const Arguments& args, const std::string& slot, ModelReader& model);

} // namespace gc
