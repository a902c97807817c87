#include "app/table/layers/trace_layer.hpp"

#include "app/look/theme.hpp"

#include <QPainter>

#include <algorithm>

namespace gc::app {

void TraceLayer::set(const std::vector<Trace>& traces) {
    m_all.clear();
    for (const Trace& t : traces) m_all.push_back({t, curvesOf(t)});
}

const TraceLayer::Seen* TraceLayer::under(QPointF pointer, const TableView& view) const {
    const Vec2 place = view.toDrawing(pointer);
    const Seen* best = nullptr;
    double least = view.reach();
    int rank = 3;
    for (const Seen& s : m_all) {
        double away = 1e300;
        for (const Curve2& c : s.curves) away = std::min(away, length(c.at(c.nearest(place)) - place));
        if (s.curves.empty()) away = length(s.trace.at[0] - place);
        if (away > view.reach()) continue;
        const int own = s.curves.empty() ? 0 : s.isCut() ? 1 : 2;
        if (own > rank || (own == rank && away >= least)) continue;
        rank = own;
        least = away;
        best = &s;
    }
    return best;
}

const TraceLayer::Seen* TraceLayer::nearestMeeting(Vec2 at) const {
    const Seen* best = nullptr;
    for (const Seen& s : m_all)
        if (s.isMeeting() && (!best || length(s.trace.at[0] - at) < length(best->trace.at[0] - at)))
            best = &s;
    return best;
}

void TraceLayer::paint(QPainter& p, const TableView& view, QPointF pointer) const {
    const Theme& t = theme();
    const Seen* pointed = under(pointer, view);
    for (const Seen& s : m_all) {
        const bool hot = &s == pointed;
        if (s.curves.empty()) {
            p.setPen(QPen(hot ? t.halo : t.good, 1.5));
            p.setBrush(hot ? t.halo : t.card);
            const QPointF at = view.toScreen(s.trace.at[0]);
            p.drawPolygon(
                QPolygonF{at - QPointF(0, 5), at + QPointF(5, 0), at + QPointF(0, 5), at - QPointF(5, 0)});
            continue;
        }
        const QPainterPath path = view.pathThrough(s.curves);
        if (hot) p.strokePath(path, QPen(t.halo, 7, Qt::SolidLine, Qt::RoundCap));
        p.strokePath(path, s.isCut() ? QPen(t.good, 2.2) : QPen(t.inkSoft, 1.3));
    }
}

void TraceLayer::paintWords(QPainter& p, const QString& words, const TableView& view, QPointF pointer) {
    const Theme& t = theme();
    p.setFont(textFont(12, QFont::DemiBold));
    const QFontMetricsF metrics(p.font());
    QRectF box = metrics.boundingRect(QRectF(0, 0, 300, 200), Qt::TextWordWrap, words);
    box.moveTopLeft(pointer + QPointF(18, 14));
    if (box.right() > view.size.width() - 10) box.moveRight(pointer.x() - 14);
    p.setPen(QPen(t.line, 1));
    p.setBrush(t.card);
    p.drawRoundedRect(box.adjusted(-8, -5, 8, 5), 6, 6);
    p.setPen(t.ink);
    p.drawText(box, Qt::TextWordWrap, words);
}

} // namespace gc::app
