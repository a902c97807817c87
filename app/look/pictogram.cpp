#include "app/shell/chrome.hpp"

#include <QFile>
#include <QHash>
#include <QMap>
#include <QPainter>
#include <QPainterPath>
#include <QSvgRenderer>

#include <memory>

namespace gc::app {

namespace {

/// Draws on a square of 18 by 18.
class Pencil {
  public:
    Pencil(QPainter& painter, const QRectF& box) : m_painter(painter), b(box) {}
    QPointF at(double x, double y) const {
        return {b.left() + x / 18 * b.width(), b.top() + y / 18 * b.height()};
    }
    void dot(double x, double y) {
        m_painter.save();
        m_painter.setBrush(m_painter.pen().color());
        m_painter.drawEllipse(at(x, y), 1.4, 1.4);
        m_painter.restore();
    }
    /// A row of places joined by lines: "x y x y …".
    void line(std::initializer_list<double> xy) {
        for (const double* v = xy.begin(); v + 1 < xy.end(); v += 2)
            v == xy.begin() ? path.moveTo(at(v[0], v[1])) : path.lineTo(at(v[0], v[1]));
    }
    void curve(double x0, double y0, double x1, double y1, double x2, double y2, double x3, double y3) {
        path.moveTo(at(x0, y0));
        path.cubicTo(at(x1, y1), at(x2, y2), at(x3, y3));
    }
    void oval(double rx, double ry) { path.addEllipse(at(9, 9), b.width() * rx, b.height() * ry); }
    QPainterPath path;

  private:
    QPainter& m_painter;
    QRectF b;
};

const QMap<QString, void (*)(Pencil&)>& pictograms() {
    static const QMap<QString, void (*)(Pencil&)> all{
        {"tool:choose",
         [](Pencil& p) {
             p.line({4, 2, 14, 9, 9, 10.5, 7, 16, 4, 2});
         }},
        {"tool:line",
         [](Pencil& p) {
             p.line({2, 15, 8, 6, 16, 3});
             p.dot(2, 15), p.dot(8, 6), p.dot(16, 3);
         }},
        {"tool:arc",
         [](Pencil& p) {
             p.curve(2, 14, 3, 2, 15, 2, 16, 14);
             p.dot(2, 14), p.dot(16, 14);
         }},
        {"tool:circle",
         [](Pencil& p) {
             p.oval(0.4, 0.4);
             p.dot(9, 9);
         }},
        {"tool:ellipse", [](Pencil& p) { p.oval(0.46, 0.28); }},
        {"tool:rectangle",
         [](Pencil& p) {
             p.line({2, 4, 16, 4, 16, 14, 2, 14, 2, 4});
         }},
        {"tool:slot",
         [](Pencil& p) {
             const QRectF box(p.at(1, 5), p.at(17, 13));
             p.path.addRoundedRect(box, box.height() / 2, box.height() / 2);
         }},
        {"tool:conic",
         [](Pencil& p) {
             p.path.moveTo(p.at(2, 16));
             p.path.quadTo(p.at(3, 2), p.at(16, 5));
             p.dot(2, 16), p.dot(16, 5);
         }},
        {"tool:spline",
         [](Pencil& p) {
             p.curve(1, 14, 5, 0, 11, 19, 17, 4);
             p.dot(1, 14), p.dot(9, 9.5), p.dot(17, 4);
         }},
        {"tool:point",
         [](Pencil& p) {
             p.line({4, 9, 14, 9});
             p.line({9, 4, 9, 14});
         }},
        {"tool:dimension",
         [](Pencil& p) {
             p.line({2, 4, 2, 14});
             p.line({16, 4, 16, 14});
             p.line({2, 9, 16, 9});
         }},
        {"tool:follow",
         [](Pencil& p) {
             p.curve(1, 12, 5, 4, 12, 4, 17, 8);
             p.curve(1, 17, 5, 9, 12, 9, 17, 13);
             p.dot(1, 17), p.dot(17, 13);
         }},
        {"tool:picture",
         [](Pencil& p) {
             p.line({2, 3, 16, 3, 16, 15, 2, 15, 2, 3});
             p.line({3, 14, 7, 8, 10, 12, 12, 10, 15, 14});
             p.dot(12.5, 6.2);
         }},
        {"tool:polygon",
         [](Pencil& p) {
             p.line({5, 2, 13, 2, 17, 9, 13, 16, 5, 16, 1, 9, 5, 2});
         }},
        {"tool:trim",
         [](Pencil& p) {
             p.line({1, 12, 6, 12});
             p.line({12, 12, 17, 12});
             p.line({6, 3, 6, 17});
             p.line({12, 3, 12, 17});
         }},
        {"tool:extend",
         [](Pencil& p) {
             p.line({16, 2, 16, 16});
             p.line({1, 9, 12, 9});
             p.line({9, 6, 12, 9, 9, 12});
         }},
        {"tool:split",
         [](Pencil& p) {
             p.line({1, 9, 7, 9});
             p.line({11, 9, 17, 9});
             p.line({10.5, 3, 7.5, 15});
         }},
        {"edit:text",
         [](Pencil& p) {
             p.line({3, 15, 8, 3, 13, 15});
             p.line({5, 11, 11, 11});
             p.line({16, 8, 16, 15});
         }},
        {"tool:bring",
         [](Pencil& p) {
             p.line({7, 3, 16, 3, 16, 15, 7, 15});
             p.line({1, 9, 11, 9});
             p.line({8, 6, 11, 9, 8, 12});
         }},
        {"tool:write",
         [](Pencil& p) {
             p.line({11, 3, 2, 3, 2, 15, 11, 15});
             p.line({7, 9, 17, 9});
             p.line({14, 6, 17, 9, 14, 12});
         }},
        {"tool:done",
         [](Pencil& p) {
             p.line({3, 9, 7, 14, 15, 4});
         }},
    };
    return all;
}

} // namespace

namespace {

/// A kind of step has its pictogram in its own folder; it takes the colour of the pen.
void drawKind(QPainter& painter, const QString& kind, const QRectF& box) {
    static QHash<QString, std::shared_ptr<QSvgRenderer>> known;
    const QString colour = painter.pen().color().name();
    auto& drawn = known[kind + colour];
    if (!drawn) {
        QFile file(QStringLiteral(":/kinds/%1.svg").arg(kind));
        if (!file.open(QIODevice::ReadOnly)) return;
        drawn = std::make_shared<QSvgRenderer>(file.readAll().replace("currentColor", colour.toLatin1()));
    }
    drawn->render(&painter, box);
}

} // namespace

void drawPictogram(QPainter& painter, const QString& kind, const QRectF& box) {
    const auto draw = pictograms().value(kind);
    if (!draw) return drawKind(painter, kind, box);
    Pencil pencil(painter, box);
    draw(pencil);
    painter.drawPath(pencil.path);
}

} // namespace gc::app
