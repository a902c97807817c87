#pragma once
/// \file Bodies out of STL files.

#include "core/exchange/triangle_bodies.hpp"

namespace gc {

/// Binary or in words. \param unit of its lengths, mm: the format has none. Errors: "stl.syntax", and those
/// of bodiesOfTriangles.
Result<std::vector<NamedBody>> readStl(const std::string& content, int stepId, double unit = 1);

} // namespace gc
