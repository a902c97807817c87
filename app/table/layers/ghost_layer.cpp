#include "app/table/layers/ghost_layer.hpp"
#include "app/look/points.hpp"

#include "app/look/theme.hpp"

#include <QPainter>
#include <QWidget>

namespace gc::app {

GhostLayer::GhostLayer(QWidget* table) : QObject(table), m_table(table) {
    m_soon.setSingleShot(true);
    m_soon.setInterval(60);
    connect(&m_soon, &QTimer::timeout, this, &GhostLayer::refresh);
}

void GhostLayer::setPlane(const Plane& plane) {
    m_plane = plane;
    stale();
}

void GhostLayer::stale() {
    m_picture = {};
    m_seen = {};
    m_hasPart = corners && !corners().empty();
    Q_EMIT changed();
}

void GhostLayer::turnOn(bool on) {
    m_on = on;
    Q_EMIT changed();
}

void GhostLayer::cutOpen(bool cut) {
    m_cut = cut;
    stale();
}

/// The part is drawn anew when the view has come to rest; until then its picture moves along.
void GhostLayer::refresh() {
    if (!draw || !m_table->isVisible()) return;
    Camera camera;
    camera.straight = {toQt(m_plane.normal()), toQt(m_plane.up)};
    camera.height = static_cast<float>(m_view.size.height() / m_view.scale);
    camera.centre = toQt(m_plane.at(m_view.toDrawing(m_table->rect().center())));
    std::optional<QVector4D> cut;
    if (m_cut) { // a hair before the plane, so that what lies in it is cut through
        constexpr double kHair = 0.003;
        const Vec3 n = m_plane.normal();
        cut = QVector4D(toQt(-n), static_cast<float>(dot(n, m_plane.origin) + kHair));
    }
    m_picture = draw(camera, m_view.size * m_table->devicePixelRatio(), cut);
    m_seen = m_view;
    Q_EMIT changed();
}

void GhostLayer::paint(QPainter& p, const TableView& view) {
    m_view = view;
    if (!m_on) return;
    if (!(m_seen == view)) m_soon.start();
    if (m_picture.isNull()) return;
    const double k = view.scale / m_seen.scale;
    const QPointF at = view.zero - m_seen.zero * k;
    p.setOpacity(theme().dark ? 0.34 : 0.3);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(QRectF(at, QSizeF(m_seen.size) * k), m_picture);
    p.setOpacity(1);
}

} // namespace gc::app
