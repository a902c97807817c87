#pragma once
/// \file For .cpp files: whether the wall of a loft would run through itself, asked before it is made.

#include "core/steps/loft/skin.hpp"

namespace gc {

/// A place where a wall crosses itself or the other, or one of the flat faces at its ends; nothing where none
/// does. \param skins the outer wall, and, where it is hollow, the inner one
std::optional<gp_Pnt> crossingOf(const std::vector<Skin>& skins);

} // namespace gc
