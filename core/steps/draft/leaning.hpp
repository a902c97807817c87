#pragma once
/// \file For .cpp files: walls of a body turned about where they meet a level.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

#include <gp_Dir.hxx>
#include <gp_Pln.hxx>

namespace gc {

/// The walls lean so that they narrow along the pull by an angle, rad, whatever they leaned by before; where
/// they meet the level they stay. They keep their names.
/// Walls that are neither flat nor round: see leaningLoop. Rounds beside the walls are built anew.
/// Errors: those of leaningLoop; "draft.cannot" where their neighbours do not go along; "draft.rounds" where
/// rounds beside them do not fit any more; "draft.too-large" where walls run into each other or a round is
/// used up; each with its place.
Result<Body> leaning(const Body& body, const std::vector<int>& faces, const gp_Dir& pull, double angle,
                     const gp_Pln& level);

/// The same on both sides of the level, away from it.
Result<Body> leaningBothWays(const Body& body, const std::vector<int>& faces, const gp_Dir& pull,
                             double angle, const gp_Pln& level);

/// The faces that stand nearly along the pull.
std::vector<int> wallsOf(const Body& body, const gp_Dir& pull);

} // namespace gc
