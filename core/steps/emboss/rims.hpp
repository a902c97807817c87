#pragma once
/// \file For .cpp files: edges of what was embossed, rounded as a part of the step.

#include "core/base/progress.hpp"
#include "core/model/arguments.hpp"

namespace gc {

/// Rounds those that the step names. What cannot be rounded stays sharp, and the change's doubt says so.
void roundRims(const Arguments& args, StepChange& change, const Progress& progress);

} // namespace gc
