#pragma once
/// \file A card that something is explained on, over the stand.

#include "app/look/theme.hpp"

#include <QPainter>

namespace gc::app {

/// With a title at its top. \return its colour
inline QColor paintCard(QPainter& p, const QRectF& box, const QString& title) {
    p.setPen(QPen(theme().line, 1));
    QColor card = theme().card;
    card.setAlphaF(0.93f);
    p.setBrush(card);
    p.drawRoundedRect(box, 8, 8);
    p.setPen(theme().ink);
    p.setFont(textFont(12, QFont::DemiBold));
    p.drawText(QRectF(box.x() + 14, box.y() + 6, box.width() - 28, 16), Qt::AlignLeft | Qt::AlignVCenter,
               title);
    return card;
}

} // namespace gc::app
