#pragma once
/// \file For .cpp files: the threads of a loft as they are shown and pulled in the stand.

#include "core/steps/loft/skin.hpp"

namespace gc {

void showThreads(const LoftPlan& plan, const MatchedSections& matched,
                 const std::vector<PulledThread>& pulled, ModelReader& model);

} // namespace gc
