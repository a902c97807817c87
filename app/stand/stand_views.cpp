// From where the stand looks.

#include "app/stand/stand.hpp"

#include <algorithm>
#include <cmath>

namespace gc::app {

bool Stand::allInView() const {
    constexpr double kSlack = 6; // px: no jump for a hair
    const auto& e = m_renderer.extent();
    const QRectF seen = QRectF(rect()).adjusted(-kSlack, -kSlack, kSlack, kSlack);
    for (const float x : {e.low.x(), e.high.x()})
        for (const float y : {e.low.y(), e.high.y()})
            for (const float z : {e.low.z(), e.high.z()})
                if (!seen.contains(screenOf({x, y, z}))) return false;
    return true;
}

void Stand::beginPart() {
    m_blank = true;
    m_meshesStale = true;
    m_fitted = m_moved = false;
    m_lost.reset();
    setOverlay(Overlay::None);
}

void Stand::fit() {
    const auto& e = m_renderer.extent();
    if (e.empty()) return;
    const bool fromSide = m_camera.pitch > -1 && m_camera.pitch < 60;
    const float aspect = static_cast<float>(width()) / static_cast<float>(std::max(1, height()));
    const float flat = std::max(e.high.x() - e.low.x(), e.high.y() - e.low.y());
    // Room for the companion too, as long as that does not make the part small.
    const float wide = std::max(flat * 1.25f, fromSide && flat > 70 && flat < 400 ? 190.f : 0.f);
    m_camera.centre = e.centre() - QVector3D(0, 0, fromSide ? e.size() * 0.06f : 0);
    m_camera.height = std::max({e.size() * 1.06f, wide / aspect, 10.f});
    // Nothing of it behind the row of buttons.
    constexpr float kButtons = 56, kScale = 52; // pixels, above and below
    m_camera.keepBetween(e.low, e.high, kButtons, static_cast<float>(height()) - kScale, size());
    m_moved = false;
    m_idsStale = true;
    update();
}

void Stand::lookFrom(int sight) {
    static constexpr float views[7][2] = {{-90, 0},  {90, 0},    {180, 0}, {0, 0},
                                          {-90, 90}, {-90, -90}, {-62, 24}};
    if (sight < 1 || sight > 7) return;
    m_keyAt = {};
    m_camera.yaw = views[sight - 1][0];
    m_camera.pitch = views[sight - 1][1];
    fit();
}

void Stand::flyTo(const QVector3D& point) {
    // Turn so that the place is in front, and come nearer, without losing sight of the whole.
    const auto& e = m_renderer.extent();
    const QVector3D out = point - QVector3D(e.centre().x(), e.centre().y(), point.z());
    const Camera from = m_camera;
    Camera to = m_camera;
    if (out.length() > 1) to.yaw = std::atan2(out.y(), out.x()) * 180.f / static_cast<float>(M_PI) + 25.f;
    to.pitch = 22;
    const float aspect = static_cast<float>(width()) / static_cast<float>(std::max(1, height()));
    to.height = std::max({e.size() * 0.8f, 0.85f * e.size() / aspect, 10.f});
    to.centre = point * 0.4f + e.centre() * 0.6f;
    m_moved = true;
    const float turn = std::remainder(to.yaw - from.yaw, 360.f);
    m_flight.stop();
    m_flight.disconnect(this);
    connect(&m_flight, &QVariantAnimation::valueChanged, this, [this, from, to, turn](const QVariant& v) {
        const float t = v.toFloat(), s = t * t * (3 - 2 * t);
        m_camera.yaw = from.yaw + turn * s;
        m_camera.pitch = from.pitch + (to.pitch - from.pitch) * s;
        m_camera.height = from.height + (to.height - from.height) * s;
        m_camera.centre = from.centre + (to.centre - from.centre) * s;
        m_idsStale = true;
        update();
    });
    m_flight.start();
}

} // namespace gc::app
