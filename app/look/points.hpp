// Points and ways between core's types and those that are drawn with.
#pragma once

#include "core/base/vec.hpp"

#include <QLineF>
#include <QPointF>
#include <QRectF>
#include <QVector3D>
#include <algorithm>
#include <array>
#include <cmath>

namespace gc::app {

inline QVector3D toQt(const Vec3& v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

/// Length of a way on the screen, px.
inline double lengthOf(QPointF way) {
    return std::hypot(way.x(), way.y());
}

/// The least of 1, 2, 5 times a power of ten that is not smaller.
inline double roundStep(double least) {
    constexpr double kJust = 1e-9; // what just fits does
    const double ten = std::pow(10, std::floor(std::log10(least)));
    for (const double k : {1.0, 2.0, 5.0})
        if (k * ten >= least * (1 - kJust)) return k * ten;
    return 10 * ten;
}

/// Does a line run through a box on the screen?
inline bool crosses(const QLineF& line, const QRectF& box) {
    if (box.contains(line.p1()) || box.contains(line.p2())) return true;
    const QPointF a = box.topLeft(), b = box.topRight(), c = box.bottomRight(), d = box.bottomLeft();
    const std::array sides{QLineF(a, b), QLineF(b, c), QLineF(c, d), QLineF(d, a)};
    return std::any_of(sides.begin(), sides.end(), [&](const QLineF& side) {
        return line.intersects(side, nullptr) == QLineF::BoundedIntersection;
    });
}

} // namespace gc::app
