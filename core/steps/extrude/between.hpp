#pragma once
/// \file For .cpp files of this folder: an extrude that begins at a face.

#include "core/steps/extrude/reach.hpp"
#include "core/steps/shared/boolean.hpp"

#include <TopoDS_Compound.hxx>

namespace gc {

/// Adds the solid over one area between the faces that it begins at and what ends it, with the names of its
/// faces: "start", "end" and "side N".
/// Errors: "extrude.no-begin" and "extrude.no-end" where the faces, even if continued, or what should end it
/// do not lie over all of the area.
std::optional<Error> addBetween(const Outline& outline, const Region& area, const Reach& reach, int step,
                                TopoDS_Compound& solids, NamedTool& tool);

} // namespace gc
