#pragma once
/// \file For .cpp files of this folder: the faces of one half of a leaning prism.

#include "core/sketch/inset/inset.hpp"
#include "core/steps/shared/lean_face.hpp"

#include <Geom2d_Curve.hxx>
#include <TopoDS_Face.hxx>

namespace gc {

/// What the two halves share: the outline in the drawing's plane.
struct LeanFoot {
    std::vector<std::vector<TopoDS_Vertex>> corners; ///< after each side of each loop
    std::vector<std::vector<std::optional<LeanRows>>> rows;
    std::vector<std::vector<TopoDS_Edge>> edges; ///< in the direction of the walk
};

/// The sides of one half and their edges.
class LeanHalfBuilder {
  public:
    LeanHalfBuilder(const LeanHalf& half, std::size_t row, Inset inset, const LeanFoot& foot);

    const LeanFace& face(std::size_t loop, std::size_t side) const { return m_faces[loop][side]; }

    /// All edges but those in the drawing's plane. \return false where the kernel refuses one
    bool makeEdges();

    TopoDS_Face sideFace(std::size_t l, std::size_t i) const;

    /// The face at its far end.
    TopoDS_Face cap() const;

    static TopoDS_Face flatFace(const std::vector<std::vector<TopoDS_Edge>>& loops, double z, bool looksUp);

  private:
    /// Upright halves are told by heights.
    bool isUpright() const { return m_inset.by == 0; }
    double heightOf(double by) const { return isUpright() ? by : std::fabs(by / std::tan(m_half.lean)); }
    double movedAt(double height) const { return isUpright() ? 0 : m_half.movedAt(height); }

    bool runsBackward(const LeanFace& face) const { return (m_half.sense < 0) != face.looksIn(); }

    TopoDS_Vertex vertexAt(const InsetNode& node) const;

    static std::size_t indexOf(const InsetLoop& loop, const InsetCorner* corner);

    /// The edge along which a corner moves.
    std::optional<TopoDS_Edge> wayOf(std::size_t l, const InsetCorner& c) const;

    const LeanFace& before(std::size_t l, const InsetCorner& c) const;
    const LeanFace& after(std::size_t l, const InsetCorner& c) const;

    /// Lays an edge on the two surfaces beside it; on one and the same along its seam, one curve for each way
    /// in which its face runs along it.
    void lay(std::size_t l, const InsetCorner& c, const TopoDS_Edge& edge,
             const Handle(Geom2d_Curve) & onBefore, const Handle(Geom2d_Curve) & onAfter) const;

    std::optional<TopoDS_Edge> straightWay(std::size_t l, const InsetCorner& c, const TopoDS_Vertex& a,
                                           const TopoDS_Vertex& b) const;

    /// Interpolated by height, in space and on both surfaces.
    std::optional<TopoDS_Edge> curvedWay(std::size_t l, const InsetCorner& c, const TopoDS_Vertex& a,
                                         const TopoDS_Vertex& b) const;

    /// The edge of a side at the far end; none where it has vanished.
    std::optional<TopoDS_Edge> topOf(std::size_t l, int side) const;

    /// A round that has shrunk to a point closes its cone in the apex.
    std::optional<TopoDS_Edge> apexOf(std::size_t l, std::size_t i) const;

    LeanHalf m_half;
    Inset m_inset;
    const LeanFoot* m_foot;
    std::vector<std::vector<LeanFace>> m_faces;
    std::vector<std::vector<TopoDS_Vertex>> m_vertices;
    std::vector<std::vector<TopoDS_Edge>> m_ways, m_tops;
};

} // namespace gc
