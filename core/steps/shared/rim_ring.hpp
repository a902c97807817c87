#pragma once
/// \file For .cpp files: rings beside the borders of a flat face: what lips and flanges are raised from.

#include "core/shape/kernel.hpp"
#include "core/steps/shared/boolean.hpp"

#include <TopoDS_Compound.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Wire.hxx>

namespace gc {

/// The flat rim of a body, seen from outside.
struct Rim {
    TopoDS_Face face;
    Plane plane; ///< its normal looks out of the material
    TopoDS_Wire outer;
    std::vector<TopoDS_Wire> inner; ///< around the openings in it
};
/// \param face by number, from 0. Errors: "rim.flat" where it is not flat.
Result<Rim> rimOf(const Body& body, int face);

/// What lies between a border of the rim and a line beside it.
struct Ring {
    TopoDS_Face face;
    std::vector<std::pair<TopoDS_Edge, NamePtr>>
        along; ///< edges on the border, with the wall that is beside each
    std::vector<std::pair<TopoDS_Edge, NamePtr>> beside; ///< edges of the line, with the same walls
};
/// \param from, to how far beside the border its two lines are, mm: positive into the rim's material or out
/// of its outer border, see \p outward Errors: "ring.fold" where such a line runs into itself.
Result<Ring> ringBeside(const Body& body, const Rim& rim, const TopoDS_Wire& border, double from, double to,
                        bool outward);

/// The ring moved along a direction as part of a tool: faces called by role and the wall beside, its ends by
/// role and the rim. \param lean of the side over the line beside, rad, inward along the way; where that
/// cannot lean it stays straight, and false is given back
bool addRaised(const Ring& ring, const Vec3& way, double height, double lean, int step,
               const std::string& kind, NamePtr rim, TopoDS_Compound& solids, NamedTool& tool);

} // namespace gc
