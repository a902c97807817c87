#pragma once
/// \file For .cpp files only: the kernel's curves inside a SpaceCurve.

#include "core/shape/length_curve.hpp"
#include "core/shape/space_curve.hpp"

namespace gc {

struct SpacePieces {
    std::vector<LengthCurve> curves; ///< each begins where the one before ends
    bool closed = false;
};

/// Each as an edge that runs as its curve does.
std::vector<TopoDS_Edge> edgesOf(const SpacePieces& pieces);

} // namespace gc
