#include "app/stand/camera.hpp"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace gc::app {

namespace {
constexpr float kRadians = static_cast<float>(M_PI) / 180.f;
}

QVector3D Camera::direction() const {
    if (straight) return straight->first;
    const float y = yaw * kRadians, p = pitch * kRadians;
    return {std::cos(p) * std::cos(y), std::cos(p) * std::sin(y), std::sin(p)};
}

QMatrix4x4 Camera::view() const {
    QMatrix4x4 m;
    const QVector3D up =
        straight ? straight->second
        : std::fabs(pitch) > 89.f
            ? QVector3D(-std::cos(yaw * kRadians), -std::sin(yaw * kRadians), 0) * (pitch > 0 ? 1.f : -1.f)
            : QVector3D(0, 0, 1);
    m.lookAt(centre + direction() * deep, centre, up);
    return m;
}

QMatrix4x4 Camera::projection(QSize size) const {
    QMatrix4x4 m;
    const float aspect = static_cast<float>(size.width()) / static_cast<float>(std::max(1, size.height()));
    m.ortho(-height * aspect / 2, height * aspect / 2, -height / 2, height / 2, 0, 2 * deep);
    return m;
}

QPointF Camera::project(const QVector3D& p, QSize size) const {
    const QVector3D q = both(size).map(p);
    return {(q.x() + 1.f) * 0.5 * size.width(), (1.f - q.y()) * 0.5 * size.height()};
}

QVector3D Camera::unproject(QPointF pixel, float depth, QSize size) const {
    const QVector3D ndc(static_cast<float>(2 * pixel.x() / size.width() - 1),
                        static_cast<float>(1 - 2 * pixel.y() / size.height()), 2 * depth - 1);
    return both(size).inverted().map(ndc);
}

void Camera::orbit(float dYaw, float dPitch, const QVector3D& pivot) {
    const QVector3D before = view().mapVector(pivot - centre);
    yaw = std::remainder(yaw + dYaw, 360.f);
    pitch = std::clamp(pitch + dPitch, -90.f, 90.f);
    centre = pivot - view().inverted().mapVector(before);
}

void Camera::zoom(float factor, QPointF pixel, QSize size) {
    const QVector3D under = unproject(pixel, 0.5f, size);
    height = std::clamp(height * factor, 0.5f, std::max(5000.f, deep));
    centre += under - unproject(pixel, 0.5f, size);
}

void Camera::pan(QPointF pixels, QSize size) {
    centre += unproject({0, 0}, 0.5f, size) - unproject(pixels, 0.5f, size);
}

void Camera::keepBetween(const QVector3D& low, const QVector3D& high, float top, float bottom, QSize size) {
    const auto reach = [&] {
        double above = 1e9, below = -1e9;
        for (int corner = 0; corner < 8; ++corner) {
            const QVector3D p(corner & 1 ? high.x() : low.x(), corner & 2 ? high.y() : low.y(),
                              corner & 4 ? high.z() : low.z());
            const double y = project(p, size).y();
            above = std::min(above, y), below = std::max(below, y);
        }
        return std::pair{above, below};
    };
    auto [above, below] = reach();
    if (above >= top || bottom <= top) return;
    height *= std::max(1.f, static_cast<float>(below - above) / (bottom - top));
    std::tie(above, below) = reach();
    pan({0, top - above}, size);
}

} // namespace gc::app
