#pragma once
/// \file For .cpp files: a wall or a gap so thin that nobody means it, left beside what a step adds or takes.

#include "core/steps/shared/rooting.hpp"

namespace gc {

/// Thinner than anybody would mould or print, mm.
constexpr double kSliver = 0.2;

/// What is added leaves a gap of at most kSliver between one of its flat faces and the body, all over that
/// face, or one that nearly closes at one side of a wall that leans away.
std::optional<Lacking> gapLeft(const NamedTool& tool, const std::vector<Gap>& gaps);

/// What is taken leaves a wall of at most kSliver behind all of one of its flat faces that lies within the
/// body. Throws what the kernel throws.
std::optional<Lacking> wallLeft(const Body& body, const NamedTool& tool);

} // namespace gc
