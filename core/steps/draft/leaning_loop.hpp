#pragma once
/// \file For .cpp files: walls of any form, all the way round, that lean: they are drawn anew from what they
/// leave in the level, as the sides of a leaning extrude are.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

#include <gp_Dir.hxx>
#include <gp_Pln.hxx>

namespace gc {

/// The walls lean as leaning() says, but only all the way round (their lines in the level are closed).
/// A body of nothing but these walls and two flat ends becomes one of leaning walls, exactly where lines,
/// arcs and ovals allow it, else within kSurfaceFit; of a body with other details the walls can only be cut:
/// they have to narrow from their lower end.
/// \param bothWays from the level on both sides
/// Errors: "draft.loop" where they are not closed, "draft.level" where they do not meet the level,
/// "draft.details" where material would have to be added beside other details, "draft.too-large".
Result<Body> leaningLoop(const Body& body, const std::vector<int>& walls, const gp_Dir& pull, double angle,
                         const gp_Pln& level, bool bothWays);

/// Error "draft.too-large".
Error leanTooLarge(double angle);

} // namespace gc
