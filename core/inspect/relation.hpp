#pragma once
/// \file What picked things measure, and how they lie to each other: points, edges, faces, drawn lines and
/// curves in space, whole bodies.

#include "core/shape/body.hpp"
#include "core/shape/space_curve.hpp"

#include <optional>

namespace gc {

struct PickedThing {
    enum class Kind { Point, Edges, Faces, Curve, Body };
    Kind kind = Kind::Point;
    Vec3 point;               ///< Point: mm
    gc::Body body{};          ///< of edges, faces and bodies
    std::vector<int> items{}; ///< edges or faces, numbers in the kernel's map from 0
    SpaceCurve curve{};       ///< Curve
};

/// One value of them. Keys: "radius", "diameter", "length", "area", "volume"; of two: "distance",
/// "least distance", "angle".
struct Reading {
    std::string key;
    double value = 0;       ///< mm, mm², mm³, rad
    std::optional<Vec3> at; ///< where it is
    std::optional<Vec3> to; ///< of a length: its other end
};

/// Of one thing. Round edges, faces and curves have a radius, edges and curves a length, faces an area; all
/// edges or faces of the thing together. A body has an area and a volume.
std::vector<Reading> readingsOf(const PickedThing& thing);

/// Of two. The distance is that of what they stand for: of parallel planes square to them, of axes and
/// centres between these, of a point to a plane or an axis; it is left out where the two cross or slant. The
/// least distance is that of the things themselves. The angle is between their planes or axes, at most a
/// right one.
std::vector<Reading> readingsOf(const PickedThing& a, const PickedThing& b);

} // namespace gc
