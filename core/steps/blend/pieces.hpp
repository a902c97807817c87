#pragma once
/// \file For .cpp files: how rounds along chains of edges hang together.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

#include <BRepFilletAPI_MakeFillet.hxx>
#include <TopoDS_Vertex.hxx>

#include <array>
#include <vector>

namespace gc {

/// A round between two faces, seen along the chain.
struct RoundPiece {
    TopoDS_Face round;
    std::array<TopoDS_Face, 2> beside;
    std::array<TopoDS_Edge, 2> rails;      ///< where it touches them
    std::array<TopoDS_Vertex, 2> from, to; ///< of the rails
    std::array<bool, 2> ahead{};           ///< does the rail's own direction go from there to there?
    TopoDS_Edge first, last;               ///< across, at its ends; the same where it closes up on itself
};

struct RoundChain {
    std::vector<RoundPiece> pieces;
    bool closed = false;
    std::array<TopoDS_Face, 2> ends; ///< of an open one: the flat faces that it ends on
};

/// One for each contour. Errors as of evenStrips.
Result<std::vector<RoundChain>> roundChains(BRepFilletAPI_MakeFillet& rounds, const NamedShape& before,
                                            const NamedShape& rounded);

} // namespace gc
