#include "app/rooms/start/start_card.hpp"

#include "app/look/pictogram.hpp"
#include "app/look/theme.hpp"

#include <QPainter>

namespace gc::app {

namespace {
constexpr int kPictureHeight = 122, kTextHeight = 58, kMargin = 12;
} // namespace

StartCard::StartCard(const QString& title, const QString& about, const QString& pictogram, QWidget* parent)
    : QAbstractButton(parent), m_about(about), m_pictogram(pictogram) {
    setText(title);
    setAccessibleName(title);
    setAccessibleDescription(about);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void StartCard::setPicture(const QPixmap& picture) {
    m_picture = picture;
    updateGeometry();
}

QSize StartCard::sizeHint() const {
    return {190, m_picture.isNull() ? 76 : kPictureHeight + kTextHeight};
}

void StartCard::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    const bool lit = underMouse() || hasFocus() || isDown();
    p.setPen(QPen(lit ? t.accent : t.line, hasFocus() ? 2 : 1));
    p.setBrush(isDown() ? t.accentSoft : t.card);
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 9, 9);
    QRect words = rect().adjusted(kMargin, kMargin, -kMargin, -kMargin);
    if (!m_picture.isNull()) {
        const QRectF place = QRectF(rect()).adjusted(8, 8, -8, -kTextHeight);
        const QSizeF size = QSizeF(m_picture.size()).scaled(place.size(), Qt::KeepAspectRatio);
        p.drawPixmap(QRectF(place.center() - QPointF(size.width() / 2, size.height() / 2), size), m_picture,
                     QRectF(m_picture.rect()));
        words.setTop(height() - kTextHeight + 4);
    } else {
        p.setPen(QPen(t.accent, 1.6));
        p.setBrush(Qt::NoBrush);
        drawPictogram(p, m_pictogram, QRectF(kMargin, kMargin, 22, 22));
        words.setLeft(kMargin + 32);
    }
    p.setPen(t.ink);
    p.setFont(textFont(14, QFont::Bold));
    p.drawText(words, Qt::AlignLeft | Qt::AlignTop, text());
    p.setPen(t.inkSoft);
    p.setFont(textFont(12));
    p.drawText(words.adjusted(0, 21, 0, 6), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, m_about);
}

void StartCard::enterEvent(QEnterEvent*) {
    update();
}

void StartCard::leaveEvent(QEvent*) {
    update();
}

} // namespace gc::app
