#pragma once
/// \file For .cpp files: sizes along edges and about axes as they are dragged in the stand.

#include "core/model/aids.hpp"
#include "core/shape/kernel.hpp"

#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>

#include <functional>
#include <optional>
#include <string>

namespace gc {

inline Vec3 toWay(const gp_Vec& v) {
    return {v.X(), v.Y(), v.Z()};
}

/// A handle only helps: what the kernel throws while it is worked out does not end the step.
void asAid(const std::function<void()>& work);

/// A place of an edge: its middle, or of a closed one that in front. And the ways from it into the two faces
/// beside it, square to it, of length 1.
struct AtEdge {
    Vec3 at;
    Vec3 into[2]; ///< in the order of facesBeside
    double turn;  ///< from one to the other, rad
};
/// Nothing where the edge has not two faces, or a normal is not known.
std::optional<AtEdge> atEdge(const NamedShape& shape, const TopoDS_Edge& edge);

/// A length along a line.
Handle sizeHandle(std::string slot, Vec3 from, Vec3 direction, double value, double way = 1);

/// The radius of a round along an edge, as far as the round goes on the first face: r / tan(turn / 2).
std::optional<Handle> radiusHandle(std::string slot, const NamedShape& shape, const TopoDS_Edge& edge,
                                   double radius);

/// An angle about a line, as an arc. \param from on the line \param arm from there to where it is nothing
Handle turnHandle(std::string slot, Vec3 from, Vec3 about, Vec3 arm, double value);

} // namespace gc
