#pragma once
/// \file A change of a drawing as a text, for remedies: a point is held where something runs through its
/// plane.

#include "core/sketch/trace.hpp"

#include <optional>
#include <string>

namespace gc {

struct PointHold {
    int point = 0;
    Trace trace; ///< of kind Point
};

/// "hold point 4 at 12.5 40 piece 1 of 2 of meeting of stroke 3 of step 1"
std::string toText(const PointHold& hold);
/// Nothing for a text that is none.
std::optional<PointHold> parsePointHold(const std::string& text);

} // namespace gc
