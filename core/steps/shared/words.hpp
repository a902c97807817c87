#pragma once
/// \file What the words of several kinds share. Free of the kernel.

#include "core/document/step_kind.hpp"

#include <string>

namespace gc {

/// Puts the name of the thing that was made last before the bookmark into a slot: a new step is most likely
/// about that.
void fillWithLatest(Step& step, const Part& part, const std::string& slot, Thing thing);

/// What the stroke is called ("arc 3") that made a face of the role "side 12" of a drawing; empty for other
/// roles and for outlines that are no drawings.
std::string strokeInWords(const Part& part, const std::string& outline, const std::string& role);

} // namespace gc
