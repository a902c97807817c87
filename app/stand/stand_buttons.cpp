#include "app/stand/stand_buttons.hpp"

#include "app/look/theme.hpp"
#include "app/stand/bodies_strip.hpp"
#include "app/stand/stand.hpp"

#include <QEvent>
#include <QTimer>

namespace gc::app {

StandButtons::StandButtons(Stand* stand, BodiesStrip* bodies)
    : QObject(stand), m_stand(stand), m_bodies(bodies) {
    makeMaps();
    makeSights();
    stand->installEventFilter(this);
    connect(bodies, &BodiesStrip::placed, this, &StandButtons::place);
}

/// Places are found anew when the stand is another size.
bool StandButtons::eventFilter(QObject* o, QEvent* e) {
    if (e->type() == QEvent::Resize || e->type() == QEvent::Show)
        QMetaObject::invokeMethod(this, &StandButtons::place, Qt::QueuedConnection);
    return QObject::eventFilter(o, e);
}

QPushButton* StandButtons::make(const QString& text, const QString& tip, bool checkable) {
    auto* b = new QPushButton(text, m_stand);
    b->setFont(textFont(12, QFont::DemiBold));
    b->setToolTip(tip);
    b->setCheckable(checkable);
    b->setFocusPolicy(Qt::NoFocus);
    b->setCursor(Qt::PointingHandCursor);
    return b;
}

void StandButtons::makeMaps() {
    QPushButton* cut = make(tr("Cut-away"), tr("Cut the part open; drag the cut"), true);
    connect(cut, &QPushButton::toggled, m_stand, &Stand::setCut);
    m_maps = {{make(tr("Wall, ray"), tr("Wall straight through, as a colour map"), true), Overlay::WallRay},
              {make(tr("Wall, ball"), tr("Wall as the largest ball that fits"), true), Overlay::WallBall},
              {make(tr("Lean"), tr("How far walls lean from the pull"), true), Overlay::Lean}};
    m_buttons = {cut};
    for (const auto& [button, map] : m_maps) {
        m_buttons << button;
        connect(button, &QPushButton::clicked, this, [this, overlay = map](bool on) {
            Q_EMIT overlayChosen();
            m_stand->setOverlay(on ? overlay : Overlay::None);
        });
    }
    connect(m_stand, &Stand::overlayChanged, this, [this] {
        for (const auto& [button, map] : m_maps) button->setChecked(m_stand->overlay() == map);
    });
}

void StandButtons::makeSights() {
    const QString sights[] = {tr("Front"), tr("Back"),  tr("Left"),  tr("Right"),
                              tr("Above"), tr("Below"), tr("Corner")};
    int key = 0;
    for (const QString& sight : sights) {
        ++key;
        auto* b =
            make(QStringLiteral("%1 %2").arg(sight).arg(key), tr("Look from here: key %1").arg(key), false);
        b->setFont(textFont(12));
        b->setObjectName(QStringLiteral("sight"));
        connect(b, &QPushButton::clicked, this, [this, key] { m_stand->lookFrom(key); });
        m_sights << b;
    }
}

void StandButtons::place() {
    constexpr int kEdge = 14, kNarrow = 640;
    int x = kEdge, y = kEdge;
    for (QPushButton* b : m_buttons) {
        b->adjustSize();
        if (x > kEdge && x + b->width() + 8 > m_stand->width()) { // a second line where the stand is narrow
            x = kEdge;
            y += b->height() + 6;
        }
        b->move(x, y);
        x += b->width() + 6;
    }
    const bool narrow = m_stand->width() < kNarrow;
    m_bodies->move(m_stand->width() - m_bodies->width() - 12, narrow ? y + 44 : kEdge);
    const bool listed = m_bodies->isVisibleTo(m_stand);
    m_stand->setOverlayTop((narrow ? y + 40 : kEdge) + (listed ? m_bodies->height() + 10 : 0));
    int total = 0;
    for (QPushButton* b : m_sights) {
        b->adjustSize();
        b->resize(b->fontMetrics().horizontalAdvance(b->text()) + 14, 24);
        total += b->width();
    }
    const bool room = total + 230 < m_stand->width();
    x = m_stand->width() - total - 12;
    for (QPushButton* b : m_sights) {
        b->setVisible(room);
        b->move(x, m_stand->height() - 34);
        x += b->width();
    }
}

} // namespace gc::app
