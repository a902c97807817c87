#pragma once
/// \file Where a body is looked at: its surface in even small triangles.

#include "core/shape/mesh.hpp"

namespace gc {

/// The body's surface in even small triangles, for maps of measures. Vertices as in TriangleMesh.
struct SampledSurface {
    TriangleMesh mesh;
    /// Where each vertex is measured: moved a little into its face, so that edges do not mislead.
    std::vector<Vec3> samples;
    std::vector<double> areas;         ///< mm^2 that each vertex stands for
    std::vector<std::uint32_t> faceOf; ///< number of the face that each vertex belongs to
    double apart = 0;                  ///< mm, the longest edge that is left
    bool coarse = false;               ///< longer than asked, because there would have been too many
};
/// About the most places that are looked at: rays and balls for them take seconds.
inline constexpr std::size_t kMostSamples = 200'000;
/// Splits the triangles until no edge is longer than the given length, or than the length that keeps to
/// `most` vertices (those of the mesh are there anyhow).
SampledSurface sampleSurface(const TriangleMesh& mesh, double longestEdge, std::size_t most = kMostSamples);

} // namespace gc
