#pragma once
/// \file For .cpp files: lines beside a closed line in a plane, everywhere as far from it.

#include "core/base/plane.hpp"

#include <Geom_BSplineCurve.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

#include <optional>
#include <utility>
#include <vector>

namespace gc {

gp_Pln plnOf(const Plane& plane);

/// The area that a closed flat wire encloses, seen from where the normal points: counter-clockwise positive.
/// mm². By Gauss's rule over every span of its curves (the kernel's own takes few places for long splines).
double areaWithin(const TopoDS_Wire& wire, const Plane& plane);

/// One closed wire beside another, and which of its edges came from which; what joins two has none.
struct BesideWire {
    TopoDS_Wire wire;
    std::vector<std::pair<TopoDS_Edge, TopoDS_Edge>> edges; ///< of the line, of the border
};
/// \param distance mm, away from what the border encloses positive. Nothing where it would run into itself.
std::optional<BesideWire> besideOf(const TopoDS_Wire& border, const Plane& plane, double distance);

/// One edge of a border without corners, as it is walked, and the curves beside it by the same parameter:
/// what lies between two of them is ruled.
struct BesideEdge {
    TopoDS_Edge of;
    double from = 0, to = 1;                       ///< its parameters
    bool back = false;                             ///< is it walked from `to`?
    std::vector<Handle(Geom_BSplineCurve)> curves; ///< one for each distance
};
/// Of a border without corners, some of which is a free curve, whose parallels meet from edge to edge.
/// \param distances as above. Nothing where the border has corners, or one would run into itself.
std::optional<std::vector<BesideEdge>> ruledBeside(const TopoDS_Wire& border, const Plane& plane,
                                                   const std::vector<double>& distances);
/// Is it made of straight lines and circles only?
bool isPlain(const TopoDS_Wire& border);

} // namespace gc
