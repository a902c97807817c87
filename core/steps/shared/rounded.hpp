#pragma once
/// \file For .cpp files: edges of a body rounded by a rolling ball, all of them or none.

#include "core/steps/shared/edge_chains.hpp"

namespace gc {

/// All of them in one go, as the kernel does it, and looked at from both sides.
/// \param added what holds some of these chains of the body already, and no others; it is built
/// Errors: "fillet.too-large", "fillet.smooth".
Result<Body> rounded(const Body& body, const std::vector<EdgeChain>& chains, int step,
                     BRepFilletAPI_MakeFillet* added = nullptr);

} // namespace gc
