#pragma once
/// \file Whether the borders of flat faces run the right way round.

#include "core/shape/mesh.hpp"

namespace gc {

/// A flat face whose area by its border is not that of its triangles, from 0: an operation of the kernel left
/// an edge of the border the wrong way round. The kernel's own checks pass that, and every measure that goes
/// along borders is wrong by it. \param mesh of the body
std::optional<int> wrongBorder(const Body& body, const TriangleMesh& mesh);

} // namespace gc
