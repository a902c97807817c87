#pragma once
/// \file For .cpp files: copies of a detail set into the faces that it stands in, sharing edges with them: no
/// boolean.

#include "core/steps/repeat/detail.hpp"
#include "core/steps/repeat/placements.hpp"

namespace gc {

/// Where every mouth lies within its face and none meets another. Nothing where a face cannot take them: they
/// lie over where it closes up, or its shell is another.
std::optional<Body> setInto(const NamedShape& shape, const Detail& detail,
                            const std::vector<Placement>& placements, int step);

/// The same by one boolean of the kernel with all copies as tools; also over borders. Errors: the kernel's.
Result<Body> addedOrTaken(const NamedShape& shape, const Detail& detail,
                          const std::vector<Placement>& placements, int step);

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

/// By one boolean each. \param alike every copy adds or takes as much as the detail itself
struct CopiedAtBorder {
    Body body;
    bool alike = true;
};
Result<CopiedAtBorder> copiedAtBorder(const Body& body, const AtBorder& detail,
                                      const std::vector<Placement>& placements, int step);

/// Every face of a copy is a copy of the detail's, at its place.
void nameCopy(NameBuilder& names, const NamedShape& before, const TopoDS_Shape& of, const TopoDS_Shape& face,
              const std::string& place, int step);

} // namespace gc
