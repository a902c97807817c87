#pragma once
/// \file For .cpp files: what is swept: the border of an area, in the directions of the path's start.

#include "core/steps/shared/frames.hpp"
#include "core/steps/shared/profile.hpp"

namespace gc {

struct SectionEdge {
    LengthCurve curve; ///< in space, where the section stands at the start
    std::vector<std::string> roles;
    bool closed() const { return curve.start().Distance(curve.end()) < 1e-7; }
};

struct Section {
    TopoDS_Face face;
    std::vector<std::vector<SectionEdge>> loops; ///< the outer one first; material on the left, seen against
                                                 ///< the face's normal
    /// Places along its border, this many for each of its edges, and where these break.
    std::vector<gp_Pnt> border(int each) const;
    gp_Vec normal() const;
};

/// \param profile where it was drawn, or where it was brought to
Section sectionOf(const Profile& profile);

/// The same with its border the other way round where its normal looks against a direction.
Section facing(Section section, const gp_Vec& along);

/// Brings what was drawn anywhere onto the path's start: the shortest turn of its normal, or of the other
/// way, whichever is nearer, onto the tangent, then a point of it onto the start.
gp_Trsf placingOnto(const Path& path, const gp_Vec& normal, const gp_Pnt& point);

} // namespace gc
