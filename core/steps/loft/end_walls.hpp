#pragma once
/// \file For .cpp files: the walls of a body beyond a section that goes round one of its faces.

#include "core/steps/loft/section.hpp"

#include <ShapeAnalysis_Surface.hxx>

namespace gc {

class EndWalls {
  public:
    explicit EndWalls(const LoftSection& section);

    struct Look {
        gp_Vec normal;   ///< of the wall
        gp_Vec ahead;    ///< in the wall, square to the section, on past it; of length 1
        double bend = 0; ///< normal curvature that way, towards the normal, 1 / mm
    };
    /// \param forward where the loft goes, roughly
    Look at(double share, bool late, const gp_Vec& forward) const;

  private:
    const LoftSection& m_section;
    std::vector<Handle(ShapeAnalysis_Surface)> m_walls;
};

} // namespace gc
