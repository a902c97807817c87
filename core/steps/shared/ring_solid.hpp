#pragma once
/// \file For .cpp files: solids that stand on a plane between two lines beside a border.

#include "core/base/plane.hpp"
#include "core/base/result.hpp"

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>

#include <vector>

namespace gc {

/// A ring between two lines beside a border, to be added to a body or taken from it.
struct RingWish {
    double from = 0, to = 1; ///< how far the lines are beside the border, mm
    bool outward = false;    ///< away from what the border encloses
    Vec3 way;                ///< along which it is moved, square to the plane
    double height = 1;       ///< by so much, mm
    double lean = 0;         ///< of its side over the far line, inward along the way, rad
};

enum class RingPart { Foot, Top, Wall, Side, Corner };

struct RingSolid {
    struct Face {
        TopoDS_Shape face; ///< as it lies in the solid
        RingPart part;
        TopoDS_Edge along; ///< the border's, of walls (over the near line) and sides (over the far one)
    };
    TopoDS_Shape solid;
    std::vector<Face> faces;
    bool leans = true; ///< does every side lean that should?
    /// On the foot and on the top, edge by edge as the border is, where the near line is the border itself
    /// and it is built face by face; else null.
    TopoDS_Wire farLine, farTop;
};

/// \param normal of the plane looks out of what the border borders Errors: "ring.fold" where a line runs into
/// itself.
Result<RingSolid> ringSolid(const TopoDS_Wire& border, const Plane& plane, const RingWish& wish);

/// A flat face between an outer line and others within it, whichever way they run.
TopoDS_Face flatFace(const Plane& plane, const TopoDS_Wire& outer, const std::vector<TopoDS_Wire>& within);

} // namespace gc
