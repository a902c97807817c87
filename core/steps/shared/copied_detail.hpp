#pragma once
/// \file For .cpp files: copies of a detail elsewhere on its body, by booleans: what it adds or takes is held
/// against the body.

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/detail.hpp"

#include <gp_Trsf.hxx>

namespace gc {

/// One copy: how it lies from what is repeated, and what it is called by, "place 2" or "row 2 place 3"; an
/// image beyond a plane has no such words.
struct Placement {
    gp_Trsf by;
    std::string place;
    int number = 1; ///< of its place: 1 is the detail's own; in rows they go on from row to row
};

/// Does it, or a piece of it, take something? Else it adds only.
bool takesAway(const Detail& detail);

/// By booleans of the kernel with all copies as tools, each piece of the detail one of its own; also over
/// borders. Errors: the kernel's.
Result<Body> addedOrTaken(const Body& body, const Detail& detail, const std::vector<Placement>& placements,
                          int step);

/// All of them by one boolean, without a proof of it. Error "repeat.failed".
Result<Body> workedIn(const NamedShape& shape, const std::vector<NamedTool>& tools, bool takes);
/// What a face of a copy is called, by the names of the one that it is a copy of.
NameList copyNames(const NameList& of, const Placement& placement, int step);

/// A detail that runs out at a border of what it is in: what it adds and what it takes, held against the body
/// without it.
struct AtBorder {
    struct Solid {
        Body body;
        bool takes = false;
    };
    std::vector<Solid> solids; ///< none where the body does not close without the detail
    std::optional<TopoDS_Shape> whole() const;
};
AtBorder atBorder(const Body& body, const TopTools_IndexedMapOfShape& faces, int step);

/// By one boolean each. \param alike as much is seen of every copy as of the detail itself
struct CopiedAtBorder {
    Body body;
    bool alike = true;
};
/// \param faces the detail's
Result<CopiedAtBorder> copiedAtBorder(const Body& body, const TopTools_IndexedMapOfShape& faces,
                                      const AtBorder& detail, const std::vector<Placement>& placements,
                                      int step);

/// A detail's faces, with the rounds and chamfers at them, copied as the one or the other of these. Errors:
/// those of detailOf where the body has no shape without them, either.
Result<CopiedAtBorder> detailCopied(const Body& body, const std::vector<int>& faces,
                                    const std::vector<Placement>& placements, int step);

} // namespace gc
