#pragma once
/// \file For .cpp files: a section carried along a path without corners, as a solid of B-splines: one face
/// for each of its edges and each piece of the path, all edges shared.

#include "core/steps/shared/ended_solid.hpp"
#include "core/steps/shared/section.hpp"

namespace gc {

/// Within this of the true surface, mm.
inline constexpr double kSweepFit = 1e-5;

/// Errors: "sweep.uneven" where a face would take more poles than can be worked with.
Result<Swept> sweptFaces(const Section& section, const std::vector<PathPiece>& pieces, bool closed,
                         const Frames& frames);

/// What a face is called: by the stroke of the section, and by the piece of the path.
std::string sweptRole(const std::string& ofEdge, int ofPiece);

} // namespace gc
