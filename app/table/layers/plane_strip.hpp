#pragma once
/// \file The strip above the drawing: in which plane it lies, which way round, and what is seen behind it.

#include "app/table/drawing_model.hpp"
#include "app/table/layers/ghost_layer.hpp"
#include "app/table/table_view.hpp"

namespace gc::app {

class PlaneStrip : public QObject {
    Q_OBJECT
  public:
    PlaneStrip(DrawingModel* model, GhostLayer* ghost, QWidget* table);

    void rebuild();
    /// \param room how far right it may go, pixels
    /// \param covers would it hide something of the drawing there?
    void paint(QPainter& p, double room, QPointF pointer, const std::function<bool(const QRectF&)>& covers);
    bool isFolded() const { return m_isFolded; }
    QRectF rect() const { return m_rect; }
    const std::vector<TableButton>& buttons() const { return m_buttons; }

  Q_SIGNALS:
    /// Pick the plane in the stand.
    void planePickAsked();

  private:
    void openMenu();

    DrawingModel* m_model;
    GhostLayer* m_ghost;
    QWidget* m_table;
    std::vector<TableButton> m_buttons;
    QRectF m_rect;
    bool m_isFolded = false;
};

} // namespace gc::app
