#pragma once
/// \file For .cpp files: walls parted along what folds over of them when they are moved.

#include "core/steps/shell/fold_round.hpp"
#include "core/steps/shell/wall_check.hpp"

#include <array>
#include <map>
#include <memory>

namespace gc {

/// Radii of rounds that take the place of what folds over, as shares of the wall: where a small ball falls
/// into what is bent twice, or the round comes out uneven, a larger one may find its way.
inline constexpr std::array kFoldRadii{0.25, 0.5, 1.0};
/// The last resort, where two rounds come near to each other: nearly a crease.
inline constexpr double kSmallFoldRadius = 0.1;

struct PartedAtFolds {
    Body body;
    std::vector<std::vector<TopoDS_Face>> pieces; ///< what each face became, by its number from 0
    /// What the faces that would fold over are moved to: by their numbers from 1.
    std::map<int, std::shared_ptr<const FoldRound>> rounds;
};

/// Without rounds, and without a body, where nothing folds over that stays. Nothing where what does so cannot
/// be told from the rest. Throws what the kernel throws. \param least radius of the rounds, as a share of the
/// wall
std::optional<PartedAtFolds> partedAtFolds(const ShellPlan& plan, double least);

} // namespace gc
