#pragma once
/// \file What texts of a drawing are made of.

#include "core/sketch/drawing.hpp"

namespace gc {

const DrawnText* findText(const Drawing& drawing, int id);

/// The text that a stroke belongs to, as one of a letter or as the line that it stands on; nothing where
/// there is none.
const DrawnText* textOf(const Drawing& drawing, int stroke);

/// After things were removed: texts remember only what there is. Without its line, or without any letter,
/// there is no text any more, only strokes.
void forgetWritten(Drawing& drawing);

} // namespace gc
