#pragma once
/// \file For .cpp files: the two sides of a face that runs between two walls.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/path.hpp"

#include <TopoDS_Vertex.hxx>

#include <array>
#include <optional>

namespace gc {

/// Where two edges of a side meet: the edge that goes down from there between their walls.
struct SideJoint {
    TopoDS_Vertex corner;
    TopoDS_Edge down;
};

/// The borders of a strip on one side, each with the wall beside it, in the direction of the strip.
struct StripSide {
    std::vector<TopoDS_Edge> edges;
    std::vector<TopoDS_Face> walls;
    std::vector<SideJoint> joints; ///< before each edge; of an open side after the last one, too
    std::optional<Path> path;
    /// Of a length along the path: which edge that is.
    std::size_t edgeAt(double s) const { return path->pieceAt(s).first; }
};

struct StripSides {
    std::array<StripSide, 2> sides; ///< of a closed one the inner first
    bool closed = false;
    std::array<TopoDS_Edge, 2> ends; ///< of an open one, at the beginning and the end
};

/// Errors "fullround.shape", "fullround.corner", "fullround.ends".
Result<StripSides> sidesOf(const NamedShape& shape, const TopoDS_Face& face);

} // namespace gc
