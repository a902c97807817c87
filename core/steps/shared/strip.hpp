#pragma once
/// \file For .cpp files: strips of new faces that take the place of others on a body, running on from the
/// faces on both sides of them. Edges and corners are shared by construction: no boolean, no sewing.

#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"

#include <Geom_BSplineSurface.hxx>
#include <TopoDS_Vertex.hxx>

#include <array>
#include <map>
#include <utility>
#include <vector>

namespace gc {

/// A face of a strip.
struct StripPiece {
    /// u along the strip from 0 to 1; v across it from 0 on the first side to 1 on the second
    Handle(Geom_BSplineSurface) surface;
    std::array<TopoDS_Face, 2> beside;  ///< faces of the body as it is
    std::array<TopoDS_Edge, 2> instead; ///< their edges that make way for it, or for it and others
    NamePtr name = nullptr;
};

/// A joint at which one piece goes on along the second side of the other: its end has one edge with that
/// piece and one more with the face beside that.
struct StripSpur {
    bool after = false;   ///< which piece goes on: the one after the joint
    double share = 1;     ///< of its end, across, from which it lies on the face
    TopoDS_Vertex corner; ///< there: the other piece ends in it instead of the joint's second corner
    TopoDS_Face face;     ///< the other piece's, on the second side
    std::size_t cut = 0;  ///< the number of the edge that is cut off here, among those
};

struct Strip {
    std::vector<StripPiece> pieces; ///< one after the other
    /// The corners on both sides before each piece, and after the last one unless it is closed. They lie
    /// where the surfaces' corners do.
    std::vector<std::array<TopoDS_Vertex, 2>> joints;
    bool closed = false;
    std::array<TopoDS_Edge, 2> ends; ///< of an open one: edges of the faces at its ends that make way for it
    std::vector<TopoDS_Face> gone;   ///< what it takes the place of
    std::map<std::size_t, StripSpur> spurs{};             ///< by the joint
    std::vector<std::pair<TopoDS_Edge, TopoDS_Edge>> cut; ///< edges that end at a joint now, and what is left
};

/// An edge that ends sooner: at the parameter, in another corner. \param end where it ended
TopoDS_Edge cutOff(const TopoDS_Edge& edge, const TopoDS_Vertex& end, const TopoDS_Vertex& now,
                   double parameter);

/// \param off how far the new edges may lie from the faces beside them, mm
/// Errors: "strip.off" where they lie farther; "strip.failed" where no sound body comes of it.
Result<Body> withStrips(const Body& before, const std::vector<Strip>& strips, double off);

} // namespace gc
