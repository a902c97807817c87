#pragma once
/// \file For .cpp files: one smooth face over a corner, running on from all that is round it.

#include <Geom_BSplineSurface.hxx>
#include <gp_Ax3.hxx>
#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>

#include <optional>
#include <vector>

namespace gc {

/// A place of the border that the face runs on from.
struct BorderPlace {
    gp_Pnt at;
    gp_Vec normal; ///< outward, of length 1
};

/// A face as heights over a plane, whose coordinates are its parameters.
struct CornerPatch {
    gp_Ax3 over;                         ///< it faces outward, where the heights go
    Handle(Geom_BSplineSurface) heights; ///< a little beyond the border
    double off = 0;                      ///< mm: the farthest place of the border from it
    double kink = 0;                     ///< rad: the most that the normal turns there
};

/// The fairest surface that goes through a border and has its normals: the least change of curvature, as the
/// third derivatives of heights say it, over a grid of bicubic splines. Nothing where the normals turn too
/// far for heights over a plane. \param border all round, densely
std::optional<CornerPatch> fairPatch(const std::vector<BorderPlace>& border);

} // namespace gc
