#pragma once
/// \file A list to choose from that looks like the other fields of the window.

#include "app/look/theme.hpp"

#include <QComboBox>
#include <QPainter>

#include <algorithm>

namespace gc::app {

class PlainCombo : public QComboBox {
  public:
    using QComboBox::QComboBox;
    QSize sizeHint() const override { return {QComboBox::sizeHint().width() + 12, 30}; }
    /// What does not fit is elided: a page need not be as wide as the longest entry of a list.
    QSize minimumSizeHint() const override {
        constexpr int kLeast = 72;
        return {std::min(QComboBox::minimumSizeHint().width(), kLeast), 30};
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter p(this);
        p.setRenderHint(QPainter::Antialiasing);
        const Theme& t = theme();
        p.setBrush(t.card);
        p.setPen(QPen(hasFocus() || underMouse() ? t.accent : t.line, 1));
        p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
        p.setPen(t.ink);
        p.setFont(font());
        const QRect words = rect().adjusted(10, 0, -24, 0);
        p.drawText(words, Qt::AlignVCenter,
                   fontMetrics().elidedText(currentText(), Qt::ElideRight, words.width()));
        const QPointF tip(width() - 14, height() / 2.0 + 2.5);
        p.setPen(QPen(t.inkSoft, 1.6, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.drawPolyline(QPolygonF{tip + QPointF(-4.5, -4.5), tip, tip + QPointF(4.5, -4.5)});
    }
};

} // namespace gc::app
