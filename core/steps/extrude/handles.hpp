#pragma once
/// \file For .cpp files of this folder: the sizes of an extrude that can be dragged in space.

#include "core/model/arguments.hpp"
#include "core/steps/extrude/reach.hpp"

namespace gc {

void showHandles(const Arguments& args, const Outline& outline, const Region& area, const Reach& reach,
                 ModelReader& model);

} // namespace gc
