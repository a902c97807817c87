#pragma once
/// \file Several bodies as a slot names them: their names with a bar between them, "box | lid".

#include <string>
#include <vector>

namespace gc {

std::vector<std::string> namesInList(const std::string& text);
std::string nameList(const std::vector<std::string>& names);
/// The list with one more name in it, or without it where it was there.
std::string withName(const std::string& list, const std::string& name);
/// The list with another name in the place of one.
std::string renamedIn(const std::string& list, const std::string& from, const std::string& to);

} // namespace gc
