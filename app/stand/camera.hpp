#pragma once
/// \file Where the stand is looked at from: parallel projection, so that the scale bar holds everywhere.

#include <QMatrix4x4>
#include <QPointF>
#include <QSize>
#include <QVector3D>

#include <optional>
#include <utility>

namespace gc::app {

struct Camera {
    float yaw = -60, pitch = 22; ///< degrees: 0/0 looks from +x; pitch above the ground
    float height = 160;          ///< mm that the view shows from bottom to top
    QVector3D centre{0, 0, 0};
    /// Where the eye is and what is up on the screen, instead of yaw and pitch.
    std::optional<std::pair<QVector3D, QVector3D>> straight;

    QVector3D direction() const; ///< from the centre towards the eye
    QMatrix4x4 view() const;
    QMatrix4x4 projection(QSize size) const;
    QMatrix4x4 both(QSize size) const { return projection(size) * view(); }
    QPointF project(const QVector3D& p, QSize size) const;
    /// The point under a pixel at a depth from 0 to 1.
    QVector3D unproject(QPointF pixel, float depth, QSize size) const;
    float mmPerPixel(QSize size) const { return height / static_cast<float>(std::max(1, size.height())); }

    /// Turns about a point that stays where it is on the screen.
    void orbit(float dYaw, float dPitch, const QVector3D& pivot);
    void zoom(float factor, QPointF pixel, QSize size);
    void pan(QPointF pixels, QSize size);

    /// Moved down, and farther away if need be, until a box lies below a level of the screen and above
    /// another.
    void keepBetween(const QVector3D& low, const QVector3D& high, float top, float bottom, QSize size);

    static constexpr float kDepth = 4000;
    float deep = kDepth; ///< mm that are seen before and behind the centre; twice what is larger
};

} // namespace gc::app
