#pragma once
/// \file What the dimensions of a drawing measure.

#include "core/sketch/drawing.hpp"

namespace gc {

/// What a dimension measures as the drawing lies, in mm or rad; always positive for lengths. Nothing for
/// relations without a size.
double measured(const Drawing& drawing, const Relation& dimension);

} // namespace gc
