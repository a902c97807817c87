#pragma once
/// \file For .cpp files: a body without some of its faces, those beside them grown until they meet.

#include "core/shape/kernel.hpp"

#include <optional>

namespace gc {

/// The names of the other faces stay. Nothing where the body does not close without them.
std::optional<Body> withoutFaces(const Body& body, const TopTools_IndexedMapOfShape& faces);

} // namespace gc
