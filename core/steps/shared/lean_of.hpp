#pragma once
/// \file For .cpp files: how far faces lean from a pull.

#include "core/shape/kernel.hpp"

#include <TopoDS_Face.hxx>
#include <gp_Dir.hxx>

#include <optional>

namespace gc {

constexpr double kTrueLean = 1e-5; ///< rad: what a wall may be off what was asked

/// The least and the greatest lean over a face, rad: the angle of its outward normal over the level.
/// \param place somewhere on the face
std::optional<std::pair<double, double>> leanOf(const TopoDS_Face& face, const gp_Dir& pull, gp_Pnt& place);

/// The outward normal somewhere inside the face.
std::optional<gp_Vec> outwardIn(const TopoDS_Face& face, gp_Pnt& place);

} // namespace gc
