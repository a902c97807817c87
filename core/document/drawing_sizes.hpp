#pragma once
/// \file The sizes of a drawing's dimensions, from what was typed.

#include "core/document/part.hpp"
#include "core/sketch/solve/system.hpp"

namespace gc {

/// Evaluates every driving dimension. Expressions may use the part's values and the names of other driving
/// dimensions, in any order. Errors: "dimension.expression", "dimension.circle", "dimension.range"; culprits
/// hold the id of the relation; the sentence names the dimension.
Result<DimensionValues> dimensionSizes(const Drawing& drawing, const UnitSystem& units, const Values& values);

/// What can be named in a drawing: the part's values, and its own named dimensions as they are now, which
/// come first. Without those whose sizes cannot be worked out.
Values namesWithin(const Drawing& drawing, const UnitSystem& units, const Values& values);

/// Scales a drawing in which no length was typed but that of one dimension (0: none). Figures that say how it
/// lay scale along; what is worked out from others does so by itself.
void scaleWithFigures(Drawing& drawing, double factor, int but, const UnitSystem& units,
                      const Values& values);

/// A name for a new dimension that no value and no other dimension has: "d1", "d2", …
std::string freeDimensionName(const Drawing& drawing, const Values& values);

} // namespace gc
