#pragma once
/// \file For .cpp files: two bodies that were joined in a plane, as if they had always been one.

#include "core/base/plane.hpp"
#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

namespace gc {

/// Faces that go on in one surface over the plane, and edges in one line, become one; everything else stays.
Result<Body> withoutSeam(const Body& joined, const Plane& plane, int step);

/// Faces that go on in one surface and are called the same become one, over edges that were not there before.
Result<Body> withoutNewEdges(const Body& joined, const Body& before, int step);

/// Edges that go on in one line over some corners become one; the faces stay, in their order.
Result<Body> withoutCorners(const Body& body, const TopTools_IndexedMapOfShape& corners, int step);

} // namespace gc
