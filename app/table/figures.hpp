#pragma once
/// \file The figures of dimensions on the table: where they stand, and how they are typed and moved.

#include "app/table/table_field.hpp"
#include "app/table/table_view.hpp"
#include "core/sketch/size_figure.hpp"

#include <map>
#include <optional>

class QPainter;

namespace gc::app {

class DrawingModel;

class Figures : public QObject {
    Q_OBJECT
  public:
    Figures(DrawingModel* model, const TableView* view, TableField* field, QObject* parent);

    /// Where another is in the way, or what lies over the table, they stand a row further out.
    void lay();
    /// What lies over the table.
    void keepClearOf(std::vector<QRectF> boxes) { m_inTheWay = std::move(boxes); }
    /// The one on top there that is shown; 0: none.
    int under(QPointF at) const;
    /// Does any that is shown stand within a box?
    bool anyIn(const QRectF& box) const;
    /// The pointer is there: what is too small in the view to carry its figure shows it near the pointer.
    void pointAt(QPointF pointer) { m_pointer = pointer; }
    QPointF at(int relation) const;
    void paint(QPainter& p) const;
    /// One that is not made yet.
    void paintDraft(QPainter& p, const Relation& dimension) const;

    /// Takes hold of one; moved far enough it stands elsewhere, else it opens for typing.
    void take(int relation) { m_held = relation; }
    bool held() const { return m_held != 0; }
    void dragTo(QPointF at);
    void letGo();

    /// \param fresh it was just made by a click on the card, where the next one may follow
    void open(int relation, bool fresh = false);
    bool fresh() const { return m_open != 0 && m_fresh; }
    /// The one that is being typed; 0: none.
    int opened() const { return m_open; }
    /// Puts the name of a value or of another dimension where the cursor stands.
    void insertName(const QString& name);
    void close(bool keep);

  Q_SIGNALS:
    void message(const QString& text);
    /// Another one is open, or none any more.
    void openedChanged();
    /// The first size of a drawing scaled all of it.
    void scaled();

  private:
    void paintOne(QPainter& p, const Relation& r, const QColor& lines, const QColor& words) const;
    DimensionShape shapeOf(const Relation& r) const;
    QString textOf(const Relation& r) const;
    QRectF boxOf(const Relation& r) const;
    QString openedText() const;
    bool keep(const QString& text);
    void next();

    DrawingModel* m_model;
    const TableView* m_view;
    TableField* m_field;
    bool isShown(const Relation& r) const;
    bool isLarge(const Relation& r) const;
    void layOne(const Relation& r, std::vector<QRectF>& taken);

    std::map<int, double> m_awayOf;   ///< how far out they stand, pixels
    std::map<int, QPointF> m_asideOf; ///< how far from where they were put, pixels: another stands there
    std::vector<QRectF> m_inTheWay;
    QPointF m_pointer{-1e6, -1e6};
    int m_open = 0;
    bool m_fresh = false;
    int m_held = 0;
    std::optional<Vec2> m_heldAt;
};

} // namespace gc::app
