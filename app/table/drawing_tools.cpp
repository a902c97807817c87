#include "app/table/drawing_table.hpp"

#include "core/sketch/arcs.hpp"
#include "core/sketch/drawing_words.hpp"

#include <algorithm>
#include <cmath>

namespace gc::app {

const QList<ToolWords>& allTools() {
    static const QList<ToolWords> all{
        {Tool::Choose, QStringLiteral("choose"), QObject::tr("Choose"), QObject::tr("Choose, drag, relate"),
         QObject::tr("draw")},
        {Tool::Line, QStringLiteral("line"), QObject::tr("Line"),
         QObject::tr("A chain of lines. Tab: the next piece is a tangent arc. Alt: free of relations"),
         QObject::tr("draw")},
        {Tool::Arc, QStringLiteral("arc"), QObject::tr("Arc"),
         QObject::tr("An arc: its two ends, then a point on it"), QObject::tr("draw")},
        {Tool::Circle, QStringLiteral("circle"), QObject::tr("Circle"),
         QObject::tr("A circle: its centre, then its rim"), QObject::tr("draw")},
        {Tool::Ellipse, QStringLiteral("ellipse"), QObject::tr("Ellipse"),
         QObject::tr("An ellipse: its centre, an end of one axis, then how wide the other is"),
         QObject::tr("draw")},
        {Tool::Rectangle, QStringLiteral("rectangle"), QObject::tr("Rectangle"),
         QObject::tr("A rectangle by two corners"), QObject::tr("draw")},
        {Tool::Slot, QStringLiteral("slot"), QObject::tr("Slot"),
         QObject::tr("A slot: the centres of its two ends, then how wide"), QObject::tr("draw")},
        {Tool::Conic, QStringLiteral("conic"), QObject::tr("Conic"),
         QObject::tr("A conic arc: its two ends, then where the tangents there meet"), QObject::tr("draw")},
        {Tool::Spline, QStringLiteral("spline"), QObject::tr("Spline"),
         QObject::tr("A spline: point after point, then Enter"), QObject::tr("draw")},
        {Tool::Point, QStringLiteral("point"), QObject::tr("Point"), QObject::tr("A point by itself"),
         QObject::tr("draw")},
        {Tool::Dimension, QStringLiteral("dimension"), QObject::tr("Dimension"),
         QObject::tr("A size: what it measures, then where its figure goes"), QObject::tr("relate")},
    };
    return all;
}

/// Puts an offer's relations into the drawing. \return the point that the new one was joined to, or 0
int DrawingTable::landed(Drawing& d, int newPoint, int newLine, const Offer& offer) const {
    int joined = 0;
    for (Relation r : offer.relations) {
        for (int& of : r.of) {
            if (of == kNewPoint) of = newPoint;
            if (of == kNewLine) of = newLine;
        }
        if (std::find(r.of.begin(), r.of.end(), 0) != r.of.end()) continue;
        if (!whyNot(d, r.kind, r.of).empty()) continue;
        if (r.kind == RelationKind::Coincident) joined = r.of[1];
        d.relate(r.kind, r.of);
    }
    return joined;
}

void DrawingTable::click(QPointF pointer) {
    switch (m_tool) {
    case Tool::Line:
        return clickLine();
    case Tool::Arc:
        return clickArc();
    case Tool::Circle:
        return clickCircle();
    case Tool::Rectangle:
        return clickRectangle();
    case Tool::Ellipse:
    case Tool::Slot:
    case Tool::Conic:
        return clickThree();
    case Tool::Spline:
        m_draft.push_back(m_offer);
        return;
    case Tool::Point: {
        const Offer offer = m_offer;
        m_model->edit(tr("point"), [&](Drawing& d) {
            const int s = d.draw(StrokeKind::Point, {offer.at});
            landed(d, d.findStroke(s)->points[0], 0, offer);
        });
        return;
    }
    case Tool::Dimension:
        return clickDimension(pointer);
    case Tool::Choose:
        return;
    }
}

void DrawingTable::endChain() {
    m_draft.clear();
    m_chainEnd = m_chainStart = m_lastStroke = 0;
    m_arcNext = false;
}

void DrawingTable::clickLine() {
    if (!m_chainEnd && m_draft.empty()) {
        m_draft.push_back(m_offer);
        return;
    }
    const Offer offer = m_offer;
    const Drawing& now = m_model->drawing();
    const Vec2 from = m_chainEnd ? now.at(m_chainEnd) : m_draft.front().at;
    if (length(offer.at - from) < 1e-6) return;
    int joined = 0, end = 0, start = 0, stroke = 0;
    const bool arc = m_arcNext && m_lastStroke;
    m_model->edit(arc ? tr("tangent arc") : tr("line"), [&](Drawing& d) {
        if (arc) {
            stroke = drawTangentArc(d, m_lastStroke, m_chainEnd, offer.at);
            if (!stroke) return;
            const Stroke& s = *d.findStroke(stroke);
            const bool forward = length(d.at(s.points[0]) - from) < length(d.at(s.points[1]) - from);
            start = forward ? s.points[0] : s.points[1];
            end = forward ? s.points[1] : s.points[0];
        } else {
            stroke = d.draw(StrokeKind::Line, {from, offer.at});
            start = d.findStroke(stroke)->points[0];
            end = d.findStroke(stroke)->points[1];
        }
        if (m_chainEnd)
            d.relate(RelationKind::Coincident, {start, m_chainEnd});
        else
            landed(d, start, 0, m_draft.front());
        if (arc) d.relate(RelationKind::Tangent, {m_lastStroke, stroke});
        joined = landed(d, end, arc ? 0 : stroke, offer);
    });
    if (!stroke) return Q_EMIT message(tr("■ A tangent arc cannot get there. Press Tab for a line."));
    if (!m_chainStart) m_chainStart = start;
    m_draft.clear();
    m_chainEnd = end;
    m_lastStroke = stroke;
    m_arcNext = false;
    // Back where it began: the chain is a ring, and done.
    const auto ring = joinedPoints(m_model->drawing(), m_chainStart);
    if (joined && std::find(ring.begin(), ring.end(), joined) != ring.end()) endChain();
}

void DrawingTable::clickArc() {
    m_draft.push_back(m_offer);
    if (m_draft.size() < 3) return;
    const auto draft = m_draft;
    endChain();
    bool done = false;
    m_model->edit(tr("arc"), [&](Drawing& d) {
        const int s = drawArcThrough(d, draft[0].at, draft[2].at, draft[1].at);
        if (!s) return;
        done = true;
        // Counter-clockwise it may run from the second click to the first.
        const Stroke& arc = *d.findStroke(s);
        const bool forward = length(d.at(arc.points[0]) - draft[0].at) < 1e-9;
        landed(d, forward ? arc.points[0] : arc.points[1], 0, draft[0]);
        landed(d, forward ? arc.points[1] : arc.points[0], 0, draft[1]);
    });
    if (!done) Q_EMIT message(tr("■ The three points lie on one line. Click the third beside it."));
}

void DrawingTable::clickCircle() {
    m_draft.push_back(m_offer);
    if (m_draft.size() < 2) return;
    const auto draft = m_draft;
    endChain();
    const double r = length(draft[1].at - draft[0].at);
    if (r < 1e-6) return;
    m_model->edit(tr("circle"), [&](Drawing& d) {
        const int s = d.draw(StrokeKind::Circle, {draft[0].at}, {r});
        landed(d, d.findStroke(s)->points[0], 0, draft[0]);
        for (const Relation& offered : draft[1].relations) // through the point that was clicked
            if (offered.kind == RelationKind::Coincident)
                d.relate(RelationKind::OnStroke, {offered.of[1], s});
    });
}

void DrawingTable::clickRectangle() {
    m_draft.push_back(m_offer);
    if (m_draft.size() < 2) return;
    const auto draft = m_draft;
    endChain();
    const Vec2 a = draft[0].at, b = draft[1].at;
    if (std::fabs(a.x - b.x) < 1e-6 || std::fabs(a.y - b.y) < 1e-6) return;
    m_model->edit(tr("rectangle"), [&](Drawing& d) {
        const Vec2 at[] = {a, {b.x, a.y}, b, {a.x, b.y}};
        int lines[4];
        for (std::size_t i = 0; i < 4; ++i) lines[i] = d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]});
        const auto point = [&](std::size_t i, std::size_t end) {
            return d.findStroke(lines[i % 4])->points[end];
        };
        for (std::size_t i = 0; i < 4; ++i) {
            d.relate(RelationKind::Coincident, {point(i, 1), point(i + 1, 0)});
            d.relate(i % 2 ? RelationKind::Vertical : RelationKind::Horizontal, {lines[i]});
        }
        landed(d, point(0, 0), 0, draft[0]);
        landed(d, point(2, 0), 0, draft[1]);
    });
}

