#pragma once
/// \file For .cpp files: shapes of files put right, and surfaces closed to solids.

#include "core/base/message.hpp"
#include "core/base/result.hpp"
#include "core/shape/body.hpp"

#include <TopoDS_Shape.hxx>

#include <vector>

namespace gc {

struct Healed {
    TopoDS_Shape shape;
    std::vector<Message> notes; ///< what was wrong, and what was done about it
};

/// A solid or a surface as it came from a file: what the kernel finds invalid is put right where it can be.
Healed healed(const TopoDS_Shape& shape);

/// The surfaces of a shape that belong to no solid, each a shell of faces that hang together.
/// One that closes is a solid, turned outward.
std::vector<TopoDS_Shape> surfacesIn(const TopoDS_Shape& shape);

/// A body whose open borders are closed, by a flat face where they lie in a plane, else by a filling that
/// meets them. Errors: "close.border" names how many edges a border has that cannot be filled, "close.shape".
Result<Body> closedBody(const Body& body, int stepId);

} // namespace gc
