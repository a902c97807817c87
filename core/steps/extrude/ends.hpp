#pragma once
/// \file For .cpp files of this folder: what an extrude ends at.

#include "core/steps/extrude/reach.hpp"
#include "core/steps/shared/boolean.hpp"

#include <TopoDS_Compound.hxx>

namespace gc {

/// Adds the solid of one area, with the names of its faces: "start", "end", "side N", and "back side N"
/// behind the drawing where it leans both ways. Errors: "extrude.no-end" where nothing ends it on a part of
/// the area; "extrude.behind" where what should end it lies behind the drawing; "lean.height" where its sides
/// lean too far.
std::optional<Error> addSolid(const Outline& outline, const Region& area, const Reach& reach, int step,
                              TopoDS_Compound& solids, NamedTool& tool);

} // namespace gc
