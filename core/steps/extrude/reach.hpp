#pragma once
/// \file For .cpp files of this folder: how far an extrude goes, and how its sides run.

#include "core/model/arguments.hpp"
#include "core/steps/shared/moved_along.hpp"

#include <TopoDS_Shape.hxx>

namespace gc {

struct Reach : Movement {
    /// What it ends at: faces, or all of the bodies in the way. Empty: at `to`, which else lies beyond it.
    std::vector<TopoDS_Shape> ends;
    bool faces = false; ///< these are single faces, which are continued where they do not cover the drawing
    double gap = 0;     ///< how far short of them it stays, mm; negative: how far beyond them it goes
    std::string said;   ///< the reference to them, for sentences
    /// Faces that it begins at; none where it begins at a level. Then `from` and `to` lie past everything.
    std::vector<TopoDS_Shape> begins;
    std::string beginSaid;
    bool byLength = false;           ///< from the faces by lengths, else to what ends it
    std::pair<double, double> shift; ///< by these, mm square to the drawing
    bool backward = false;           ///< which way it goes from the faces
};

/// What the slots say. \param targets the bodies that are worked on, where the sentence names them
Result<Reach> reachOf(const Arguments& args, ModelReader& model, const Outline& outline,
                      const std::vector<ThingId>& targets);

/// The box of a shape along the directions of a plane: z is how far before it.
Box boxAlong(const TopoDS_Shape& shape, const Plane& plane);

/// "extrude.behind": what should end it lies behind the drawing.
Error liesBehind(const std::string& what);

} // namespace gc
