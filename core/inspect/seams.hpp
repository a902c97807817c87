#pragma once
/// \file What the edges of a body are like: how sharp outside, and how smoothly faces run on into each other.

#include "core/base/progress.hpp"
#include "core/shape/body.hpp"

#include <optional>

namespace gc {

/// An outside edge, at its sharpest place.
struct SharpEdge {
    double angle = 0; ///< of the material between its faces, rad
    Vec3 at;
    std::string edge; ///< a reference to it
};

/// An outside corner or tip.
struct SharpPoint {
    double angle =
        0; ///< of the round cone that fills as much of the space around its tip as the material, rad
    Vec3 at;
    std::string face; ///< a reference to a face that ends there
};

/// Where two faces run on into each other, at its worst place.
struct Seam {
    int order = 2;   ///< 0: they meet only (G0); 1: tangent (G1); 2: of one curvature (G2)
    double kink = 0; ///< between their normals, rad
    double jump = 0; ///< of the curvature across it, 1/mm
    Vec3 at;
    std::string edge;
};

struct SeamField {
    std::optional<SharpEdge> sharpest; ///< nothing where no outside edge is left
    std::optional<SharpPoint> point;   ///< nothing where no corner stands out
    std::optional<Seam> worst;         ///< nothing where no faces run on into each other
};

/// Faces that meet at less than that were meant to run on, rad.
inline constexpr double kMeantSmooth = 0.087; // 5 degrees
/// Up to that they are tangent, rad: a tenth of a degree, which no light shows.
inline constexpr double kTangent = 0.0017453;
/// Up to that the curvature runs on, 1/mm.
inline constexpr double kEven = 2e-3;

SeamField seamsOf(const Body& body, const Stop& stop = {});

} // namespace gc
