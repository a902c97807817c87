#pragma once
/// \file For .cpp files: a body without some of its faces, those beside them grown until they meet.

#include "core/shape/kernel.hpp"

#include <Message_ProgressRange.hxx>

#include <optional>

namespace gc {

/// The names of the other faces stay. Nothing where the body does not close without them.
/// \param patience how long the kernel may try; it takes minutes for many rounds between free walls
std::optional<Body> withoutFaces(const Body& body, const TopTools_IndexedMapOfShape& faces,
                                 const Message_ProgressRange& patience = Message_ProgressRange());

} // namespace gc
