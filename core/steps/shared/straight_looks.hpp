#pragma once
/// \file For .cpp files: many parallel lines through a body, by its triangles. The kernel takes milliseconds
/// for each line that meets a face of free form.

#include "core/base/plane.hpp"
#include "core/shape/mesher/body_mesher.hpp"

#include <gp_Pnt2d.hxx>

#include <vector>

namespace gc {

/// Lines along a plane's normal. What they meet is right to about the deviation of the triangles.
class StraightLooks {
  public:
    StraightLooks(const NamedShape& shape, const Plane& plane);

    /// Could all faces be meshed? Else nothing is met.
    bool good() const { return m_good; }
    const Plane& plane() const { return m_plane; }
    struct Met {
        int face = 0;      ///< by number, from 0
        double height = 0; ///< before the plane, mm
        gp_Pnt2d uv;       ///< about where on the face
    };
    /// From behind the plane forward.
    std::vector<Met> through(Vec2 place) const;
    /// mm between the triangles and the faces
    static constexpr double kDeviation = 0.02;

  private:
    Plane m_plane;
    MeshedBody m_body;
    bool m_good = false;
    Vec2 m_low, m_cell{1, 1};
    int m_across = 0, m_up = 0;
    std::vector<std::vector<std::pair<std::uint32_t, std::uint32_t>>> m_cells; ///< face and triangle
};

} // namespace gc
