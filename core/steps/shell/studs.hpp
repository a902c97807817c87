#pragma once
/// \file For .cpp files: what stands out of a wall by little.

#include "core/steps/shell/wall_check.hpp"

namespace gc {

/// Faces that stand out of a flat face within its borders, all round in hollow corners.
struct Stud {
    int from = 0; ///< the number of the flat face, from 1
    std::vector<TopoDS_Face> faces;
    double reach = 0; ///< mm, out of it
};

/// Those that are all kept, and reach no farther than the wall.
std::vector<Stud> lowStuds(const ShellPlan& plan);

} // namespace gc
