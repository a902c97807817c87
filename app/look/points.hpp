// Points and ways between core's types and those that are drawn with.
#pragma once

#include "core/base/vec.hpp"

#include <QPointF>
#include <QVector3D>
#include <cmath>

namespace gc::app {

inline QVector3D toQt(const Vec3& v) {
    return {static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
}

/// Length of a way on the screen, px.
inline double lengthOf(QPointF way) {
    return std::hypot(way.x(), way.y());
}

} // namespace gc::app
