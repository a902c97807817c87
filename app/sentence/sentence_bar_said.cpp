// What the bar says: messages, and the list of those before.

#include "app/sentence/sentence_bar.hpp"

#include "app/look/theme.hpp"

#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QTime>
#include <QTimer>

#include <algorithm>

namespace gc::app {

namespace {

bool isProblem(const QString& message) {
    return message.startsWith(QStringLiteral("■")) || message.startsWith(QStringLiteral("▲"));
}

} // namespace

void SentenceBar::say(const QString& text) {
    constexpr int kSeen = 7000, kRemembered = 40; // ms, messages
    m_message = text;
    // Hints to what is at hand are of the moment; what happened is remembered.
    if (isProblem(text) || text.startsWith(QStringLiteral("✓")))
        m_said.prepend(QTime::currentTime().toString(QStringLiteral("HH:mm  ")) + text);
    if (m_said.size() > kRemembered) m_said.removeLast();
    resizeEvent(nullptr);
    update();
    if (isProblem(text)) return;
    QTimer::singleShot(kSeen, this, [this, text] {
        if (m_message == text) putAway();
    });
}

void SentenceBar::putAway() {
    m_message.clear();
    resizeEvent(nullptr);
    update();
}

QRect SentenceBar::messageRect() const {
    if (shownMessage().isEmpty()) return {};
    if (m_draft) return {18, 2, width() - 240 - (m_way ? wayRect().width() + 12 : 0), 16};
    const int left = m_verb->geometry().right() + 18;
    return {left, 0, saidRect().left() - left - 10, height()};
}

namespace {

QString spoken(const RemedyView& way) {
    return way.tried ? SentenceBar::tr("Tried: %1").arg(way.sentence) : way.sentence;
}

} // namespace

/// Beside what is wrong, never over it.
QRect SentenceBar::wayRect() const {
    if (!m_draft || !m_way || !m_message.isEmpty() || m_fault.isEmpty()) return {};
    const QFontMetrics bold(textFont(13, QFont::Bold));
    constexpr int kMost = 360;
    const int wide = std::min(kMost, bold.horizontalAdvance(spoken(*m_way)) + 4),
              room = width() - 240 - wide - 12,
              text = QFontMetrics(textFont(13, QFont::DemiBold)).horizontalAdvance(m_fault) + 12;
    return {18 + std::min(room, text), 1, wide, 19};
}

void SentenceBar::paintWay(QPainter& p) {
    const QRect at = wayRect();
    if (at.isEmpty()) return;
    p.setFont(textFont(13, QFont::Bold));
    p.setPen(theme().accent);
    p.drawText(at, Qt::AlignVCenter | Qt::AlignLeft,
               p.fontMetrics().elidedText(spoken(*m_way), Qt::ElideRight, at.width()));
    p.drawLine(at.left(), at.bottom() - 1, at.right() - 3, at.bottom() - 1);
}

void SentenceBar::takeWay() {
    if (wayRect().isEmpty()) return;
    const RemedyView way = *m_way;
    m_scrubbed.clear();
    set(way.slot, way.value.toStdString());
}

/// At the right end, once something was said.
QRect SentenceBar::saidRect() const {
    if (m_said.isEmpty() || m_draft) return {width() - 8, 0, 0, 0};
    const int wide = QFontMetrics(textFont(12)).horizontalAdvance(tr("said before")) + 16;
    return {width() - wide - 4, height() / 2 - 14, wide, 28};
}

void SentenceBar::mouseReleaseEvent(QMouseEvent* e) {
    if (saidRect().contains(e->pos())) return openSaid();
    if (wayRect().contains(e->pos())) return takeWay();
    if (messageRect().contains(e->pos())) putAway();
}

void SentenceBar::mouseMoveEvent(QMouseEvent* e) {
    const bool hot =
        saidRect().contains(e->pos()) || messageRect().contains(e->pos()) || wayRect().contains(e->pos());
    setCursor(hot ? Qt::PointingHandCursor : Qt::ArrowCursor);
}

void SentenceBar::openSaid() {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setObjectName(QStringLiteral("said"));
    constexpr int kShown = 12, kWide = 760; // messages, pixels
    for (const QString& line : m_said.mid(0, kShown)) {
        QAction* entry = menu->addAction(menu->fontMetrics().elidedText(line, Qt::ElideRight, kWide));
        entry->setToolTip(line);
        connect(entry, &QAction::triggered, this, [this, line] { say(line.mid(7)); }); // read again, whole
    }
    menu->setToolTipsVisible(true);
    menu->popup(mapToGlobal(saidRect().topRight() -
                            QPoint(std::min(kWide, menu->sizeHint().width()), menu->sizeHint().height())));
}

} // namespace gc::app
