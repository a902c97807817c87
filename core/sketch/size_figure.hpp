#pragma once
/// \file How a dimension is drawn, and which dimension a person means.

#include "core/sketch/drawing.hpp"
#include "core/units/expression.hpp"

#include <optional>

namespace gc {

/// Hairlines and the place of the figure, mm.
struct DimensionShape {
    std::vector<std::vector<Vec2>> lines;     ///< open polylines
    std::vector<std::pair<Vec2, Vec2>> ticks; ///< where a line ends: the place, and the direction of the line
    Vec2 figure;
    Vec2 middle; ///< of what it measures; Relation::label is taken from here
};

/// \param away how far from what it measures the figure stands when the relation does not say, mm
DimensionShape dimensionShape(const Drawing& drawing, const Relation& dimension, double away);

/// The dimension that one or two chosen things and a place for its figure suggest: the length of a line, the
/// diameter of a circle, about the axis, the angle of two lines … Nothing where none fits. Without an id.
/// \param overAll to the outermost places of circles and arcs instead of their centres
std::optional<Relation> dimensionFor(const Drawing& drawing, const std::vector<int>& of, Vec2 place,
                                     bool overAll = false);

/// Does it make a difference for these whether they are measured over all?
bool hasOverAll(const Drawing& drawing, const std::vector<int>& of);

/// Can a stroke be told how wide it is at a height? Curves of any kind but fair ones, which have stations.
bool hasWidths(const Drawing& drawing, int stroke);

/// A point on a curve with its height over the level line and its diameter about the axis.
struct CurveWidth {
    int point = 0, height = 0, diameter = 0; ///< ids; 0 when the curve is not that high anywhere
};
/// Adds one where the curve is nearest to the place, both sizes as they are now.
CurveWidth widthAt(Drawing& drawing, int stroke, Vec2 place, const UnitSystem& units);

} // namespace gc
