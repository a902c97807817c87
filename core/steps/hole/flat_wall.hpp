#pragma once
/// \file For .cpp files only. Round holes through a wall between two parallel flat faces, without a boolean:
/// a boolean would intersect every hole with every freeform face whose box it touches (0.9 s on the herb pot
/// where this takes 2 ms).

#include "core/shape/kernel.hpp"

#include <optional>
#include <utility>
#include <vector>

namespace gc {

struct BoredWall {
    TopoDS_Shape shape;                                       ///< a solid
    std::vector<std::pair<TopoDS_Shape, TopoDS_Shape>> faces; ///< every kept face now, and before
    std::vector<TopoDS_Shape> bores;                          ///< one face for each centre
};

/// Bores from the flat face straight to the parallel flat face behind it. Nothing when that is not what is
/// there: another face in the way, a hole that touches an edge, faces that are not parallel planes.
/// \param lean half angle by which the bore widens away from the face, rad
std::optional<BoredWall> boreFlatWall(const NamedShape& before, int face, const std::vector<gp_Pnt>& centres,
                                      double radius, double lean);

} // namespace gc
