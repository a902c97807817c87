#pragma once
/// \file For .cpp files: whether rounds are what was asked for. The kernel can come out silently wrong, above
/// all where a radius uses up a smaller round beside it.

#include "core/shape/kernel.hpp"

#include <BRepFilletAPI_MakeFillet.hxx>

#include <functional>

namespace gc {

/// From every round the centre of its ball lies a radius from both faces beside the edge, within 2 %, and it
/// runs on from them within a degree. \param radius of a contour; 0 where it changes along it: then only the
/// latter is asked
bool touchesBothSides(BRepFilletAPI_MakeFillet& fillet, const NamedShape& before, const TopoDS_Shape& after,
                      const std::function<double(int contour)>& radius);

} // namespace gc
