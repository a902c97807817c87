#pragma once
/// \file The drawing table: a drawing seen straight on, with tools to draw, relate and dimension.

#include "app/table/drawing_model.hpp"
#include "core/sketch/offer.hpp"
#include "core/sketch/size_figure.hpp"

#include <QLineEdit>
#include <QTimer>
#include <QWidget>

class QPainter;
class QPainterPath;

namespace gc::app {

enum class Tool { Choose, Line, Arc, Circle, Ellipse, Rectangle, Slot, Conic, Spline, Point, Dimension };

struct ToolWords {
    Tool tool;
    QString key, label, tip, group;
};
const QList<ToolWords>& allTools();

class DrawingTable : public QWidget {
    Q_OBJECT
  public:
    explicit DrawingTable(DrawingModel* model, QWidget* parent = nullptr);

    void setTool(Tool tool);
    Tool tool() const { return m_tool; }
    /// Brings all of the drawing into view.
    void fit();
    QPointF toScreen(Vec2 p) const;
    Vec2 toDrawing(QPointF p) const;
    QLineEdit* editor() const { return m_editor; }
    /// For tests: where something that can be clicked is; empty when it is not there.
    QRectF chipRect(const QString& label) const;
    QRectF cardRect(const QString& words) const;
    QPointF figureAt(int relation) const;
    QPointF markOf(int relation) const;

  Q_SIGNALS:
    void toolChanged(Tool tool);
    void message(const QString& text);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void wheelEvent(QWheelEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;
    bool eventFilter(QObject* o, QEvent* e) override;
    /// In a chain Tab chooses between line and arc.
    bool focusNextPrevChild(bool next) override {
        return m_chainEnd ? false : QWidget::focusNextPrevChild(next);
    }

  private:
    /// Something painted that answers a click.
    struct Button {
        QRectF rect;
        QString label;
        std::function<void()> action;
        std::function<void()> hovered; ///< may be empty
    };

    double reach() const { return 9 / m_scale; }
    void look(QPointF pointer, Qt::KeyboardModifiers keys);
    // Tools
    void click(QPointF pointer);
    void clickLine();
    void clickArc();
    void clickCircle();
    void clickRectangle();
    void clickThree();
    void finishSpline();
    void clickDimension(QPointF pointer);
    void clickChoose(QPointF pointer, bool more);
    void endChain();
    int landed(Drawing& d, int newPoint, int newLine, const Offer& offer) const;
    void openEditor(int relation);
    void closeEditor(bool keep);
    void nextEditor();
    void addDimension(Relation dimension);
    void applyRelation(RelationKind kind, const std::vector<int>& of);
    void removeChosen();
    // Painting
    DimensionShape shapeOf(const Relation& r) const;
    void paintGrid(QPainter& p) const;
    void paintRegions(QPainter& p) const;
    void paintStroke(QPainter& p, const Stroke& s) const;
    void paintNodes(QPainter& p) const;
    void paintRelationMarks(QPainter& p);
    int markAt(QPointF at) const;
    void paintDimensions(QPainter& p) const;
    void paintDraft(QPainter& p) const;
    void paintTroubles(QPainter& p) const;
    void paintChips(QPainter& p);
    /// A line of the card.
    struct CardLine {
        QString text;
        enum Role { Heading, Plain, Offer, Good, Bad } role = Plain;
        std::function<void()> action = {}, hovered = {};
    };
    std::vector<CardLine> cardLines();
    void addClashes(std::vector<CardLine>& lines);
    void addLoose(std::vector<CardLine>& lines);
    void addClosedness(std::vector<CardLine>& lines);
    void paintCard(QPainter& p);
    QPainterPath pathOf(const Stroke& s) const;
    void rebuildChips();

    DrawingModel* m_model;
    Tool m_tool = Tool::Choose;
    double m_scale = 5;
    QPointF m_zero{200, 400};
    bool m_fitted = false;
    QPointF m_pointer;
    Offer m_offer;
    // The draft of the tool at hand
    std::vector<Offer> m_draft;
    int m_lastStroke = 0; ///< of the chain
    int m_chainEnd = 0;   ///< point id where the chain goes on
    int m_chainStart = 0;
    bool m_arcNext = false; ///< the next piece of the chain is a tangent arc
    std::vector<int> m_chosen;
    int m_hover = 0;
    std::vector<int> m_measuring; ///< what the dimension tool has picked
    // Mouse
    bool m_panning = false, m_mayDrag = false;
    QPointF m_pressedAt;
    int m_labelDragged = 0;
    std::optional<Vec2> m_labelAt;
    int m_sizeDragged = 0;
    // In place
    QLineEdit* m_editor;
    int m_editing = 0;
    std::vector<Button> m_chips, m_cards;
    std::vector<std::pair<QPointF, int>> m_marks; ///< where the signs of relations stand
    const FreeMotion* m_shown = nullptr;          ///< the motion that the pointer asks for
    QTimer m_swing;
    double m_phase = 0;
};

} // namespace gc::app
