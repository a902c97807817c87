#pragma once
/// \file For .cpp files: a body whose walls that run on smoothly from each other are one.

#include "core/steps/shell/wall_rows.hpp"

namespace gc {

struct JoinedWalls {
    Body body;
    std::vector<TopoDS_Face> now; ///< what each face became, by its number from 0
    WallRows rows;
    std::vector<TopoDS_Face> walls; ///< what the rows became

    /// Of the faces that a part of one of the walls lies over, by their middles. \param before their body
    NameList namesOver(const NamedShape& before, std::size_t wall, const TopoDS_Face& piece) const;
};

/// The walls of rows in which something folds over (see wallRows()), each row as one, within 1e-4 mm of what
/// they were. Nothing where there are none, or they cannot be joined. Throws what the kernel throws.
/// \param tight the faces that fold over
std::optional<JoinedWalls> joinedWalls(const ShellPlan& plan, const TopTools_IndexedMapOfShape& tight);

} // namespace gc
