// What the bar says: messages, and the list of those before.

#include "app/sentence/sentence_bar.hpp"

#include "app/look/theme.hpp"

#include <QMenu>
#include <QMouseEvent>
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
    if (m_draft) return {18, 2, width() - 240, 16};
    const int left = m_verb->geometry().right() + 18;
    return {left, 0, saidRect().left() - left - 10, height()};
}

/// At the right end, once something was said.
QRect SentenceBar::saidRect() const {
    if (m_said.isEmpty() || m_draft) return {width() - 8, 0, 0, 0};
    const int wide = QFontMetrics(textFont(12)).horizontalAdvance(tr("said before")) + 16;
    return {width() - wide - 4, height() / 2 - 14, wide, 28};
}

void SentenceBar::mouseReleaseEvent(QMouseEvent* e) {
    if (saidRect().contains(e->pos())) return openSaid();
    if (messageRect().contains(e->pos())) putAway();
}

void SentenceBar::mouseMoveEvent(QMouseEvent* e) {
    const bool hot = saidRect().contains(e->pos()) || messageRect().contains(e->pos());
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
