#include "app/table/painters/paper.hpp"

#include "app/look/theme.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QCoreApplication>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace gc::app {

namespace {

QString tr(const char* text) {
    return QCoreApplication::translate("DrawingTable", text);
}

void paintSquares(QPainter& p, const TableScene& scene) {
    const TableView& view = scene.view;
    const int width = view.size.width(), height = view.size.height();
    const double step = view.gridStep();
    const Vec2 low = view.toDrawing(QPointF(0, height)), high = view.toDrawing(QPointF(width, 0));
    QColor faint = theme().line;
    faint.setAlphaF(0.45f);
    p.setPen(QPen(faint, 1));
    for (double x = std::ceil(low.x / step) * step; x < high.x; x += step)
        p.drawLine(QPointF(view.toScreen({x, 0}).x(), 0), QPointF(view.toScreen({x, 0}).x(), height));
    for (double y = std::ceil(low.y / step) * step; y < high.y; y += step)
        p.drawLine(QPointF(0, view.toScreen({0, y}).y()), QPointF(width, view.toScreen({0, y}).y()));
}

} // namespace

void paintPaper(QPainter& p, const TableScene& scene, double bottom) {
    paintSquares(p, scene);
    const Theme& t = theme();
    const int width = scene.view.size.width(), height = scene.view.size.height();
    const QPointF zero = scene.toScreen({0, 0});
    const bool axisHot = scene.hover == kAxisLine, levelHot = scene.hover == kLevelLine;
    QColor axis = t.accent;
    axis.setAlphaF(0.75f);
    p.setPen(QPen(axisHot ? t.halo : axis, axisHot ? 2.4 : 1.2, Qt::DashDotLine));
    p.drawLine(QPointF(zero.x(), 0), QPointF(zero.x(), height));
    p.setPen(QPen(levelHot ? t.halo : t.line, levelHot ? 2.4 : 1.4));
    p.drawLine(QPointF(0, zero.y()), QPointF(width, zero.y()));
    p.setFont(textFont(11));
    p.setPen(t.accent);
    p.drawText(QPointF(zero.x() + 5, zero.x() < width - 300 ? 56 : 16), tr("axis"));
    p.setPen(t.inkSoft);
    const bool inTheWay = std::fabs(bottom - zero.y()) < 22; // of what a square is
    p.drawText(QPointF(inTheWay ? width - 46 : 8, zero.y() - 5), tr("level"));
    p.drawText(QPointF(14, bottom), tr("one square %1 %2")
                                        .arg(scene.view.gridStep() / scene.view.unit, 0, 'g', 3)
                                        .arg(QString::fromStdString(scene.model.units().length)));
}

void paintAreas(QPainter& p, const TableScene& scene) {
    for (const Region& r : scene.model.closedness().regions) {
        const bool chosen = std::find(scene.areas.begin(), scene.areas.end(), r.marks) != scene.areas.end();
        if (r.depth % 2 && !chosen) continue;
        QPainterPath path;
        const auto add = [&](const Loop& loop) {
            std::vector<Curve2> curves;
            for (const Side& s : loop.sides) curves.push_back(s.curve);
            QPainterPath one = scene.view.pathThrough(curves);
            one.closeSubpath();
            path.addPath(one);
        };
        add(r.outer);
        for (const Loop& hole : r.holes) add(hole);
        path.setFillRule(Qt::OddEvenFill);
        QColor soft = chosen ? theme().accent : theme().clay;
        soft.setAlphaF(chosen ? 0.22f : 0.14f);
        p.fillPath(path, soft);
    }
}

} // namespace gc::app
