#pragma once
/// \file For .cpp files: what a round takes off along a straight or a circular edge, as a solid of its own:
/// its section is the same everywhere, between flat and round faces that run along the edge.

#include "core/steps/fillet/swept_section.hpp"
#include "core/steps/shared/edge_work.hpp"

#include <array>

namespace gc {

/// What lies between an edge, the faces beside it and the ball's way along it, far beyond the edge's ends.
struct RoundSliver {
    TopoDS_Shape solid;
    TopoDS_Face round;              ///< of the solid: along the ball's way
    std::vector<TopoDS_Face> ends;  ///< of the solid; none where it goes all the way round
    std::vector<TopoDS_Face> walls; ///< of the solid: on the two faces, in the order of facesBeside
    /// Places across each of the faces from the edge to the rail, at a share of the edge's length.
    std::array<std::vector<gp_Pnt>, 2> across(double share) const;

    /// A place within the solid, beside the edge.
    gp_Pnt withinAt(double share) const { return within.Transformed(alongEdge(edge, share)); }

    TopoDS_Edge edge;
    std::array<std::vector<gp_Pnt>, 2> atMiddle; ///< as across, in the edge's middle
    gp_Pnt within;                               ///< the same of withinAt
};

/// Nothing where the section is not the same all along, or the ball does not fit between the faces.
/// \param radius mm
std::optional<RoundSliver> roundSliver(const NamedShape& s, const TopoDS_Edge& edge, double radius);

} // namespace gc
