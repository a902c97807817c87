#pragma once
/// \file For .cpp files: a section along a whole path: in one go where it runs on smoothly, else from corner
/// to corner, mitred.

#include "core/steps/sweep/swept_faces.hpp"

namespace gc {

/// What a sweep made: one body, or a part that ends where the next begins.
struct SweepMade {
    NamedTool tool;
    bool exact = false; ///< of planes, cylinders and tori
};

/// \param profile the section where it stands at the start of the path
/// Errors: "sweep.fold" where it would run into itself, with the place and the size that fits; "sweep.corner"
/// where a corner cannot be mitred; "sweep.uneven"; "sweep.invalid".
Result<SweepMade> sweepAlong(const Profile& profile, const Path& path, const gp_Vec& across,
                             const SweepLaw& law, int step, const Plane& frame);

} // namespace gc
