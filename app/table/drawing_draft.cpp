/// \file What is not there yet: drafts, offers, previews.

#include "app/look/theme.hpp"
#include "app/table/drawing_table.hpp"
#include "core/sketch/arcs.hpp"
#include "core/sketch/edit/cut.hpp"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace gc::app {

void DrawingTable::paintLineDraft(QPainter& p, Vec2 to) const {
    const Drawing& d = m_model->drawing();
    const Vec2 from = m_chainEnd ? d.at(m_chainEnd) : m_draft.front().at;
    Drawing sketch = m_arcNext ? d : Drawing();
    const int arc = m_arcNext ? drawTangentArc(sketch, m_lastStroke, m_chainEnd, to) : 0;
    if (arc)
        p.drawPath(pathThrough(curvesOf(sketch, *sketch.findStroke(arc)), 0.2 / m_scale));
    else
        p.drawLine(toScreen(from), toScreen(to));
}

/// What the tool would make with the pointer's place as its last.
void DrawingTable::paintDraft(QPainter& p) const {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().accent, 1.8));
    const Vec2 to = m_offer.at;
    if (m_tool == Tool::Line) {
        if (m_chainEnd || !m_draft.empty()) paintLineDraft(p, to);
        return paintOffer(p);
    }
    if (m_tool == Tool::Choose || m_tool >= Tool::Dimension) return;
    std::vector<Vec2> places;
    for (const Offer& o : m_draft) places.push_back(o.at);
    if (places.empty()) return paintOffer(p);
    if (length(places.back() - to) > 1e-6) places.push_back(to);
    Drawing sketch = clicked() == Clicked::ArcOnFrom ? m_model->drawing() : Drawing();
    const int before = sketch.nextId;
    const bool drawn = !drawByClicks(sketch, clicked(), places, m_sides).strokes.empty();
    if (!drawn || clicked() == Clicked::Poles) // the places so far, one after the other
        for (std::size_t i = 1; i < places.size(); ++i)
            p.drawLine(toScreen(places[i - 1]), toScreen(places[i]));
    if (drawn)
        for (const Stroke& s : sketch.strokes)
            if (s.id >= before) p.drawPath(pathThrough(curvesOf(sketch, s), 0.2 / m_scale));
    paintOffer(p);
}

void DrawingTable::paintOffer(QPainter& p) const {
    const Theme& t = theme();
    const QPointF at = toScreen(m_offer.at);
    p.setPen(QPen(m_offer.relations.empty() ? t.accent : t.halo, 2));
    p.drawEllipse(at, 5, 5);
    if (m_offer.words.empty()) return;
    const QString words = QString::fromStdString(m_offer.words);
    p.setFont(textFont(12, QFont::DemiBold));
    const double w = p.fontMetrics().horizontalAdvance(words) + 16;
    const QRectF box(at.x() + 14, at.y() - 30, w, 22);
    p.setPen(QPen(t.halo, 1.2));
    p.setBrush(t.paper);
    p.drawRoundedRect(box, 6, 6);
    p.setPen(t.ink);
    p.drawText(box, Qt::AlignCenter, words);
}

/// Held handles of splines, and the poles that lead one; not of what moves as one.
void DrawingTable::paintHandles(QPainter& p) const {
    const Drawing& d = m_model->drawing();
    const std::set<int> grouped = groupedStrokes();
    p.setPen(QPen(theme().inkSoft, 1, Qt::DotLine));
    const auto hairline = [&](const Stroke& s, std::size_t from, std::size_t to) {
        p.drawLine(toScreen(d.at(s.points[from])), toScreen(d.at(s.points[to])));
    };
    for (const Stroke& s : d.strokes) {
        if (grouped.count(s.id)) continue;
        if (s.kind == StrokeKind::Poles)
            for (std::size_t i = 1; i < s.points.size(); ++i) hairline(s, i - 1, i);
        if (s.kind == StrokeKind::Spline)
            for (std::size_t node = 0; node < s.held.size(); ++node)
                if (s.held[node]) hairline(s, 2 * node, 2 * node + 1);
    }
}

/// What a click with trim, extend or split would do.
void DrawingTable::paintCut(QPainter& p) const {
    const Theme& t = theme();
    const Drawing& d = m_model->drawing();
    const Stroke* s = d.findStroke(m_hover);
    if (!s) return;
    const Vec2 place = toDrawing(m_pointer);
    Drawing sketch;
    if (m_tool == Tool::Trim) {
        if (const auto piece = trimPiece(d, s->id, place)) {
            if (piece->whole)
                drawShape(sketch, gc::shapeOf(d, *s));
            else
                drawShape(sketch, partOf(d, *s, piece->from, piece->to));
            p.setPen(QPen(t.fail, 4, Qt::DotLine));
        }
    } else if (m_tool == Tool::Extend) {
        std::string why;
        if (const auto more = extension(d, s->id, place, why)) {
            p.setPen(QPen(t.accent, 2.2));
            p.drawPath(pathThrough({more->added}, 0.2 / m_scale));
            p.drawEllipse(toScreen(more->to), 5, 5);
        }
    } else if (m_tool == Tool::Split) {
        const StrokeRun run(d, *s);
        if (run.empty()) return;
        const double u = run.nearest(place);
        const QPointF at = toScreen(run.at(u));
        const Vec2 ahead = unit(run.slope(u));
        const QPointF n(ahead.y, ahead.x);
        p.setPen(QPen(t.accent, 2.4));
        p.drawLine(at - n * 8, at + n * 8);
    }
    for (const Stroke& part : sketch.strokes) p.drawPath(pathThrough(curvesOf(sketch, part), 0.2 / m_scale));
}

/// What an edit under way would make of the drawing.
void DrawingTable::paintPreview(QPainter& p) const {
    if (!m_preview) return;
    const Drawing& now = m_model->drawing();
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().accent, 2));
    for (const Stroke& s : m_preview->strokes) {
        const Stroke* was = now.findStroke(s.id);
        const bool same = was && *was == s && std::all_of(s.points.begin(), s.points.end(), [&](int id) {
                              return m_preview->at(id) == now.at(id);
                          });
        if (!same) p.drawPath(pathThrough(curvesOf(*m_preview, s), 0.2 / m_scale));
    }
}

void DrawingTable::paintBox(QPainter& p) const {
    const Theme& t = theme();
    if (m_byKeys) {
        p.setPen(QPen(t.accent, 1.6));
        for (const QPointF way : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
            p.drawLine(m_pointer + way * 5, m_pointer + way * 13);
    }
    if (m_loop.size() < 2) return;
    QColor soft = t.accent;
    soft.setAlphaF(0.10f);
    p.setPen(QPen(t.accent, 1.2, Qt::DashLine));
    p.setBrush(soft);
    p.drawPolygon(m_loop);
}

} // namespace gc::app
