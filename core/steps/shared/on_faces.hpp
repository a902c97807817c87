#pragma once
/// \file For .cpp files: a line laid onto faces.

#include "core/shape/space_pieces.hpp"
#include "core/steps/shared/path.hpp"

#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Dir.hxx>

namespace gc {

/// Along a direction, ahead or back, to where each place of the line meets the faces first; every piece of it
/// is within 1e-5 mm of what it stands for. Errors: "curve.miss" with the place where it meets none of them,
/// "curve.jump" where it comes from one to another that does not join it.
Result<SpacePieces> laidAhead(const Path& line, const std::vector<TopoDS_Face>& faces, const gp_Dir& ahead);

/// Each place of the line to the nearest place of the faces.
Result<SpacePieces> laidSquarely(const Path& line, const std::vector<TopoDS_Face>& faces);

/// The line in the slot "line" as the slot "towards" has it: "square to them", or straight ahead, which is
/// square to the drawing that it is a line of, else to the plane that it lies in. Errors: "curve.line" where
/// none is picked, and those of findPath and of the two above.
Result<SpacePieces> laidBy(const Arguments& args, const std::vector<TopoDS_Face>& faces, ModelReader& model);

} // namespace gc
