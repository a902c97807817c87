#pragma once
/// \file For .cpp files: many questions to the triangles of a body: is a place inside, how far is a face.

#include "core/shape/mesher/body_mesher.hpp"

#include <vector>

namespace gc {

/// By how often a slanting ray from a place goes through the triangles. They are sorted by where they stand
/// in the plane square to the ray, so that few have to be looked at.
class InsideOfMesh {
  public:
    explicit InsideOfMesh(const MeshedBody& body);
    bool holds(const Vec3& place) const;

  private:
    struct Shadow {
        double x, y;
    };
    Shadow shadowOf(const Vec3& p) const { return {dot(p, m_x), dot(p, m_y)}; }
    std::size_t columnOf(double x, double low, double size) const;

    const MeshedBody& m_body;
    Vec3 m_way, m_x, m_y;
    double m_lowX = 0, m_lowY = 0, m_sizeX = 1, m_sizeY = 1; ///< of all, and of one cell
    /// Face and triangle by cell.
    std::vector<std::vector<std::pair<std::uint32_t, std::uint32_t>>> m_cells;
};

/// Distances to the triangles of one face, in boxes of some tens of neighbours.
class NearestOnPatch {
  public:
    explicit NearestOnPatch(const Patch& patch);
    /// mm; anything larger than the bound where it is farther. \param bound mm
    double distance(const Vec3& place, double bound) const;

  private:
    struct Group {
        Vec3 low, high;
        std::size_t from, to; ///< of the triangles
    };
    const Patch* m_patch;
    std::vector<Group> m_groups;
};

} // namespace gc
