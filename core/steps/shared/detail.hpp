#pragma once
/// \file For .cpp files: a detail of a body: faces that stand in or on other faces, and where they do.

#include "core/shape/kernel.hpp"
#include "core/steps/shared/round_faces.hpp"

#include <TopoDS_Wire.hxx>

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

} // namespace gc
