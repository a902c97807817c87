#pragma once
/// \file What can be done to chosen strokes of a drawing, in words: sentences with slots, as steps have.

#include "core/document/step_words.hpp"

namespace gc {

/// Kinds begin with "edit:". They are no steps: what they do becomes part of the drawing.
const std::vector<StepWords>& allEditWords();

} // namespace gc
