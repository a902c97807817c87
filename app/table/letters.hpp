#pragma once
/// \file Letters as strokes, from the fonts that the window has.

#include "core/base/result.hpp"
#include "core/sketch/edit/write.hpp"

namespace gc::app {

/// See LettersAsStrokes in core/document/drawing_edits.hpp. Errors name what is missing.
Result<Letters> lettersAsStrokes(const std::string& text, const std::string& font);

} // namespace gc::app
