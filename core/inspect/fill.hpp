#pragma once
/// \file What a vessel holds.

#include "core/inspect/ray_scene.hpp"

#include <optional>

namespace gc {

struct FillResult {
    double volume = 0; ///< mm^3
    double level = 0;  ///< height of the liquid, mm
    bool holdsAnything = false;
    Message note; ///< "2 holes in the floor are taken as stoppered."
};

/// The height of the lowest point of the rim: the highest level that is still enclosed all round. Nothing
/// when no level is enclosed.
std::optional<double> brimHeight(const TriangleMesh& mesh, const Box& box);

/// The volume held up to the level, up being +z, or up to the brim when the level is over it. It is
/// integrated from level sections by Gauss's rule between the heights where faces begin and end; each
/// section's area is corrected for the bulge of the surfaces over their triangles from the exact normals.
/// Only what is open above counts. A hole that leads out below is taken as stoppered level with the surface
/// it is in, where the cavity narrows to less than half; a cavity that narrows gently to its outlet holds
/// nothing.
FillResult fillVolume(const TriangleMesh& mesh, const RayScene& scene, const Box& box,
                      std::optional<double> level);

} // namespace gc
