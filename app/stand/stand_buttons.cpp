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
    m_deviation->hide();
    connect(stand, &Stand::valuesChanged, this, [this] { offerDeviation(m_stand->canCompare()); });
}

/// Places are found anew when the stand is another size.
bool StandButtons::eventFilter(QObject* o, QEvent* e) {
    if (e->type() == QEvent::Resize || e->type() == QEvent::Show)
        QMetaObject::invokeMethod(this, &StandButtons::place, Qt::QueuedConnection);
    return QObject::eventFilter(o, e);
}

QPushButton* StandButtons::make(const QString& text, const QString& shortText, const QString& tip,
                                bool checkable) {
    auto* b = new QPushButton(text, m_stand);
    b->setFont(textFont(12, QFont::DemiBold));
    b->setToolTip(tip);
    b->setCheckable(checkable);
    b->setFocusPolicy(Qt::NoFocus);
    b->setCursor(Qt::PointingHandCursor);
    b->setAccessibleName(text);
    m_words[b] = {text, shortText};
    return b;
}

void StandButtons::makeMaps() {
    QPushButton* cut = make(tr("Cut-away"), tr("Cut"), tr("Cut the part open; drag the cut"), true);
    connect(cut, &QPushButton::toggled, m_stand, &Stand::setCut);
    m_maps = {
        {make(tr("Wall, ray"), tr("Ray"), tr("Wall straight through, as a colour map"), true),
         Overlay::WallRay},
        {make(tr("Wall, ball"), tr("Ball"), tr("Wall as the largest ball that fits"), true),
         Overlay::WallBall},
        {make(tr("Lean"), tr("Lean"), tr("How far walls lean from the pull"), true), Overlay::Lean},
        {make(tr("Stripes"), tr("Stripes"), tr("Lines of light: where they break or kink, walls do"), true),
         Overlay::Stripes},
        {make(tr("Bending"), tr("Bend"), tr("How tightly the surface bends, and combs over edges"), true),
         Overlay::Bending},
        {make(tr("Deviation"), tr("Dev."), tr("How far the part lies from the imported body, like a scan"),
              true),
         Overlay::Deviation}};
    m_measure =
        make(tr("Measure"), tr("Measure"), tr("Distances, angles, radii: click what is measured"), true);
    connect(m_measure, &QPushButton::clicked, this, &StandButtons::measureAsked);
    m_buttons = {m_measure, cut};
    for (const auto& [button, map] : m_maps) {
        if (map == Overlay::Deviation)
            m_deviation = button; // only where there is something to compare with
        else
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

void StandButtons::offerDeviation(bool offered) {
    if (m_buttons.contains(m_deviation) == offered) return;
    if (offered)
        m_buttons << m_deviation;
    else
        m_buttons.removeAll(m_deviation);
    m_deviation->setVisible(offered);
    if (!offered && m_stand->overlay() == Overlay::Deviation) m_stand->setOverlay(Overlay::None);
    place();
}

void StandButtons::makeSights() {
    const QString sights[] = {tr("Front"), tr("Back"),  tr("Left"),  tr("Right"),
                              tr("Above"), tr("Below"), tr("Corner")};
    int key = 0;
    for (const QString& sight : sights) {
        ++key;
        auto* b = make(QStringLiteral("%1 %2").arg(sight).arg(key), QString::number(key),
                       tr("%1: look from here, key %2").arg(sight).arg(key), false);
        b->setFont(textFont(12));
        b->setObjectName(QStringLiteral("sight"));
        connect(b, &QPushButton::clicked, this, [this, key] { m_stand->lookFrom(key); });
        m_sights << b;
    }
}

/// In words where there is room, else as short as they can be: always in one line, and always there.
void StandButtons::say(const QList<QPushButton*>& buttons, bool inFull) {
    for (QPushButton* b : buttons) {
        const auto& [full, brief] = m_words.at(b);
        b->setText(inFull ? full : brief);
    }
}

void StandButtons::place() {
    constexpr int kEdge = 14, kGap = 6, kPadding = 32, kTight = 18, kLeast = 6, kSight = 14;
    const auto widthOf = [](const QPushButton* b, int padding) {
        return b->fontMetrics().horizontalAdvance(b->text()) + padding;
    };
    const auto total = [&](const QList<QPushButton*>& list, int padding, int gap) {
        int sum = 0;
        for (const QPushButton* b : list) sum += widthOf(b, padding) + gap;
        return sum;
    };
    say(m_buttons, true);
    const bool inFull = total(m_buttons, kPadding, kGap) + 2 * kEdge < m_stand->width();
    say(m_buttons, inFull);
    const bool roomy = inFull || total(m_buttons, kTight, kGap) + 2 * kEdge < m_stand->width();
    const int padding = inFull ? kPadding : roomy ? kTight : kLeast, gap = roomy ? kGap : kGap / 2;
    int x = roomy ? kEdge : kEdge / 2;
    for (QPushButton* b : m_buttons) {
        b->setStyleSheet(inFull  ? QString()
                         : roomy ? QStringLiteral("padding: 6px 4px;")
                                 : QStringLiteral("padding: 6px 1px;"));
        b->resize(widthOf(b, padding), b->sizeHint().height());
        b->move(x, kEdge);
        x += b->width() + gap;
    }
    // What lies at the right begins below the buttons where it would run into them.
    const int room = m_stand->width() - x, below = kEdge + 44;
    const bool listed = m_bodies->isVisibleTo(m_stand);
    const bool low = m_bodies->width() + 12 > room;
    m_bodies->move(m_stand->width() - m_bodies->width() - 12, low ? below : kEdge);
    const int under = listed ? (low ? below : kEdge) + m_bodies->height() + 10 : kEdge;
    m_stand->setOverlayTop(Stand::kLegendWidth > room ? std::max(under, below - 4) : under);
    constexpr int kScaleBar = 230; // px, at the lower left
    say(m_sights, true);
    say(m_sights, total(m_sights, kSight, 0) + kScaleBar < m_stand->width());
    x = m_stand->width() - total(m_sights, kSight, 0) - 12;
    m_stand->setScaleRoom(x);
    for (QPushButton* b : m_sights) {
        b->resize(widthOf(b, kSight), 24);
        b->move(x, m_stand->height() - 34);
        x += b->width();
    }
}

} // namespace gc::app
