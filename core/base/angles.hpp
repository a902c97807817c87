// Half a turn in radians, for all who compute with angles.
#pragma once

#include <numbers>

namespace gc {

inline constexpr double kPi = std::numbers::pi;

} // namespace gc
