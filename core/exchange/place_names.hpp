#pragma once
/// \file For .cpp files: names of faces that come from a file.

#include "core/shape/kernel.hpp"

namespace gc {

/// The order of faces in a file says nothing: another program, or the same one tomorrow, writes another. A
/// face is called by its sort, its size (the square root of its area) and its middle. Where two are the same
/// in all of these, they lie on each other: the second is called so.
void nameByPlace(NameBuilder& names, int stepId);

} // namespace gc
