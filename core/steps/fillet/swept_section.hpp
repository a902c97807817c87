#pragma once
/// \file For .cpp files: sections square to straight and circular edges, swept along these.

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Circ.hxx>
#include <gp_Trsf.hxx>
#include <gp_Vec.hxx>
#include <gp_XY.hxx>

#include <optional>
#include <vector>

namespace gc {

/// The plane square to an edge in its middle, with the edge's place as its origin. Along a circle x goes away
/// from its centre and y along its axis.
struct SectionPlane {
    gp_Pnt at;
    gp_Dir x, y, along;
    std::optional<gp_Circ> circle;

    gp_XY flat(const gp_Vec& v) const { return {v.Dot(gp_Vec(x)), v.Dot(gp_Vec(y))}; }
    gp_XY flat(const gp_Pnt& p) const { return flat(gp_Vec(at, p)); }
    gp_Pnt inSpace(const gp_XY& p) const { return at.Translated(gp_Vec(x) * p.X() + gp_Vec(y) * p.Y()); }
};

/// Nothing where the edge is neither straight nor a circle.
std::optional<SectionPlane> sectionPlaneOf(const BRepAdaptor_Curve& curve);

inline constexpr double kAlongEdge = 1e-7; // mm, rad: an axis along or about an edge
bool isAboutCircle(const gp_Ax1& axis, const gp_Circ& circle);
/// Is a wall along the edge straight in the section: flat, or round about the edge's own axis?
bool isStraightAcross(const BRepAdaptor_Surface& wall, const SectionPlane& across);

/// From the middle of a straight or circular edge to another place of it, by the share of its way.
gp_Trsf alongEdge(const TopoDS_Edge& edge, double share);

struct SweptSection {
    TopoDS_Shape solid;
    std::vector<TopoDS_Face> made; ///< of the solid: by each edge of the border
    std::vector<TopoDS_Face> ends; ///< none where it goes all the way round
};

/// A section swept along an edge and beyond its ends, or once round its axis. \param border closed, its edges
/// sharing their corners \param beyond mm
SweptSection sweptAlong(const TopoDS_Edge& edge, const SectionPlane& across,
                        const std::vector<TopoDS_Edge>& border, double beyond);

} // namespace gc
