#pragma once
/// \file How far walls lean from the pull, so that a part comes off its tool.

#include "core/inspect/wall.hpp"

namespace gc {

struct LeanField {
    /// Lean of each vertex in degrees: the angle between the surface and the pull. Negative: undercut, held
    /// by material in the direction in which its side of the tool opens.
    std::vector<float> degrees;
    /// Vertices that do not count: where a round turns over the parting line the lean passes through zero on
    /// a strip too narrow to drag. That is where the lean changes by more than 10 degrees a millimetre.
    std::vector<bool> passedOver;
    WallExtreme least;       ///< value in degrees
    double undercutArea = 0; ///< mm^2
    bool any = false;
};

/// Each wall comes off with the half of the tool that its normal faces.
LeanField leanOf(const SampledSurface& surface, const RayScene& scene, Vec3 pull, const Stop& stop = {});

} // namespace gc
