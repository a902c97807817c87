#pragma once
/// \file For .cpp files: an outline as a kernel face in the half plane x >= 0, y = 0, with the role of the
/// face that each of its edges makes when it is turned.

#include "core/model/model.hpp"
#include "core/shape/kernel.hpp"

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Trsf.hxx>

namespace gc {

struct ProfileEdge {
    TopoDS_Edge edge;
    /// Of the face that it makes: "wall", "side 12"; of a stroke that was cut off another also "side 5". None
    /// on the axis when it is turned.
    std::vector<std::string> roles;
    bool onAxis = false;
};

struct Profile {
    TopoDS_Face face;
    std::vector<ProfileEdge> edges;
};

/// All of it at once: what is moved by itself would be in another place for the kernel.
Profile moved(Profile profile, const gp_Trsf& by);

/// A stroke as one edge, in the front plane.
TopoDS_Edge edgeOfStroke(const std::vector<Curve2>& curves);

/// Where the outline's plane puts it: through stations, or the first area of a drawing. Throws what the
/// kernel throws; see whyNotRevolve for what is asked before.
Profile profileOf(const Outline& outline);
/// One area of a drawing.
Profile profileOf(const Outline& outline, const Region& area);

} // namespace gc
