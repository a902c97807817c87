#pragma once
/// \file For .cpp files only: what both meshers say of faces and edges.

#include "core/shape/kernel.hpp"
#include "core/shape/mesh.hpp"

namespace gc {

/// Marks smooth edges and empties those that are no edges to a user.
void markEdges(const NamedShape& shape, TriangleMesh& mesh);

} // namespace gc
