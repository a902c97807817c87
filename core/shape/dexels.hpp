#pragma once
/// \file Solids as material along a grid of parallel lines: how what came of two solids is compared with them
/// without trusting the kernel that made it.

#include "core/shape/mesh.hpp"

#include <functional>

namespace gc {

/// Where the lines run: square columns along one direction that is parallel to nothing that people draw.
struct DexelGrid {
    Vec3 across, up, along; ///< unit vectors, square to each other
    Vec2 low;               ///< the corner of the first column
    double step = 0;        ///< mm, from column to column
    int wide = 0, high = 0; ///< how many
};

/// Over all of the meshes. \param columns along the longer side
DexelGrid gridOver(const std::vector<const TriangleMesh*>& meshes, int columns = 160);

/// What crosses each line of a grid, in order.
class Dexels {
  public:
    Dexels(const TriangleMesh& mesh, const DexelGrid& grid);

    /// Volume that is enclosed more than once, or the wrong way round: 0 for a sound solid. mm³
    double wronglyWound() const;

    /// Volume where a rule about three solids on one grid does not hold. mm³
    static double breaking(const Dexels& a, const Dexels& b, const Dexels& result,
                           const std::function<bool(bool inA, bool inB, bool inResult)>& rule);

  private:
    struct Crossing {
        double at = 0;
        int way = 0; ///< +1: into the solid
    };
    /// Those of column k are from m_first[k] up to m_first[k + 1].
    std::vector<Crossing> m_crossings;
    std::vector<std::size_t> m_first;
    double m_cell = 0; ///< mm² of a column
};

} // namespace gc
