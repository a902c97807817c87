#pragma once
/// \file Where the paper lies on the screen.

#include "core/sketch/curve2.hpp"

#include <functional>

#include <QPainterPath>
#include <QPointF>
#include <QSize>

#include <vector>

namespace gc::app {

struct TableView {
    double scale = 5; ///< pixels a millimetre
    QPointF zero{200, 400};
    QSize size; ///< of the table, pixels

    QPointF toScreen(Vec2 p) const { return zero + QPointF(p.x, -p.y) * scale; }
    Vec2 toDrawing(QPointF p) const {
        const QPointF v = (p - zero) / scale;
        return {v.x(), -v.y()};
    }
    /// How near counts as on, mm.
    double reach() const { return 9 / scale; }
    /// A square of the paper: 1, 2 or 5 of something, mm.
    double unit = 1; ///< mm that one of the part's units of length has
    /// The side of a square of the paper, mm: 1, 2 or 5 of the part's units, or ten times that …
    double gridStep() const;
    /// Brings a box of the drawing, mm, into the room that is left beside the card.
    void fit(Vec2 low, Vec2 high, double cardWidth);
    void zoom(double factor, QPointF about);

    QPainterPath pathThrough(const std::vector<Curve2>& curves) const;
    QPainterPath pathOf(const Drawing& drawing, const Stroke& stroke) const {
        return pathThrough(curvesOf(drawing, stroke));
    }
    bool operator==(const TableView&) const = default;
};

/// Something painted that answers a click.
struct TableButton {
    QRectF rect;
    QString label;
    std::function<void()> action;
    std::function<void()> hovered = {}; ///< may be empty
    int row = 0;                        ///< of those below the table, from the lowest
    bool on = false;                    ///< it is what holds now
    bool apart = false;                 ///< at the other end of its row
};

} // namespace gc::app
