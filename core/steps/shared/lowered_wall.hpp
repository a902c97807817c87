#pragma once
/// \file For .cpp files: the walls beside a flat rim, cut off at a level below it without a boolean.

#include "core/shape/kernel.hpp"

#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>

#include <optional>
#include <utility>
#include <vector>

namespace gc {

struct LoweredWall {
    std::vector<std::pair<TopoDS_Face, TopoDS_Face>> faces; ///< as they were, and as they are now
    TopoDS_Wire line; ///< where they end now: an edge for each of the border, as it is walked
    double aside = 0; ///< mm, how far this is from the border at most, seen along the normal
};

/// \param body with edges of its own (see onOwnEdges()): what they know is added to
/// \param depth mm below the rim's plane. Nothing where a wall ends above that, or more than one edge leads
/// down from a corner: that is for a boolean.
std::optional<LoweredWall> loweredWall(const NamedShape& body, const TopoDS_Face& rim,
                                       const TopoDS_Wire& border, const Plane& plane, double depth);

} // namespace gc
