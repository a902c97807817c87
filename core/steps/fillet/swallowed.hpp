#pragma once
/// \file For .cpp files: a round that uses up smaller rounds beside it. Built upon them the kernel is refused
/// or silently wrong; built together with them, from the body before they were there, it is exact
/// (docs/kernel.md).

#include "core/steps/shared/lifted_rounds.hpp"

namespace gc {

/// A body without the rounds that some chains would use up, and the chains to build on it: these, and the
/// sharp edges where the rounds were, with their radii and under their names. Nothing where no such round is
/// there, or the body does not close without it.
std::optional<Unrounded> withoutSwallowed(const Body& body, const std::vector<EdgeChain>& chains);

} // namespace gc