void DrawingTable::clickThree() {
    m_draft.push_back(m_offer);
    if (m_draft.size() < 3) return;
    const auto draft = m_draft;
    const Tool tool = m_tool;
    endChain();
    const Vec2 a = draft[0].at, b = draft[1].at, c = draft[2].at;
    const double wide = length(b - a) < 1e-9 ? 0 : std::fabs(cross(b - a, c - a)) / length(b - a);
    if (wide < 1e-6)
        return Q_EMIT message(tr("■ The three points lie on one line. Click the third beside it."));
    m_model->edit(tool == Tool::Slot    ? tr("slot")
                  : tool == Tool::Conic ? tr("conic")
                                        : tr("ellipse"),
                  [&](Drawing& d) {
                      std::vector<int> at;
                      if (tool == Tool::Slot) {
                          at = drawSlot(d, a, b, wide);
                      } else {
                          const bool conic = tool == Tool::Conic;
                          const int s = conic ? d.draw(StrokeKind::Conic, {a, b, c}, {0.5})
                                              : d.draw(StrokeKind::Ellipse, {a, b}, {wide});
                          at = d.findStroke(s)->points;
                          if (conic) landed(d, at[2], 0, draft[2]);
                      }
                      if (at.size() < 2) return;
                      landed(d, at[0], 0, draft[0]);
                      landed(d, at[1], 0, draft[1]);
                  });
}

