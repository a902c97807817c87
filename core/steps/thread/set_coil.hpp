#pragma once
/// \file For .cpp files: threads set onto a round wall, sharing edges with it: no boolean.

#include "core/shape/kernel.hpp"
#include "core/steps/thread/coil.hpp"

namespace gc {

/// \param wall the face that they are on, by number; it goes all the way round \param coils of simple
/// profiles, beside one another. Nothing where the wall has something else at their level, or a coil's end
/// lies where it closes up.
std::optional<Body> setOnto(const Body& body, int wall, const std::vector<CoilShape>& coils, int step);

} // namespace gc
