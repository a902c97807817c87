#pragma once
/// \file For .cpp files: faces that a turn about an axis lays on themselves, and loops on them.

#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Ax3.hxx>
#include <gp_Trsf.hxx>
#include <gp_Vec2d.hxx>

#include <optional>

namespace gc {

/// The axis that a face's surface is turned about, with where its turn begins; nothing for other surfaces.
std::optional<gp_Ax3> turnAxisOf(const TopoDS_Face& face);

/// How places on a face's surface go along with a motion that lays the surface on itself; nothing where it
/// does not.
std::optional<gp_Vec2d> shiftOn(const TopoDS_Face& face, const gp_Trsf& by);

/// Gives the edges of a loop curves on a face: those that the edges of another loop, one after the other,
/// have on another face, shifted, and by whole turns to where the face is. False where the loop lies over the
/// line at which the face closes up. \param was where the curves come from
bool layLoop(const TopoDS_Wire& loop, const TopoDS_Face& on, const TopoDS_Wire& from, const TopoDS_Face& was,
             const gp_Vec2d& shift);

} // namespace gc
