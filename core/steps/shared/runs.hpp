#pragma once
/// \file For .cpp files: a section along a whole path: in one go where it runs on smoothly, else from corner
/// to corner.

#include "core/steps/shared/fold.hpp"
#include "core/steps/shared/swept_faces.hpp"

#include <TopoDS_Compound.hxx>

namespace gc {

/// A face that a sweep goes on to, straight from the end of its path, or ends at before.
struct SweepEnd {
    TopoDS_Face face;
    std::string said; ///< as a reference
};

/// \param profile the section where it stands at the start of the path \param across its x axis there
/// Errors: "sweep.fold" and "sweep.near" where it would run into itself, with the place and the size that
/// fits; "sweep.corner", "sweep.back" and "sweep.corners" where it cannot go round a corner; "sweep.no-end"
/// and "sweep.end-before" where the face does not end it; "sweep.flat", "sweep.uneven", "sweep.invalid".
Result<NamedTool> sweepAlong(const Profile& profile, const Path& path, const gp_Vec& across,
                             const SweepLaw& law, bool roundCorners, const std::optional<SweepEnd>& end,
                             int step, const Plane& frame);

// ---- what the ways of going round corners share

/// One run, from its own start on.
Result<Swept> sweptRun(const Profile& profile, const SmoothRun& run, const gp_Vec& across,
                       const SweepLaw& law);
Error folded(const Fold& fold);
Error sweepUnsound();
/// What goes on straight from the end of a sweep, at a place of its path, until the face ends it; nothing
/// where the face does not lie ahead. \param reach of the section there, mm
Result<std::optional<NamedTool>> goneOnTo(const Swept& swept, const gp_Pnt& at, const gp_Vec& along,
                                          const SweepEnd& end, double reach, int step, const Plane& frame);
/// A tool of what is put among its solids.
NamedTool sweptTool(int step, const Plane& frame,
                    const std::function<void(TopoDS_Compound&, NamedTool&)>& fill);

} // namespace gc
