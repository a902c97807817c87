#pragma once
/// \file Bodies out of OBJ files.

#include "core/exchange/triangle_bodies.hpp"

namespace gc {

/// Corners and faces of any number of sides; each object or group is a body, unless they only close together.
/// Other words of the format are passed over. \param unit of its lengths, mm: the format has none. Errors:
/// "obj.syntax" with the line, and those of bodiesOfTriangles.
Result<std::vector<NamedBody>> readObj(const std::string& content, int stepId, double unit = 1);

/// Does the text look like one? Words that begin lines tell it.
bool isObj(const std::string& content);

} // namespace gc
