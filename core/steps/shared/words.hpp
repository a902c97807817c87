#pragma once
/// \file What the words of several kinds share. Free of the kernel.

#include "core/document/step_kind.hpp"

#include <string>

namespace gc {

/// Puts the name of the thing that was made last before the bookmark into a slot: a new step is most likely
/// about that.
void fillWithLatest(Step& step, const Part& part, const std::string& slot, Thing thing);

/// Puts the body that was made last into the slot "body".
void fillWithLatestBody(Step& step, const Part& part);

/// Of a step with addBecoming(): the only body before it, or, where there are several, those that it touches.
void fillTarget(Step& step, const Part& part);

/// The slots "does", "body", "target" and "pieces", and their words at the end of the sentence: what becomes
/// of the solid that a step makes. See becoming.hpp.
void addBecoming(StepWords& words);

/// The slots "fill", "thickness" and "wall side", and their words: what of a drawing becomes solid. See
/// filling.hpp.
void addFilling(StepWords& words);

/// What the stroke is called ("arc 3") that made a face of the role "side 12" of a drawing; empty for other
/// roles and for outlines that are no drawings.
std::string strokeInWords(const Part& part, const std::string& outline, const std::string& role);

} // namespace gc
