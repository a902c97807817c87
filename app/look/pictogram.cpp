#include "app/look/pictogram.hpp"

#include <QFile>
#include <QHash>
#include <QPainter>
#include <QSvgRenderer>

#include <memory>

namespace gc::app {

QString pictogramFile(const QString& verb) {
    const auto colon = verb.indexOf(QLatin1Char(':'));
    return colon < 0 ? QStringLiteral(":/kinds/%1.svg").arg(verb)
                     : QStringLiteral(":/tools/%1.svg").arg(verb.mid(colon + 1));
}

void drawPictogram(QPainter& painter, const QString& verb, const QRectF& box) {
    static QHash<QString, std::shared_ptr<QSvgRenderer>> known;
    const QString colour = painter.pen().color().name();
    auto& drawn = known[verb + colour];
    if (!drawn) {
        QFile file(pictogramFile(verb));
        if (!file.open(QIODevice::ReadOnly)) return;
        drawn = std::make_shared<QSvgRenderer>(file.readAll().replace("currentColor", colour.toLatin1()));
    }
    drawn->render(&painter, box);
}

} // namespace gc::app
