#pragma once
/// \file For .cpp files: a body with faces exchanged for others that share their edges.

#include "core/shape/kernel.hpp"

#include <TopoDS_Face.hxx>

#include <optional>
#include <utility>
#include <vector>

namespace gc {

struct FacesInstead {
    TopoDS_Face of;
    std::vector<std::pair<TopoDS_Shape, NameList>> faces; ///< as they are to lie in the solid
};

/// The other faces keep their names. \param frame in which the step works, where it parts anything
/// Nothing where the body is no single solid, or what comes of it has faults.
std::optional<Body> exchanged(const Body& body, const std::vector<FacesInstead>& all, int step,
                              const std::optional<Plane>& frame = {});

} // namespace gc
