#pragma once
/// \file For .cpp files of this folder: copies with what they need besides.

#include "core/sketch/edit/copy.hpp"

namespace gc {

std::string nothingChosen();
bool among(const std::vector<int>& ids, int id);
std::vector<const Stroke*> strokesAmong(const Drawing& drawing, const std::vector<int>& ids);

/// Points that decide where a stroke lies, by their place in its list: a spline's own handles follow from its
/// nodes.
std::vector<std::size_t> leadingPoints(const Stroke& stroke);

/// With what followers among them follow, before them: copies go after their originals, so must what these
/// follow.
std::vector<int> withSources(const Drawing& drawing, const std::vector<int>& strokes);

/// Copies what was chosen, and as helpers what that needs besides. \param all withSources
std::map<int, int> copyChosen(Drawing& drawing, const std::vector<int>& chosen, const std::vector<int>& all,
                              const Placing& placing, EditOutcome& out);

} // namespace gc
