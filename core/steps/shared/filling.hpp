#pragma once
/// \file For .cpp files: what of a drawing becomes solid, by the slots "fill", "thickness" and "wall side"
/// (see addFilling in words.hpp).

#include "core/model/arguments.hpp"
#include "core/sketch/edit/thin_wall.hpp"

namespace gc {

/// Is a wall along its strokes meant, not what it encloses?
bool isWall(const Arguments& args);

/// The outline with a wall along its strokes for its areas. Its sides are called "side N" where the stroke
/// itself is, "far side N" beside it, "cap 1" and "cap 2" at the ends of an open one.
Result<Outline> wallAlong(const Arguments& args, const Outline& outline,
                          const std::optional<WallAxis>& axis = {});

} // namespace gc
