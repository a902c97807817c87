#pragma once
/// \file For .cpp files of this folder: copies of a detail set into the faces that it stands in, sharing
/// edges with them: no boolean.

#include "core/steps/repeat/fitting.hpp"
#include "core/steps/shared/copied_detail.hpp"

namespace gc {

/// Where every mouth lies within its face and none meets another. Nothing where a face cannot take them: they
/// lie over where it closes up, or its shell is another.
std::optional<Body> setInto(const NamedShape& shape, const Detail& detail,
                            const std::vector<Placement>& placements, int step);

/// The same of copies that were fitted to the walls. \param own the detail itself, fitted where it was: it
/// takes the place of another, with its rounds
struct OwnCopy {
    const Detail* instead = nullptr;
    FittedCopy copy;
};
std::optional<Body> setInto(const NamedShape& shape, const Detail& detail,
                            const std::vector<Placement>& placements, const std::vector<FittedCopy>& copies,
                            const std::optional<OwnCopy>& own, int step);

} // namespace gc
