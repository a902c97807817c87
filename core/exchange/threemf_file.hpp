#pragma once
/// \file Bodies out of 3MF files, with their names, colours and units.

#include "core/exchange/triangle_bodies.hpp"

namespace gc {

/// Everything that the file says is to be built, where it puts it. Errors: "3mf.syntax", "3mf.large" for one
/// that would unpack to too much, and those of bodiesOfTriangles.
Result<std::vector<NamedBody>> read3mf(const std::string& content, int stepId);

/// A packed file, as 3MF files are?
bool isPacked(const std::string& content);

} // namespace gc
