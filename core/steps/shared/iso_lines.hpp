#pragma once
/// \file For .cpp files: where lines of a surface's own net lie in it.

#include "core/base/tolerance.hpp"

#include <BRep_Builder.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_Surface.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Vertex.hxx>

namespace gc {

/// At a place along, going across.
inline Handle(Geom2d_Line) across(double v) {
    return new Geom2d_Line(gp_Pnt2d(0, v), gp_Dir2d(1, 0));
}
/// At a place across, going along.
inline Handle(Geom2d_Line) along(double u) {
    return new Geom2d_Line(gp_Pnt2d(u, 0), gp_Dir2d(0, 1));
}

/// The edge without length where all lines along a surface end in one point.
inline TopoDS_Edge edgeAtPole(const Handle(Geom_Surface) & surface, const TopoDS_Vertex& pole, double v,
                              double from, double to) {
    BRep_Builder builder;
    TopoDS_Edge out;
    builder.MakeEdge(out);
    builder.Degenerated(out, true);
    builder.UpdateEdge(out, across(v), surface, TopLoc_Location(), kKernelPoint);
    builder.Range(out, from, to);
    builder.Add(out, pole.Oriented(TopAbs_FORWARD));
    builder.Add(out, pole.Oriented(TopAbs_REVERSED));
    return out;
}

} // namespace gc
