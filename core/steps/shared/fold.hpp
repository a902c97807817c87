#pragma once
/// \file For .cpp files: whether a section fits round the bends of its path, asked before anything is made.

#include "core/steps/shared/section.hpp"

namespace gc {

/// Where a section would run into itself.
struct Fold {
    gp_Pnt at;       ///< on the path
    double fits = 0; ///< the greatest size that would fit, of what it is
    double bend = 0; ///< radius of the path there, mm; 0: two turns of the path lie too near
};

/// At a place of the path with curvature vector k, the section's point p folds where 1 - k.p is negative;
/// turns of the path that are further apart along it than half way round may not come nearer than the section
/// reaches. Nothing where all of it fits.
std::optional<Fold> foldOf(const Section& section, const std::vector<PathPiece>& pieces, bool closed,
                           const Frames& frames);

/// Pieces between two corners, by how much the path turns in these, rad, and where the section's x axis
/// looks at their start.
struct SmoothRun {
    std::vector<PathPiece> pieces;
    bool closed = false;
    double turnBefore = 0, turnAfter = 0;
    gp_Vec across{};
};

/// Where two runs of a path with corners come too near to each other, other than at their corner.
std::optional<Fold> meetingOf(const Section& section, const std::vector<SmoothRun>& runs, bool closed,
                              const Frames& first);

} // namespace gc
