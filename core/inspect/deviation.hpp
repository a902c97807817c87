#pragma once
/// \file How far a body lies from another one, as from the scan of a part that was made.

#include "core/base/progress.hpp"
#include "core/inspect/sampling.hpp"
#include "core/inspect/wall.hpp"

namespace gc {

/// How far each place of a surface lies from the nearest place of another.
struct DeviationField {
    std::vector<float> away;     ///< mm of each vertex: more than nothing outside of the other
    WallExtreme inside, outside; ///< the farthest within the other (0 or less), and out of it (0 or more)
    double within = 0;           ///< mm: no farther, on 95 of 100 parts of the area
    std::string from;            ///< what the other body is called
    bool any() const { return !away.empty(); }
};

/// Nearest places on triangles. On which side a place lies is told by the angle-weighted normal of the
/// corner, side or triangle that is nearest (Baerentzen and Aanaes, Signed distance computation using the
/// angle weighted pseudonormal, IEEE Transactions on Visualization and Computer Graphics 11, 2005): right for
/// closed surfaces; near the border of an open one it is a guess. Without values where it was stopped.
DeviationField deviationFrom(const SampledSurface& surface, const TriangleMesh& other, const Stop& stop = {});

/// Is it made of triangles, as scans are: many faces, all of them flat?
bool isFaceted(const Body& body);

} // namespace gc
