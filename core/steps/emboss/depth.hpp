#pragma once
/// \file For .cpp files: whether there is room for a relief, in the wall or in front of it.

#include "core/steps/shared/placing.hpp"

namespace gc {

/// Errors: "emboss.through" where the wall is thinner than the relief is deep, "emboss.meets" where something
/// stands in front of it, each with the place and with what fits.
std::optional<Error> whyNoRoom(const NamedShape& body, const std::vector<LaidArea>& areas,
                               const std::vector<TopoDS_Face>& walls, const LayingBy& by,
                               const ReliefShape& shape, int step);

} // namespace gc
