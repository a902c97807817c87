#pragma once
/// \file For .cpp files: chains of rounds, some of them tighter than the wall, made wider.

#include "core/steps/shell/wall_check.hpp"

#include <TopoDS_Face.hxx>

#include <optional>
#include <vector>

namespace gc {

/// A body with wider rounds, all of it within what it was.
struct EasedBody {
    Body body;
    double least = 0; ///< mm: by how much the rounds are wider than the wall, at least
    double fills = 0; ///< mm: how much thicker than it need be a wall within it is, at most
};

/// A round between two faces onto which it runs smoothly, and the edge where they meet without it.
struct RoundedEdge {
    TopoDS_Face round, beside[2];
    TopoDS_Edge edge;
};

/// A body without some chains of rounds: those that run on from others that are too tight, from one to the
/// next over their ends.
struct SharpBody {
    Body body;
    std::vector<RoundedEdge> edges;
};
/// Nothing where it does not close. Throws what the kernel throws. \param tight faces that fold over
std::optional<SharpBody> sharpBody(const ShellPlan& plan, const Body& body,
                                   const TopTools_IndexedMapOfShape& tight);

/// A wall of the body without rounds with them on it, as they were, under their names. Nothing where they are
/// not of one radius each, or cannot be. Throws what the kernel throws.
std::optional<Body> roundedBack(const ShellPlan& plan, const SharpBody& sharp, const Body& wall, int step);
/// Its rounds put back as wide as they were, and wider than the wall. Nothing where they cannot be. Throws
/// what the kernel throws. \param evenly all as wide as the widest
std::optional<EasedBody> easedRounds(const ShellPlan& plan, const SharpBody& sharp, bool evenly);

} // namespace gc
