#include "app/sentence/ways_strip.hpp"

#include "app/look/theme.hpp"

#include <QButtonGroup>
#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace gc::app {

namespace {
constexpr int kMostWays = 4;
}

WaysStrip::WaysStrip(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("waysStrip"));
    m_row = new QHBoxLayout(this);
    m_row->setContentsMargins(12, 6, 6, 6);
    m_row->setSpacing(6);
    parent->installEventFilter(this);
    hide();
}

void WaysStrip::offer(const QStringList& refs, const std::function<QString(const QString&)>& inWords) {
    while (QLayoutItem* item = m_row->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
    if (refs.size() < 2) return hide();
    m_taken = refs.first();
    auto* label = new QLabel(tr("Say it as"), this);
    label->setFont(textFont(12));
    m_row->addWidget(label);
    label->show();
    auto* group = new QButtonGroup(this);
    const QStringList shown = refs.mid(0, kMostWays);
    // Long ones are cut in their middle, so that all of them have room.
    constexpr int kAround = 150, kPadding = 36; // pixels
    const int most = std::max(90, (parentWidget()->width() - kAround) / int(shown.size()) - kPadding);
    for (const QString& ref : shown) {
        auto* b = new QPushButton(this);
        b->setFont(textFont(12, QFont::DemiBold));
        b->setText(QFontMetrics(b->font()).elidedText(inWords(ref), Qt::ElideMiddle, most));
        b->setToolTip(inWords(ref));
        b->setCheckable(true);
        b->setChecked(ref == m_taken);
        b->setFocusPolicy(Qt::NoFocus);
        b->setCursor(Qt::PointingHandCursor);
        group->addButton(b);
        m_row->addWidget(b);
        b->show(); // at once: the strip is as wide as what is seen of it
        connect(b, &QPushButton::clicked, this, [this, ref] {
            if (ref == m_taken) return;
            const QString was = m_taken;
            m_taken = ref;
            Q_EMIT wayChosen(was, ref);
        });
    }
    m_row->invalidate();
    place();
    show();
    raise();
}

/// In the middle of the stand, above the scale and the sights.
void WaysStrip::place() {
    const QSize size(std::min(sizeHint().width(), parentWidget()->width() - 24), sizeHint().height());
    setGeometry((parentWidget()->width() - size.width()) / 2, parentWidget()->height() - size.height() - 62,
                size.width(), size.height());
}

/// The stand gets lower while the sentence under it grows.
bool WaysStrip::eventFilter(QObject* watched, QEvent* e) {
    if (watched == parentWidget() && e->type() == QEvent::Resize && isVisible()) place();
    return QFrame::eventFilter(watched, e);
}

void WaysStrip::enterEvent(QEnterEvent* e) {
    QFrame::enterEvent(e);
    Q_EMIT entered();
}

} // namespace gc::app
