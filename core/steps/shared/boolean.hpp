#pragma once
/// \file For .cpp files only: adding one solid to another, taking it away, keeping what is common, with the
/// names of both.

#include "core/shape/kernel.hpp"

namespace gc {

enum class Combine { Add, Take, Common };

/// A solid that a step made, to be combined with a body, and what its faces are called.
struct NamedTool {
    TopoDS_Shape shape;
    std::vector<std::pair<TopoDS_Shape, NamePtr>> names;
    int step = 0;  ///< that made it
    Plane frame{}; ///< in which that step works
};

/// Neither is changed. Errors: "combine.failed" with the kernel's complaint; "combine.apart" when they have
/// nothing in common; "combine.touches" when they only touch along a line or in a point; "combine.nothing"
/// when nothing is left. What the result has to be else is for the step to say.
Result<Body> combine(const Body& body, const NamedTool& tool, Combine how);

} // namespace gc
