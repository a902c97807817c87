// What the window does with the stand: its buttons, the list of bodies, and what is picked on it.

#include "app/shell/main_window.hpp"
#include "app/stand/bodies_strip.hpp"

#include "app/look/theme.hpp"

#include <algorithm>

namespace gc::app {

void MainWindow::makeStandButtons() {
    auto make = [&](const QString& text, const QString& tip, bool checkable) {
        auto* b = new QPushButton(text, m_stand);
        b->setFont(textFont(12, QFont::DemiBold));
        b->setToolTip(tip);
        b->setCheckable(checkable);
        b->setFocusPolicy(Qt::NoFocus);
        b->setCursor(Qt::PointingHandCursor);
        return b;
    };
    m_cut = make(tr("Cut-away"), tr("Cut the part open; drag the cut"), true);
    m_ray = make(tr("Wall, ray"), tr("Wall straight through, as a colour map"), true);
    m_ball = make(tr("Wall, ball"), tr("Wall as the largest ball that fits"), true);
    m_lean = make(tr("Lean"), tr("How far walls lean from the pull"), true);
    m_standButtons = {m_cut, m_ray, m_ball, m_lean};
    connect(m_cut, &QPushButton::toggled, m_stand, &Stand::setCut);
    for (const auto& [button, overlay] :
         {std::pair{m_ray, Overlay::WallRay}, {m_ball, Overlay::WallBall}, {m_lean, Overlay::Lean}}) {
        const Overlay o = overlay;
        connect(button, &QPushButton::clicked, this, [this, o](bool on) {
            m_gauges->setActive(-1);
            m_stand->setOverlay(on ? o : Overlay::None);
        });
    }
    connect(m_stand, &Stand::overlayChanged, this, [this] {
        m_ray->setChecked(m_stand->overlay() == Overlay::WallRay);
        m_ball->setChecked(m_stand->overlay() == Overlay::WallBall);
        m_lean->setChecked(m_stand->overlay() == Overlay::Lean);
    });
    const QString sights[] = {tr("Front"), tr("Back"),  tr("Left"),  tr("Right"),
                              tr("Above"), tr("Below"), tr("Corner")};
    for (int i = 0; i < 7; ++i) {
        auto* b = make(QStringLiteral("%1 %2").arg(sights[i]).arg(i + 1),
                       tr("Look from here: key %1").arg(i + 1), false);
        b->setFont(textFont(12));
        b->setObjectName(QStringLiteral("sight"));
        connect(b, &QPushButton::clicked, this, [this, i] { m_stand->lookFrom(i + 1); });
        m_sights << b;
    }
}

void MainWindow::placeStandButtons() {
    int x = 14, y = 14;
    for (QPushButton* b : m_standButtons) {
        b->adjustSize();
        if (x > 14 && x + b->width() + 8 > m_stand->width()) { // a second line where the stand is narrow
            x = 14;
            y += b->height() + 6;
        }
        b->move(x, y);
        x += b->width() + 6;
    }
    if (m_bodies)
        m_bodies->move(m_stand->width() - m_bodies->width() - 12, m_stand->width() < 640 ? y + 44 : 14);
    const bool listed = m_bodies && m_bodies->isVisibleTo(m_stand);
    m_stand->setOverlayTop((m_stand->width() < 640 ? y + 40 : 14) + (listed ? m_bodies->height() + 10 : 0));
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

void MainWindow::connectPicking() {
    m_bodies = new BodiesStrip(m_session, m_stand);
    connect(m_bodies, &BodiesStrip::message, m_bar, &SentenceBar::say);
    connect(m_bodies, &BodiesStrip::placed, this, &MainWindow::placeStandButtons);
    m_selection = new Selection({m_session, m_forge, m_stand, m_sheet, m_bar}, this);
    m_selection->drawing = [this] {
        const bool open = m_pages->currentWidget() == m_table && m_pages->isVisible();
        return open ? m_drawing->step() : 0;
    };
    // A drawing's plane is picked in the stand, which the table covers; picked, the table comes back.
    connect(m_selection, &Selection::standWanted, this, [this](int step) {
        const Step* s = m_session->part().findStep(step);
        if (s && m_stages->stage() == QLatin1String("Outline") && filledIn(*s) == FilledIn::DrawingTable)
            setStage(QStringLiteral("Form"));
    });
    connect(m_selection, &Selection::planeTaken, this, [this](int step) {
        const Step* s = m_session->part().findStep(step);
        if (s && filledIn(*s) == FilledIn::DrawingTable) showOutline(step);
    });
}

} // namespace gc::app
