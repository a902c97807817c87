#pragma once
/// \file For .cpp files: walls parted along what folds over of them when they are moved.

#include "core/steps/shell/fold_round.hpp"
#include "core/steps/shell/wall_check.hpp"

#include <map>
#include <memory>

namespace gc {

struct PartedAtFolds {
    Body body;
    std::vector<std::vector<TopoDS_Face>> pieces; ///< what each face became, by its number from 0
    /// What the faces that would fold over are moved to: by their numbers from 1.
    std::map<int, std::shared_ptr<const FoldRound>> rounds;
};

/// Without rounds, and without a body, where nothing folds over that stays. Nothing where what does so cannot
/// be told from the rest. Throws what the kernel throws.
std::optional<PartedAtFolds> partedAtFolds(const ShellPlan& plan);

} // namespace gc
