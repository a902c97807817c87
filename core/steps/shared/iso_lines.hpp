#pragma once
/// \file For .cpp files: where lines of a surface's own net lie in it.

#include <Geom2d_Line.hxx>

namespace gc {

/// At a place along, going across.
inline Handle(Geom2d_Line) across(double v) {
    return new Geom2d_Line(gp_Pnt2d(0, v), gp_Dir2d(1, 0));
}
/// At a place across, going along.
inline Handle(Geom2d_Line) along(double u) {
    return new Geom2d_Line(gp_Pnt2d(u, 0), gp_Dir2d(0, 1));
}

} // namespace gc
