#pragma once
/// \file Axes as slots name them: one of the three that every part has, the axis of the drawing that is
/// worked on, the name of an axis made before, a straight or round edge, a drawn line, or a round face.

#include "core/base/vec.hpp"
#include "core/document/part.hpp"

#include <optional>

namespace gc {

/// The three through the origin: upright, from left to right, and from front to back.
inline constexpr const char* kFixedAxes[] = {"upright axis", "cross axis", "depth axis"};
/// The direction of one of them.
std::optional<Vec3> fixedAxis(const std::string& name);

/// "its own": the upright axis of the drawing that a step turns.
inline constexpr const char* kOwnAxis = "its own axis";

/// The axis that a text names, in words: "the upright axis", "spindle", "wall".
std::string axisInWords(const Part& part, const std::string& text);

} // namespace gc
