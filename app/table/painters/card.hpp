#pragma once
/// \file The card beside the drawing: what is loose, what clashes, what does not close, each with a way out.

#include "app/table/drawing_model.hpp"
#include "app/table/figures.hpp"
#include "app/table/table_view.hpp"

#include <QTimer>

class QPainter;

namespace gc::app {

class Card : public QObject {
    Q_OBJECT
  public:
    Card(DrawingModel* model, Figures* figures, QObject* parent);

    void paint(QPainter& p, const TableView& view, QPointF pointer);
    /// A third of a narrow table, so that the drawing keeps its room.
    static double widthIn(const TableView& view);
    const std::vector<TableButton>& buttons() const { return m_buttons; }
    QRectF rect() const { return m_rect; }
    /// What its lines speak of is not so any more.
    void forget();
    /// The pointer is elsewhere: no motion is shown until a line asks for one again.
    void pointerMoved() { m_before = std::exchange(m_shown, nullptr); }
    void pointerSettled();
    /// The motion that the pointer asks for, and how far along it swings now, pixels.
    const FreeMotion* motion() const { return m_shown; }
    double swing() const;

  Q_SIGNALS:
    void swung();

  private:
    struct Line {
        QString text;
        enum Role { Heading, Plain, Offer, Good, Bad } role = Plain;
        std::function<void()> action = {}, hovered = {};
    };
    std::vector<Line> lines();
    void addNames(std::vector<Line>& lines);
    void addClashes(std::vector<Line>& lines);
    void addLoose(std::vector<Line>& lines);
    void addClosedness(std::vector<Line>& lines);

    DrawingModel* m_model;
    Figures* m_figures;
    std::vector<TableButton> m_buttons;
    QRectF m_rect; ///< empty when there is nothing to say
    const FreeMotion *m_shown = nullptr, *m_before = nullptr;
    QTimer m_swing;
    double m_phase = 0;
};

} // namespace gc::app
