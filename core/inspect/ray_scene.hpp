#pragma once
/// \file Rays and nearest points on a triangle mesh, by Embree.

#include "core/shape/mesh.hpp"

#include <memory>

namespace gc {

struct RayHit {
    double distance = -1; ///< mm; negative: nothing was hit
    std::uint32_t triangle = 0;
    Vec3 normal; ///< outward unit normal of the triangle
    bool hit() const { return distance >= 0; }
};

struct NearestHit {
    double distance = -1; ///< mm; negative: nothing within reach
    Vec3 point;
    std::uint32_t triangle = 0;
};

/// An Embree scene of a mesh. Queries may come from several threads at once.
class RayScene {
  public:
    explicit RayScene(const TriangleMesh& mesh);
    ~RayScene();
    RayScene(const RayScene&) = delete;
    RayScene& operator=(const RayScene&) = delete;

    /// The first triangle along the ray between the two distances.
    RayHit cast(Vec3 from, Vec3 direction, double nearest = 1e-4, double farthest = 1e9) const;
    /// Eight rays at once, for neighbours with about the same direction: nearly twice as fast as one by one.
    /// \param count how many of the eight there are
    void castEight(const Vec3* from, const Vec3* direction, double nearest, std::size_t count,
                   RayHit* hits) const;
    /// The nearest point of the mesh within reach.
    NearestHit nearest(Vec3 p, double reach) const;
    Vec3 triangleNormal(std::uint32_t triangle) const;
    /// Number of the body's face that a triangle belongs to.
    std::uint32_t faceOf(std::uint32_t triangle) const;

  private:
    struct Impl;
    std::unique_ptr<Impl> m_impl;
};

} // namespace gc
