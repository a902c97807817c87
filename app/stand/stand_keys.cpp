// Picking without a mouse: arrows go from item to item, Space picks.

#include "app/stand/stand.hpp"

#include <QKeyEvent>

#include <algorithm>
#include <cmath>

namespace gc::app {

namespace {

std::optional<QPointF> directionOf(int key) {
    switch (key) {
    case Qt::Key_Left:
        return QPointF(-1, 0);
    case Qt::Key_Right:
        return QPointF(1, 0);
    case Qt::Key_Up:
        return QPointF(0, -1);
    case Qt::Key_Down:
        return QPointF(0, 1);
    default:
        return std::nullopt;
    }
}

/// The place that lies best in a direction: ahead counts, aside counts against it.
std::optional<QPoint> nextPlace(const std::vector<QPoint>& places, QPoint from, QPointF way) {
    constexpr double kAside = 2.5, kLeast = 2; // kLeast: pixels
    std::optional<QPoint> best;
    double least = 1e300;
    for (const QPoint& p : places) {
        const QPointF by = p - from;
        const double ahead = QPointF::dotProduct(by, way);
        const double aside = std::fabs(by.x() * way.y() - by.y() * way.x());
        if (ahead < kLeast || aside > 2 * ahead) continue;
        const double cost = ahead + kAside * aside;
        if (cost < least) least = cost, best = p;
    }
    return best;
}

} // namespace

bool Stand::pickByKey(int key) {
    const bool edges = m_picking == Picking::Edges;
    if (!edges && m_picking != Picking::Faces && m_picking != Picking::Planes) return false;
    if (key == Qt::Key_Space) {
        if (m_keyAt.isNull()) return false;
        m_clicked = m_keyAt;
        answerClick();
        return true;
    }
    const auto way = directionOf(key);
    if (!way) return false;
    refreshIds();
    const std::vector<QPoint> places = m_renderer.placesOfItems(edges, m_picking == Picking::Planes);
    if (places.empty()) return true;
    std::optional<QPoint> next;
    if (m_keyAt.isNull()) { // the first: nearest to the middle
        const QPoint middle = rect().center();
        next = *std::min_element(places.begin(), places.end(), [&](QPoint a, QPoint b) {
            return (a - middle).manhattanLength() < (b - middle).manhattanLength();
        });
    } else {
        next = nextPlace(places, m_keyAt, *way);
    }
    if (!next) return true; // there is none further that way
    m_keyAt = m_pointer = *next;
    hover(*next);
    update();
    return true;
}

void Stand::keyPressEvent(QKeyEvent* e) {
    if (!pickByKey(e->key())) QOpenGLWidget::keyPressEvent(e);
}

} // namespace gc::app
