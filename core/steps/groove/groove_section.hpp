#pragma once
/// \file For .cpp files: the section of a groove or a bead.

#include "core/steps/shared/drawn_section.hpp"
#include "core/steps/shared/profile.hpp"

#include <gp_Ax3.hxx>

#include <optional>
#include <vector>

namespace gc {

enum class GrooveShape { Round, Flat, Vee, Drawn };

/// mm; above the wall it goes on by a margin, so that the wall's own bend does not matter.
struct GrooveSection {
    GrooveShape shape = GrooveShape::Round;
    double width = 0, depth = 0, margin = 0;
    DrawnSection drawn{}; ///< of a drawn one, which goes on by the margin already

    /// Of those that are alike on both sides: one half of its border, from the middle of its bottom to its
    /// margin: (aside, above the wall).
    struct Piece {
        gp_Pnt2d to;
        std::optional<gp_Pnt2d> by{}; ///< of an arc: a place of it
    };
    std::vector<Piece> half() const;
    /// Half its width where it is widest.
    double reach() const;
};

/// Where a section stands: x is above the wall, y aside. Its sides are "side 1", left, "side 2", the bottom,
/// "side 3", right; "side 4" is above the wall. A drawn one has "line 12" for its stroke 12. \param up -1 for
/// a bead: mirrored in the wall
Profile profileOf(const GrooveSection& section, const gp_Ax3& at, double up);
/// The half of it on the right of its middle.
TopoDS_Face halfFaceOf(const GrooveSection& section, const gp_Ax3& at, double up);

} // namespace gc
