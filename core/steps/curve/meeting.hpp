#pragma once
/// \file For .cpp files: the lines in which faces meet.

#include "core/base/plane.hpp"
#include "core/base/result.hpp"
#include "core/shape/space_pieces.hpp"

#include <TopoDS_Face.hxx>

#include <optional>

namespace gc {

/// Every line in which some faces meet others, as far as both reach; pieces that join are one line. Each lies
/// within 1e-4 mm of both.
std::vector<SpacePieces> meetingOf(const std::vector<TopoDS_Face>& faces,
                                   const std::vector<TopoDS_Face>& others);
std::vector<SpacePieces> meetingWith(const std::vector<TopoDS_Face>& faces, const Plane& plane);

/// The one that is meant. \param near a point near it
/// Errors: "curve.apart" where they do not meet; "curve.lines" where there are several, and neither the
/// longest nor a point says which.
Result<SpacePieces> oneOf(std::vector<SpacePieces> lines, bool longest, const std::optional<Vec3>& near);

} // namespace gc
