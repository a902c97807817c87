#pragma once
/// \file For .cpp files: a detail of a body: faces that stand in or on other faces, and where they do.

#include "core/shape/kernel.hpp"

#include <TopoDS_Wire.hxx>
#include <gp_Ax3.hxx>
#include <gp_Trsf.hxx>
#include <gp_Vec2d.hxx>

#include <optional>

namespace gc {

/// A loop of a face around a detail.
struct Mouth {
    TopoDS_Face host; ///< of the body
    TopoDS_Wire loop; ///< as it is in the host, taken forward
};

struct Detail {
    std::vector<TopoDS_Face> faces;
    std::vector<Mouth> mouths;
};

/// Faces, and the rounds and chamfers between them and what they stand on.
TopTools_IndexedMapOfShape withRounds(const NamedShape& shape, const std::vector<int>& faces);

/// The faces, and the rounds and chamfers between them and what they stand on. Errors: "repeat.border" with
/// the place where the detail runs out at a border of the face that it is in.
Result<Detail> detailOf(const NamedShape& shape, const std::vector<int>& faces);

/// The axis that a face's surface is turned about, with where its turn begins; nothing for other surfaces.
std::optional<gp_Ax3> turnAxisOf(const TopoDS_Face& face);

/// How places on a face's surface go along with a motion that lays the surface on itself; nothing where it
/// does not.
std::optional<gp_Vec2d> shiftOn(const TopoDS_Face& face, const gp_Trsf& by);

} // namespace gc
