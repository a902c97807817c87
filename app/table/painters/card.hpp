#pragma once
/// \file The card beside the drawing: what is loose, what clashes, what does not close, each with a way out.

#include "app/table/drawing_model.hpp"
#include "app/table/figures.hpp"
#include "app/table/table_view.hpp"

#include <QFont>
#include <QTimer>

class QPainter;

namespace gc::app {

class Card : public QObject {
    Q_OBJECT
  public:
    Card(DrawingModel* model, Figures* figures, QObject* parent);

    /// Where it would hide something of the drawing, or is in the way of what is being drawn, it folds to one
    /// line; pointed at, it opens. The sign in its corner folds it for good.
    struct Around {
        QPointF pointer;
        bool drawing = false;                        ///< places are being taken
        std::function<bool(const QRectF&)> covers{}; ///< would it hide something there?
    };
    void paint(QPainter& p, const TableView& view, const Around& around);
    bool isFolded() const { return m_isFolded; }
    /// What it takes when it is not folded; nothing when it was folded by hand.
    QRectF openRect(const TableView& view);
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
    struct Placed {
        QRectF rect;
        const Line* line;
        QFont font;
    };
    std::vector<Line> lines();
    std::vector<Placed> place(const std::vector<Line>& lines, const TableView& view, QRectF& whole) const;
    void paintFolded(QPainter& p, const TableView& view, const QString& words, QPointF pointer);
    void paintFoldSign(QPainter& p, QPointF pointer);
    void fold(bool on);
    void addNames(std::vector<Line>& lines);
    void addClashes(std::vector<Line>& lines);
    void addLoose(std::vector<Line>& lines);
    void addClosedness(std::vector<Line>& lines);

    DrawingModel* m_model;
    Figures* m_figures;
    std::vector<TableButton> m_buttons;
    QRectF m_rect; ///< empty when there is nothing to say
    bool m_foldedByHand = false, m_isFolded = false;
    const FreeMotion *m_shown = nullptr, *m_before = nullptr;
    QTimer m_swing;
    double m_phase = 0;
};

} // namespace gc::app
