#pragma once
/// \file For .cpp files: which walls of a body are to be one, as what folds over of one of them reaches over
/// a smooth border into the next.

#include "core/steps/shell/wall_check.hpp"
#include "core/steps/shell/wall_row.hpp"

#include <deque>

namespace gc {

/// Rows of walls, with the patches that they are made of.
struct WallRows {
    std::deque<WallPatch> patches;
    std::deque<WallRow> rows; ///< none shares a patch with another
};

/// Rows through walls that fold over, and through what lies beside more than one wall of such a row: a border
/// between rows is one, too. Each has its surface. Nothing where there are none, or one of them has none.
/// \param tight the faces that fold over
std::optional<WallRows> wallRows(const ShellPlan& plan, const TopTools_IndexedMapOfShape& tight);

} // namespace gc
