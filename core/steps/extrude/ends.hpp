#pragma once
/// \file For .cpp files of this folder: how far an extrude goes, and what it ends at.

#include "core/model/arguments.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/profile.hpp"

#include <TopoDS_Compound.hxx>

namespace gc {

/// From where to where, as heights over the drawing's plane, mm; `to` may lie behind `from`.
struct Reach {
    double from = 0, to = 0;
    Vec3 slant; ///< the way that its sides run, for each mm of height: the normal, where they are straight
    /// What it ends at: faces, or all of the bodies in the way. Empty: at `to`, which else lies beyond it.
    std::vector<TopoDS_Shape> ends;
    bool faces = false; ///< these are single faces, which are continued where they do not cover the drawing
    double gap = 0;     ///< how far short of them it stays, mm; negative: how far beyond them it goes
    std::string said;   ///< the reference to them, for sentences
};

/// What the slots say. \param whole the box around the drawing's areas, in its plane
/// \param target the body that is worked on; nothing where a new one is made
Result<Reach> reachOf(const Arguments& args, ModelReader& model, const Outline& outline,
                      std::optional<ThingId> target);

/// Adds the solid of one area, with the names of its faces: "start", "end", "side N".
/// Errors: "extrude.no-end" where nothing ends it on a part of the area; "extrude.behind" where what should
/// end it lies behind the drawing.
std::optional<Error> addSolid(const Profile& profile, const Plane& plane, const Reach& reach, int step,
                              TopoDS_Compound& solids, NamedTool& tool);

} // namespace gc
