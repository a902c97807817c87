#pragma once
/// \file For .cpp files only: what both meshers say of faces and edges.

#include "core/shape/kernel.hpp"
#include "core/shape/mesh.hpp"

namespace gc {

/// The best reference to the face, as text; empty when there is none.
std::string nameForMesh(const NamedShape& shape, const TopoDS_Face& face);
/// Marks smooth edges and empties those that are no edges to a user.
void markEdges(const NamedShape& shape, TriangleMesh& mesh);

} // namespace gc
