#pragma once
/// \file For .cpp files: pieces of what a round takes off or puts on, with what their faces are called.

#include "core/steps/shared/boolean.hpp"

#include <utility>
#include <vector>

namespace gc {

/// A piece of a sliver.
struct SliverPiece {
    TopoDS_Shape solid;
    std::vector<std::pair<TopoDS_Shape, NameList>> called; ///< its faces
    std::vector<TopoDS_Shape> ends, walls[2]; ///< of these: beyond the edge, on the two faces beside it
};

/// A face that parts a sliver, and what it is called there.
struct SliverParting {
    TopoDS_Face face;
    NameList names;
};

/// The pieces into which it is parted; none where the kernel fails.
std::vector<SliverPiece> partedSliver(const SliverPiece& whole, const std::vector<SliverParting>& by);

/// What a plane is called in which one sliver ends and the next begins: nothing of it is left in the end.
NamePtr sliverJoint(int step);
/// How many faces are called so.
int facesNamed(const Body& body, NamePtr name);
/// A flat face, a round one or a ring, continued beyond its borders; nothing for others, and for none.
/// \param by mm
std::optional<SliverParting> continuedFace(const NamedShape& shape, const TopoDS_Shape& face, double by);

/// To be taken from a body, or put onto it.
NamedTool sliverTool(const SliverPiece& piece, int step);

} // namespace gc
