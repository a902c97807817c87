#pragma once
/// \file Wall thickness by both schools: straight through along the normal (ray), and the largest ball that
/// fits (ball).

#include "core/base/progress.hpp"
#include "core/inspect/ray_scene.hpp"
#include "core/inspect/sampling.hpp"

#include <functional>

namespace gc {

struct WallExtreme {
    double value = 0; ///< mm
    Vec3 at;
    std::string face; ///< reference to the face it is on
};

struct WallField {
    /// Thickness at each vertex, mm; negative where there is no wall to speak of: on edges and rims, where
    /// the other side does not face this one.
    std::vector<float> thickness;
    WallExtreme thinnest, thickest;
    bool any = false;
    double errorBound = 0; ///< mm
};

/// Ray school. The extremes are worked out again on the exact surfaces. Two sides make a wall where the
/// far side leans less than 60 degrees from facing this one.
WallField wallByRay(const Body& body, const SampledSurface& surface, const RayScene& scene,
                    const Stop& stop = {});

/// Ball school, by shrinking balls (Ma, Bae, Choi: 3D medial axis point approximation using nearest neighbors
/// and the normal field, The Visual Computer 28, 2012) on nearest-point queries. A ball counts where its two
/// contacts face at least 110 degrees apart, or where it rests on a hollow edge at least 100 degrees away.
WallField wallByBall(const Body& body, const SampledSurface& surface, const RayScene& scene,
                     const Stop& stop = {});

/// Area over thickness, in equal steps from low to high.
struct WallHistogram {
    double low = 0, high = 0;  ///< mm
    std::vector<double> areas; ///< mm^2
};
WallHistogram histogram(const WallField& field, const SampledSurface& surface, int bins = 24);

} // namespace gc