void DrawingTable::finishSpline() {
    const auto draft = m_draft;
    if (draft.size() < 2) return;
    m_model->edit(tr("spline"), [&](Drawing& d) {
        std::vector<Vec2> nodes;
        for (const Offer& o : draft) nodes.push_back(o.at);
        const Stroke s = *d.findStroke(drawSpline(d, nodes));
        for (std::size_t i = 0; i < draft.size(); ++i) landed(d, s.points[2 * i], 0, draft[i]);
    });
}

/// At what it measures now, with its figure open for typing.
void DrawingTable::addDimension(Relation dimension) {
    m_model->edit(tr("dimension"), [&](Drawing& d) {
        dimension.id = d.nextId++;
        dimension.expression =
            sizeInWords(measured(d, dimension), wordsOf(dimension.kind).dimension, m_model->units(), 6);
        d.relations.push_back(dimension);
    });
    openEditor(dimension.id);
}

void DrawingTable::clickDimension(QPointF pointer) {
    const Drawing& d = m_model->drawing();
    const int thing = thingAt(d, toDrawing(pointer), reach());
    if (thing && std::find(m_measuring.begin(), m_measuring.end(), thing) == m_measuring.end() &&
        m_measuring.size() < 2) {
        m_measuring.push_back(thing);
        // A figure is always put down by a click beside things, so that two things can be measured.
        return update();
    }
    if (m_measuring.empty()) return;
    const auto wanted = dimensionFor(d, m_measuring, toDrawing(pointer));
    m_measuring.clear();
    if (!wanted)
        return Q_EMIT message(
            tr("■ These have no size between them. Choose a line, a circle, or two things."));
    addDimension(*wanted);
}

} // namespace gc::app
