#pragma once
/// \file How surfaces and edges bend, from their triangles and polylines: for pictures, not for measures.

#include "core/shape/mesh.hpp"

namespace gc {

/// Of every vertex the principal curvature of greater size, 1/mm: positive where the surface bulges, negative
/// where it is hollow, 0 where it is flat. From the normals over each triangle by least squares, as
/// Rusinkiewicz, "Estimating curvatures and their derivatives on triangle meshes" (2004), section 3; vertices
/// are those of one face, so nothing is mixed over an edge.
std::vector<float> bendingOf(const TriangleMesh& mesh);

/// Of every point of a polyline that curve's curvature vector, 1/mm, towards the centre of the circle through
/// it and its neighbours (Menger); at the ends of an open one that of the next point. Closed where the first
/// point is the last.
std::vector<Vec3> bendingAlong(const std::vector<Vec3>& points);

} // namespace gc
