#pragma once
/// \file For .cpp files: a detail of a body: faces that stand in or on other faces, and where they do.

#include "core/shape/kernel.hpp"
#include "core/steps/shared/round_faces.hpp"

#include <BRepBndLib.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <TopoDS_Compound.hxx>
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
    /// Those of the faces that are pieces of what it stands in, within it, as in the counter of a letter.
    std::vector<TopoDS_Face> islands{};
};

/// Shapes as one. \param shapes faces of a detail or of a copy
template <class Shapes>
TopoDS_Compound together(const Shapes& shapes) {
    const BRep_Builder builder;
    TopoDS_Compound out;
    builder.MakeCompound(out);
    for (const TopoDS_Shape& s : shapes) builder.Add(out, s);
    return out;
}
/// The box around them.
template <class Shapes>
Bnd_Box boxOf(const Shapes& shapes) {
    Bnd_Box out;
    for (const TopoDS_Shape& s : shapes) BRepBndLib::Add(s, out, false);
    return out;
}

/// The faces that share edges with some, each once.
TopTools_IndexedMapOfShape besideOf(const NamedShape& shape, const TopTools_IndexedMapOfShape& faces);

/// Faces, the rounds and chamfers between them and what they stand on, and what later steps set onto all
/// these and nothing else.
TopTools_IndexedMapOfShape withWhatBelongs(const NamedShape& shape, const std::vector<int>& faces);

/// The faces with what belongs to them, and faces that all these go round. Errors: "repeat.border" with the
/// place where the detail runs out at a border of the face that it is in.
Result<Detail> detailOf(const NamedShape& shape, const std::vector<int>& faces);

} // namespace gc
