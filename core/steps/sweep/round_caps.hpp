#pragma once
/// \file For .cpp files: flat ends of a sweep rounded over.

#include "core/steps/shared/boolean.hpp"

namespace gc {

/// Rounds the ends of those roles ("start", "end"): over each a dome whose wall goes on from the sweep's, as
/// high as its section is near to its own middle; of a round section half a ball. Errors: "sweep.cap-hollow"
/// where the section has holes, "sweep.cap-shape" where not all of its border is seen from its middle, and
/// those of combine. The faces of the dome are called by the role with "round " before it.
Result<NamedTool> withRoundCaps(NamedTool tool, const std::vector<std::string>& ends);

} // namespace gc
