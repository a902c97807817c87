#pragma once
/// \file Whether a surface of triangles runs through itself.

#include "core/base/vec.hpp"

#include <array>
#include <cstdint>
#include <optional>
#include <vector>

namespace gc {

using IndexTriangle = std::array<std::uint32_t, 3>;

/// A place where two triangles that share no corner cross each other; nothing where none do. A tree of boxes
/// finds what may, so that some ten thousand take some ten milliseconds.
std::optional<Vec3> selfCrossing(const std::vector<Vec3>& points,
                                 const std::vector<IndexTriangle>& triangles);

} // namespace gc
