#pragma once
/// \file For .cpp files: a corner's piece taken out of the faces round it, and another face put there.

#include "core/shape/kernel.hpp"
#include "core/steps/fillet/corner_patch.hpp"

namespace gc {

/// An edge of the piece's border that leads across an arm of the corner.
struct ArmEnd {
    TopoDS_Edge across;
    gp_Vec away; ///< from the corner
};

/// A solid without a piece of its surface.
class PartedCorner {
  public:
    /// Nothing where the edges do not part the piece from the rest. \param arms edges on its faces that go
    /// across \param between those that lead from one of these to the next
    /// \param whole faces of which nothing is taken
    static std::optional<PartedCorner> of(const Body& body, const std::vector<ArmEnd>& arms,
                                          const std::vector<TopoDS_Edge>& between,
                                          const std::vector<TopoDS_Face>& whole);

    /// All round the piece, with the normals of the faces that stay.
    std::vector<BorderPlace> places() const;
    /// With a face in the piece's place. Error "names.missing".
    Result<Body> closedBy(const CornerPatch& patch, NamePtr name) const;

  private:
    explicit PartedCorner(const Body& body) : m_body(body) {}
    bool part(const std::vector<TopoDS_Edge>& edges, const std::vector<TopoDS_Face>& whole);
    bool takeOut(const std::vector<ArmEnd>& arms);
    /// What became of an edge of the border, or of a face.
    std::vector<TopoDS_Shape> nowOf(const TopoDS_Shape& item) const;
    TopoDS_Face keptBeside(const TopoDS_Shape& edge) const;
    /// The border as the faces that stay have it, one edge after the other.
    std::vector<TopoDS_Edge> inOrder() const;

    Body m_body;
    std::shared_ptr<BRepBuilderAPI_MakeShape> m_split;
    TopoDS_Shape m_shape;
    TopTools_IndexedDataMapOfShapeListOfShape m_facesOfEdge;
    TopTools_IndexedMapOfShape m_ends, m_border, m_out; ///< edges beyond which the piece cannot go, those
                                                        ///< of its border, and its faces
};

} // namespace gc
