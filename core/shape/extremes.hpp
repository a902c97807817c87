#pragma once
/// \file How far faces and edges reach along the axes.

#include "core/shape/body.hpp"

class TopoDS_Face;
class TopoDS_Shape;
class TopoDS_Edge;

namespace gc {

/// The tight box around a shape, from its exact geometry.
Box extentOf(const TopoDS_Shape& shape, const Stop& stop = {});

/// A larger one, soon found: from the kernel's own boxes. Empty for an empty shape.
Box looseExtentOf(const TopoDS_Shape& shape);

/// Widens the box by an edge: its ends, and where its tangent is square to an axis.
void addExtremes(Box& box, const TopoDS_Edge& edge);
/// Widens the box by what lies within a face: where its normal is along an axis. Its edges are not looked at.
/// All of a face lies within the box of its edges and of these places. Exact to about 1e-9 of its size.
void addInnerExtremes(Box& box, const TopoDS_Face& face);

} // namespace gc
