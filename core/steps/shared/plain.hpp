#pragma once
/// \file For .cpp files: sections along lines and arcs, by the kernel, which makes planes, cylinders and tori
/// of them.

#include "core/steps/shared/ended_solid.hpp"
#include "core/steps/shared/path.hpp"
#include "core/steps/shared/profile.hpp"

namespace gc {

/// Lines and arcs only, without corners.
bool isPlain(const std::vector<PathPiece>& pieces);

/// Nothing where the kernel fails, or its result is not sound.
std::optional<Swept> plainSweep(const Profile& profile, const std::vector<PathPiece>& pieces, bool closed);

} // namespace gc
