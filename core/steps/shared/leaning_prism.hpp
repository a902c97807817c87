#pragma once
/// \file For .cpp files: an area of a drawing extruded with sides that lean.
///
/// Lines become planes, arcs cones, other curves ruled B-splines; corners stay sharp, and a side that
/// vanishes on the way lets those beside it meet. The solid is put together from its faces, an edge once for
/// the two faces that share it, without sewing and without booleans.

#include "core/model/model.hpp"
#include "core/sketch/inset/inset.hpp"
#include "core/steps/shared/lean_face.hpp"

#include <TopoDS_Face.hxx>
#include <TopoDS_Shape.hxx>

#include <variant>

namespace gc {

using SideLoops = std::vector<std::vector<InsetSide>>;
/// The loops of an area, the outer one first: a side for each run of a stroke between two corners.
SideLoops sidesOf(const Region& area);

struct LeaningPrism {
    struct Side {
        TopoDS_Face face;
        std::vector<std::string> roles; ///< "side 12", behind the drawing "back side 12"
        int stroke = 0;                 ///< that it stands on
    };
    TopoDS_Shape solid;
    TopoDS_Face before, behind; ///< its ends; where it goes one way only, the other is in the drawing's plane
    std::vector<Side> sides;
};

/// Why it cannot get so far.
struct LeanStop {
    InsetStop stop;
    double height = 0; ///< that it reaches, mm
    LeanHalf half;
};

/// \param level of the drawing's plane above the outline's own, mm
/// \param halves one or two of different sense, none of height 0
/// Errors: "lean.fit" where a free side cannot be fitted. Throws what the kernel throws.
Result<std::variant<LeaningPrism, LeanStop>> leaningPrism(const Outline& outline, const Region& area,
                                                          double level, const std::vector<LeanHalf>& halves);

} // namespace gc
