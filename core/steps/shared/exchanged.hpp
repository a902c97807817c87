#pragma once
/// \file For .cpp files: a solid with a face exchanged for others that share its edges.

#include <TopoDS_Face.hxx>
#include <TopoDS_Solid.hxx>

#include <optional>
#include <vector>

namespace gc {

/// \param instead as they are to lie in the solid Nothing where it is no single solid.
std::optional<TopoDS_Solid> withInstead(const TopoDS_Shape& solid, const TopoDS_Face& of,
                                        const std::vector<TopoDS_Shape>& instead);

} // namespace gc
