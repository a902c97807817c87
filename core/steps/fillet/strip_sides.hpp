#pragma once
/// \file For .cpp files: the two sides of a face that runs between two walls.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/path.hpp"

#include <TopoDS_Vertex.hxx>

#include <array>
#include <optional>

namespace gc {

using EdgeLoop = std::vector<TopoDS_Edge>;
/// The borders of faces that these share with others, one after the other in their own sense.
std::vector<EdgeLoop> loopsOf(const std::vector<TopoDS_Face>& faces);

/// Where two edges of a side meet: the edge that goes down from there between their walls, if there is one.
struct SideJoint {
    TopoDS_Vertex corner;
    TopoDS_Edge down;
};

/// The borders of a strip on one side, each with the wall beside it, in the direction of the strip.
struct StripSide {
    std::vector<TopoDS_Edge> edges;
    std::vector<TopoDS_Face> walls;
    std::vector<TopoDS_Face> overs; ///< the faces on the other side of them: of the strip
    std::vector<SideJoint> joints;  ///< before each edge; of an open side after the last one, too
    std::optional<Path> path;
    /// Of a length along the path: which edge that is.
    std::size_t edgeAt(double s) const { return path->pieceAt(s).first; }
    /// By the length along it, the place of the wall there, and of the strip's face.
    gp_Pnt2d onWall(double s) const;
    gp_Pnt2d onStrip(double s) const;
    /// Where an edge begins, by the length along it.
    double startOf(std::size_t edge) const;
};

struct StripSides {
    std::array<StripSide, 2> sides; ///< of a closed one the inner first
    bool closed = false;
    std::array<TopoDS_Edge, 2> ends; ///< of an open one, at the beginning and the end
};

/// Of one face, or of several that go on from each other.
/// Errors "fullround.shape", "fullround.corner", "fullround.ends".
Result<StripSides> sidesOf(const NamedShape& shape, const std::vector<TopoDS_Face>& faces);

/// A face, by its number from 0, that a strip meets in several edges one after the other, as it closes up
/// there; and the corners between these.
struct SeamAtEnd {
    int face = 0;
    TopTools_IndexedMapOfShape corners;
};
std::optional<SeamAtEnd> seamAtEnd(const NamedShape& shape, const TopoDS_Face& strip);

/// The place of a path, by its length, that is nearest to a point.
double nearestOn(const Path& path, const gp_Pnt& p);
/// Within the path; round a closed one.
double wrappedOn(const Path& path, double s);
/// The place of a face beside its border, by the border's parameter.
gp_Pnt2d placeBeside(const TopoDS_Edge& edge, const TopoDS_Face& face, double parameter);
/// Where the edge that goes down comes to a point; nothing where that is further than off, mm, or beyond its
/// ends.
std::optional<double> downTo(const SideJoint& joint, const gp_Pnt& p, double off);

} // namespace gc
