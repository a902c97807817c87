#pragma once
/// \file For .cpp files: whether the wall of a loft would run through itself, asked before it is made.

#include "core/steps/loft/skin.hpp"

namespace gc {

/// A place where the wall crosses itself, or one of the flat faces at its ends; nothing where it does not.
std::optional<gp_Pnt> crossingOf(const Skin& skin);

} // namespace gc
