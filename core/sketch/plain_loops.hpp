#pragma once
/// \file Curves and areas of plain form, made of numbers alone.

#include "core/base/angles.hpp"
#include "core/sketch/region.hpp"

#include <cmath>

namespace gc {

inline Curve2 lineCurve(Vec2 from, Vec2 to) {
    Curve2 c;
    c.p = {from, to, Vec2{}, Vec2{}};
    return c;
}

/// A piece of a circle. \param from angle at which it begins, \param turn signed, rad
inline Curve2 roundCurve(Vec2 centre, double radius, double from = 0, double turn = 2 * kPi) {
    Curve2 c;
    c.kind = Curve2::Kind::Ellipse;
    c.p = {centre, Vec2{radius, 0}, Vec2{0, radius}, Vec2{}};
    c.from = from;
    c.turn = turn;
    return c;
}

/// \param corners counter-clockwise; their sides are the strokes 1, 2 and so on, each from its corner to the
/// next
inline Region polygonArea(const std::vector<Vec2>& corners) {
    Region out;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const Vec2 a = corners[i], b = corners[(i + 1) % corners.size()];
        out.outer.sides.push_back({static_cast<int>(i) + 1, lineCurve(a, b), false});
        out.outer.area += cross(a, b) / 2;
    }
    return out;
}

/// \param stroke what its one side is called
inline Region discArea(Vec2 centre, double radius, int stroke) {
    Region out;
    out.outer.sides.push_back({stroke, roundCurve(centre, radius), false});
    out.outer.area = kPi * radius * radius;
    return out;
}

} // namespace gc
