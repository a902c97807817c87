#pragma once
/// \file What faces of a file may be in another one that took its place.

#include "core/document/part.hpp"
#include "core/model/model.hpp"

#include <string>
#include <vector>

namespace gc {

/// The likeliest references, the nearest first, of those in which faces that a file does not hold any more
/// are others of the same sort in it, by how far their middles lie and by how much their sizes differ, mm.
/// Each means something in the state. None where the reference rests on no face of a file.
std::vector<std::string> foundAnew(const std::string& reference, const Part& part, const ModelState& state);

} // namespace gc
