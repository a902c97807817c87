#include "app/stand/threads.hpp"
#include "app/look/points.hpp"

#include "app/look/theme.hpp"

#include <cmath>

namespace gc::app {

namespace {

/// From one end of a line on the screen towards the other: where two threads meet, each has its own grip.
QPointF inward(QPointF end, QPointF other) {
    constexpr double kIn = 15; // pixels
    const double l = lengthOf(other - end);
    return l < 1e-6 ? end : end + (other - end) * (std::min(kIn, 0.3 * l) / l);
}

} // namespace

QPointF Threads::gripAt(const Grip& grip, const Scene& s) const {
    if (grip.thread < 0 || grip.thread >= static_cast<int>(m_threads.size())) return {};
    const ThreadView& t = m_threads[static_cast<std::size_t>(grip.thread)];
    const QPointF from = s.camera.project(t.from, s.size), to = s.camera.project(t.to, s.size);
    return grip.end ? inward(to, from) : inward(from, to);
}

Threads::Grip Threads::at(QPointF pointer, const Scene& s) const {
    double least = 9; // pixels
    Grip found;
    for (int i = 0; i < static_cast<int>(m_threads.size()); ++i)
        for (const bool end : {true, false}) {
            const Grip grip{i, end};
            if (const double d = lengthOf(gripAt(grip, s) - pointer); d < least) least = d, found = grip;
        }
    return found;
}

void Threads::take(const Grip& grip) {
    m_taken = grip;
    m_held = m_threads[static_cast<std::size_t>(grip.thread)];
    m_place = -1;
}

bool Threads::pullTo(QPointF pointer, const Scene& s) {
    int nearest = -1;
    double least = 1e300;
    for (int i = 0; i < static_cast<int>(places().size()); ++i) {
        const QPointF at = s.camera.project(places()[static_cast<std::size_t>(i)].at, s.size);
        if (const double d = lengthOf(at - pointer); d < least) least = d, nearest = i;
    }
    const bool other = nearest != m_place;
    m_place = nearest;
    return other;
}

const ThreadView::Place* Threads::place() const {
    return m_place < 0 ? nullptr : &places()[static_cast<std::size_t>(m_place)];
}

bool Threads::meet(const QRectF& place, const Scene& s) const {
    return std::any_of(m_threads.begin(), m_threads.end(), [&](const ThreadView& t) {
        return crosses({s.camera.project(t.from, s.size), s.camera.project(t.to, s.size)}, place);
    });
}

void Threads::paint(QPainter& p, const Scene& s, const Grip& hot) const {
    const Theme& t = theme();
    QColor under = t.card;
    under.setAlphaF(0.8f);
    const auto line = [&](QPointF a, QPointF b, const QColor& colour, bool whole) {
        p.setPen(QPen(under, 4, Qt::SolidLine, Qt::RoundCap));
        p.drawLine(a, b);
        QPen pen(colour, whole ? 2 : 1.6, Qt::SolidLine, Qt::RoundCap);
        if (!whole) pen.setDashPattern({1, 3.2}); // like stitches
        p.setPen(pen);
        p.drawLine(a, b);
    };
    for (int i = 0; i < static_cast<int>(m_threads.size()); ++i) {
        const ThreadView& view = m_threads[static_cast<std::size_t>(i)];
        const bool lit = i == hot.thread;
        const QColor colour = lit ? t.halo : t.accent;
        line(s.camera.project(view.from, s.size), s.camera.project(view.to, s.size), colour,
             view.pulled || lit);
        for (const bool end : {false, true}) {
            const bool here = lit && hot.end == end;
            p.setBrush(here ? colour : t.card);
            p.setPen(QPen(colour, 1.8));
            p.drawEllipse(gripAt({i, end}, s), here ? 6 : 4.4, here ? 6 : 4.4);
        }
    }
    if (!pulling()) return;
    for (const ThreadView::Place& place : places()) {
        p.setBrush(t.card);
        p.setPen(QPen(t.halo, 1.8));
        p.drawEllipse(s.camera.project(place.at, s.size), 5, 5);
    }
    if (!place()) return;
    const QPointF fixed = s.camera.project(m_taken.end ? m_held.from : m_held.to, s.size);
    const QPointF now = s.camera.project(place()->at, s.size);
    line(fixed, now, t.halo, true);
    p.setBrush(t.halo);
    p.drawEllipse(now, 6, 6);
}

} // namespace gc::app
