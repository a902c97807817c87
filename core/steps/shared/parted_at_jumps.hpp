#pragma once
/// \file For .cpp files: walls that run on smoothly, but whose bend jumps on the way (the wall of a loft over
/// lines and arcs), parted where it jumps.

#include "core/shape/kernel.hpp"

#include <memory>
#include <optional>
#include <vector>

class BRepBuilderAPI_Copy;
class ShapeBuild_ReShape;

namespace gc {

/// Does a face's bend jump somewhere on the way?
bool bendJumpsOn(const TopoDS_Shape& face);

/// A body parted at the jumps. All pieces of a wall are called as it was.
struct Parted {
    Body body;
    Handle(ShapeBuild_ReShape) context;
    std::shared_ptr<BRepBuilderAPI_Copy> copy;

    /// What an edge became.
    std::vector<TopoDS_Edge> piecesOf(const TopoDS_Edge& edge) const;
    /// What a face became.
    std::vector<TopoDS_Face> piecesOf(const TopoDS_Face& face) const;
};

/// Nothing where it cannot be parted. Whether the kernel finds it sound is not looked at. Throws what the
/// kernel throws.
std::optional<Parted> partedAtJumps(const NamedShape& shape);

} // namespace gc
