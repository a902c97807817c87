#pragma once
/// \file The part behind the drawing, as a pale picture.

#include "app/stand/camera.hpp"
#include "app/table/table_view.hpp"
#include "core/base/plane.hpp"

#include <QImage>
#include <QTimer>
#include <QVector4D>

#include <optional>

class QPainter;

namespace gc::app {

class GhostLayer : public QObject {
    Q_OBJECT
  public:
    explicit GhostLayer(QWidget* table);

    /// Draws the part from anywhere, on nothing; cut: what lies before the plane is left out.
    std::function<QImage(const Camera&, QSize, std::optional<QVector4D> cut)> draw;
    /// The corners of the box around the part.
    std::function<std::vector<QVector3D>()> corners;

    void setPlane(const Plane& plane);
    const Plane& plane() const { return m_plane; }
    /// The part is another, or lies otherwise.
    void stale();
    bool hasPart() const { return m_hasPart; }
    bool isOn() const { return m_on; }
    bool isCut() const { return m_cut; }
    void turnOn(bool on);
    void cutOpen(bool cut);
    bool isSeen() const { return m_on && !m_picture.isNull(); }
    void paint(QPainter& p, const TableView& view);

  Q_SIGNALS:
    void changed();

  private:
    void refresh();

    QWidget* m_table;
    Plane m_plane;
    bool m_on = true, m_cut = false, m_hasPart = false;
    QImage m_picture;
    TableView m_seen; ///< how the view lay when it was drawn
    TableView m_view; ///< now
    QTimer m_soon;
};

} // namespace gc::app
