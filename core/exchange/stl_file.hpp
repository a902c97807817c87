#pragma once
/// \file Bodies out of STL files: to be measured against and looked at. Each face is a flat piece, as coarse
/// as the file, whose lengths are taken for millimetres: the format has no unit.

#include "core/shape/body.hpp"

namespace gc {

/// More would take minutes to work on.
inline constexpr std::size_t kMostStlTriangles = 20000;

/// Binary or in words. Triangles in one plane are one face, named by its place. Errors: "stl.syntax",
/// "stl.large", "stl.empty", "stl.open" where it does not close.
Result<Body> readStl(const std::string& content, int stepId);

} // namespace gc
