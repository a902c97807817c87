#pragma once
/// \file Arrows and arcs in the stand by which sizes are dragged. Knows no widget: it is told where the
/// pointer is, and paints where it is told to.

#include "app/link/scene.hpp"
#include "app/stand/camera.hpp"
#include "core/units/expression.hpp"

#include <QPainter>

#include <functional>

namespace gc::app {

class Handles {
  public:
    /// Where things are seen, and in which units sizes are read.
    struct Scene {
        const Camera& camera;
        QSize size;
        const UnitSystem& units;
        QVector3D middle; ///< of the part: loose handles stand there
    };
    /// What the pointer is over, that a dragged end may stop at.
    struct Stop {
        QVector3D at;
        QStringList refs; ///< best first
        bool point = false;
        QString words;
    };

    void set(std::vector<HandleView> handles);
    bool empty() const { return m_handles.empty(); }
    const std::vector<HandleView>& all() const { return m_handles; }
    bool reaches() const;

    /// The handle whose grip or figure is there; -1: none.
    int at(QPointF pointer, const Scene& s) const;
    /// Is it its figure that is there?
    bool onFigure(int handle, QPointF pointer, const Scene& s) const;
    QPointF tip(int handle, const Scene& s) const; ///< null where it cannot be dragged from here
    QRectF figure(int handle, const Scene& s) const;
    int find(const QString& slot) const;
    /// Does an arrow run through a place of the screen, or a figure stand there?
    bool meet(const QRectF& place, const Scene& s) const;

    // ---- dragging
    void take(int handle, QPointF pointer);
    bool dragging() const { return m_taken >= 0; }
    const HandleView& taken() const { return m_held; }
    /// The size now: at round values, or at the stop.
    void dragTo(QPointF pointer, const std::optional<Stop>& stop, const Scene& s);
    /// The size under the pointer, before it is rounded; for finding what it may stop at.
    double valueAt(QPointF pointer, const Scene& s) const;
    /// The size that a place in space stands for, and how far on the screen that is from the pointer, pixels.
    std::pair<double, double> valueOf(const QVector3D& place, QPointF pointer, const Scene& s) const;
    /// How far the pointer is beside the line along which the end goes, pixels.
    double beside(QPointF pointer, const Scene& s) const;
    double value() const { return m_value; }
    const std::optional<Stop>& stop() const { return m_stop; }
    void letGo() { m_taken = -1; }

    void paint(QPainter& p, const Scene& s, int hot) const;
    /// How many a value stands for, where it counts.
    static int countOf(const HandleView& h, double value);
    /// As it is typed.
    static QString text(const HandleView& h, double value, const UnitSystem& units);

  private:
    struct Shape {
        QPolygonF line; ///< from where it is nothing to its end
        QPointF way;    ///< unit: where the end points to
        bool good = false;
    };
    static Shape shapeOf(const HandleView& h, double value, const Scene& s);
    /// As it is read beside the handle.
    QString said(int handle, const Scene& s) const;
    QRectF figureAt(int handle, const Shape& shape, const Scene& s) const;
    const HandleView& view(int handle) const;
    double shown(int handle) const;
    static double pixelsPerUnit(const HandleView& h, const Scene& s);

    std::vector<HandleView> m_handles;
    int m_taken = -1;
    HandleView m_held;
    QPointF m_press;
    double m_from = 0, m_value = 0;
    std::optional<Stop> m_stop;
};

} // namespace gc::app
