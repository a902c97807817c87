#pragma once
/// \file What a part can hold: what is written and what is read share these.

#include <cstddef>

namespace gc {

inline constexpr std::size_t kMostSteps = 5000;
/// Of one file that travels with a part. The journal holds it, and the forge is sent it in one frame.
inline constexpr std::size_t kMostAttachedBytes = 64u << 20;

} // namespace gc
