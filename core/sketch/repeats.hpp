#pragma once
/// \file What strokes that are repeated in rows, around or along need when something of a drawing is removed.

#include "core/sketch/drawing.hpp"

#include <set>

namespace gc {

const Repeat* findRepeat(const Drawing& drawing, int id);

/// The repeats that a stroke belongs to, as one that is repeated or as a copy.
std::vector<const Repeat*> repeatsOf(const Drawing& drawing, int stroke);

/// The repeat whose pitch or turn a dimension carries.
const Repeat* repeatCarriedBy(const Drawing& drawing, int relation);

/// Is the point by which its places are counted one of what is repeated?
bool hasItsLead(const Drawing& drawing, const Repeat& repeat);

/// Before things are removed: the place of a copy that others are counted by stays as a helper point, and the
/// figure of a turn that others take goes quiet instead. \param gone ids of what is removed; changed
void keepPlaces(Drawing& drawing, std::set<int>& gone);

/// After things were removed: repeats remember only what there is.
void forgetRepeated(Drawing& drawing);

} // namespace gc
