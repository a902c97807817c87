#pragma once
/// \file For .cpp files: rounds that run from a face to one that does not meet it: what lies between them, a
/// chamfer or a ledge, is eaten.

#include "core/steps/shared/edge_work.hpp"

namespace gc {

/// From one face to another by one radius, over what lies between them.
/// Errors: "fillet.apart" where no ball rolls along both; "fillet.small" where something of what lies between
/// would stay; those of a round.
Result<Body> roundedAcross(const Body& body, const TopoDS_Face& one, const TopoDS_Face& other, double radius,
                           int step);

/// Chains beside faces that are narrower than their rounds: from the faces beside these to those beyond. The
/// other chains as they are. Nothing where no face is so narrow, or where it cannot be done whole.
std::optional<Body> roundedOverNarrow(const Body& body, const std::vector<EdgeChain>& chains, int step);

} // namespace gc
