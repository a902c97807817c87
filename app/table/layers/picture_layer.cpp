#include "app/table/layers/picture_layer.hpp"

#include "app/look/theme.hpp"

#include <QCoreApplication>
#include <QPainter>

namespace gc::app {

void paintPicture(QPainter& p, const TableView& view, const TracedPicture& placed, const QImage& picture) {
    const QPointF low = view.toScreen(placed.at);
    const QRectF box(low.x(), low.y() - placed.height * view.scale, placed.width * view.scale,
                     placed.height * view.scale);
    if (picture.isNull()) {
        p.setPen(QPen(theme().watch, 1.4, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(box);
        p.setFont(textFont(12, QFont::DemiBold));
        p.drawText(box, Qt::AlignCenter | Qt::TextWordWrap,
                   QCoreApplication::translate("DrawingTable", "The picture \"%1\" cannot be read.")
                       .arg(QString::fromStdString(placed.file)));
        return;
    }
    p.save();
    p.setOpacity(placed.strength);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(box, picture);
    p.restore();
}

} // namespace gc::app
