#include "app/table/drawing_table.hpp"

#include "core/sketch/arcs.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/cut.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace gc::app {

namespace {

ToolWords toolWords(Tool tool, const char* key, const QString& label, const QString& tip,
                    const QString& group) {
    return {tool, QLatin1String(key), label, tip, group};
}

} // namespace

const QList<ToolWords>& allTools() {
    static const QString draw = QObject::tr("draw and size"), change = QObject::tr("change");
    static const QList<ToolWords> all{
        toolWords(Tool::Choose, "choose", QObject::tr("Choose"),
                  QObject::tr("Choose, drag, relate. A drag on empty paper draws a box; with Ctrl, a loop"),
                  draw),
        toolWords(
            Tool::Line, "line", QObject::tr("Line"),
            QObject::tr("A chain of lines. Tab: the next piece is a tangent arc. Alt: free of relations"),
            draw),
        toolWords(Tool::Arc, "arc", QObject::tr("Arc"),
                  QObject::tr("An arc: its two ends, then a point on it"), draw),
        toolWords(Tool::Circle, "circle", QObject::tr("Circle"),
                  QObject::tr("A circle: its centre, then its rim"), draw),
        toolWords(Tool::Ellipse, "ellipse", QObject::tr("Ellipse"),
                  QObject::tr("An ellipse: its centre, an end of one axis, then how wide the other is"),
                  draw),
        toolWords(Tool::Rectangle, "rectangle", QObject::tr("Rectangle"),
                  QObject::tr("A rectangle by two corners"), draw),
        toolWords(Tool::Polygon, "polygon", QObject::tr("Polygon"),
                  QObject::tr("A regular polygon: its centre, then a corner"), draw),
        toolWords(Tool::Slot, "slot", QObject::tr("Slot"),
                  QObject::tr("A slot: the centres of its two ends, then how wide"), draw),
        toolWords(Tool::Conic, "conic", QObject::tr("Conic"),
                  QObject::tr("A conic arc: its two ends, then where the tangents there meet"), draw),
        toolWords(Tool::Spline, "spline", QObject::tr("Spline"),
                  QObject::tr("A spline: point after point, then Enter"), draw),
        toolWords(Tool::Point, "point", QObject::tr("Point"), QObject::tr("A point by itself"), draw),
        toolWords(Tool::Follow, "follow", QObject::tr("Follow"),
                  QObject::tr("Click an edge or a cut of the part: a stroke that stays with it"), draw),
        toolWords(Tool::Picture, "picture", QObject::tr("Picture"),
                  QObject::tr("A picture to draw over: two places and a length set it to scale"), draw),
        toolWords(Tool::Dimension, "dimension", QObject::tr("Dimension"),
                  QObject::tr("A size: what it measures, then where its figure goes"), draw),
        toolWords(Tool::Trim, "trim", QObject::tr("Trim"),
                  QObject::tr("Click a piece between two meetings: it goes"), change),
        toolWords(Tool::Extend, "extend", QObject::tr("Extend"),
                  QObject::tr("Click a line or an arc near an end: it runs on to the next stroke"), change),
        toolWords(Tool::Split, "split", QObject::tr("Split"),
                  QObject::tr("Click a stroke: it becomes two there"), change),
    };
    return all;
}

namespace {

/// One way to use a tool; its label is empty where there is only one.
struct ToolWay {
    Clicked what;
    QString label;
};

QList<ToolWay> toolWays(Tool tool) {
    switch (tool) {
    case Tool::Arc:
        return {{Clicked::ArcThrough, QObject::tr("through a point")},
                {Clicked::ArcAbout, QObject::tr("about a centre")},
                {Clicked::ArcOnFrom, QObject::tr("on from an end")}};
    case Tool::Circle:
        return {{Clicked::CircleAbout, QObject::tr("about a centre")},
                {Clicked::CircleThrough, QObject::tr("through three points")}};
    case Tool::Rectangle:
        return {{Clicked::Rectangle, QObject::tr("by two corners")},
                {Clicked::RectangleAbout, QObject::tr("about a centre")},
                {Clicked::RectangleRound, QObject::tr("with round corners")}};
    case Tool::Spline:
        return {{Clicked::Spline, QObject::tr("through points")},
                {Clicked::Poles, QObject::tr("led by poles")},
                {Clicked::Fair, QObject::tr("fair, near stations")}};
    case Tool::Ellipse:
        return {{Clicked::Ellipse, {}}};
    case Tool::Polygon:
        return {{Clicked::Polygon, {}}};
    case Tool::Slot:
        return {{Clicked::Slot, {}}};
    case Tool::Conic:
        return {{Clicked::Conic, {}}};
    default:
        return {{Clicked::Point, {}}};
    }
}

} // namespace

QStringList waysOf(Tool tool) {
    if (tool == Tool::Picture) return {QObject::tr("set to scale"), QObject::tr("move it")};
    QStringList out;
    for (const ToolWay& w : toolWays(tool))
        if (!w.label.isEmpty()) out << w.label;
    return out;
}

Clicked DrawingTable::clicked() const {
    return toolWays(m_tool)[way()].what;
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
    case Tool::Choose:
        return;
    case Tool::Line:
        return clickLine();
    case Tool::Dimension:
        return clickDimension(pointer);
    case Tool::Follow:
        return clickFollow();
    case Tool::Picture:
        return clickPicture(pointer);
    case Tool::Trim:
    case Tool::Extend:
    case Tool::Split:
        return clickCut();
    default:
        return clickDrawn();
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
    const QString typed = std::exchange(m_typedLength, {});
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
        if (!arc && !typed.isEmpty()) { // a typed length is a size
            d.relate(RelationKind::Distance, {stroke}, typed.toStdString());
            d.sized = true;
        }
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

void DrawingTable::clickDrawn() {
    m_draft.push_back(m_offer);
    if (!takesMore(clicked()) && static_cast<int>(m_draft.size()) >= placesFor(clicked())) finishDrawn();
}

void DrawingTable::finishDrawn() {
    const auto draft = std::exchange(m_draft, {});
    const QString typed = std::exchange(m_typedLength, {});
    if (draft.empty()) return;
    if (static_cast<int>(draft.size()) < placesFor(clicked()))
        return Q_EMIT message(
            clicked() == Clicked::Poles  ? tr("■ A spline led by poles needs at least four of them.")
            : clicked() == Clicked::Fair ? tr("■ A fair curve needs at least three stations.")
                                         : tr("■ A spline needs at least two points."));
    std::vector<Vec2> places;
    for (const Offer& o : draft) places.push_back(o.at);
    Drawing with = m_model->drawing();
    const DrawnByClicks drawn = drawByClicks(with, clicked(), places, m_sides);
    if (drawn.strokes.empty())
        return Q_EMIT message(
            clicked() == Clicked::ArcOnFrom
                ? tr("■ Click the end of a line or curve first, then a place to the side of it.")
                : tr("■ The places lie on one line or on one spot. Click the last one beside it."));
    for (std::size_t i = 0; i < drawn.points.size() && i < draft.size(); ++i)
        if (drawn.points[i]) landed(with, drawn.points[i], 0, draft[i]);
    if (drawn.rim) landOnRim(with, drawn.rim, draft.back(), typed);
    m_model->edit(verbOf(m_tool), [&](Drawing& d) { d = std::move(with); });
}

/// A circle keeps the radius that was typed, or goes through the point that was clicked.
void DrawingTable::landOnRim(Drawing& d, int circle, const Offer& offer, const QString& typed) const {
    if (!typed.isEmpty()) {
        d.relate(RelationKind::Radius, {circle}, typed.toStdString());
        d.sized = true;
        return;
    }
    for (const Relation& offered : offer.relations)
        if (offered.kind == RelationKind::Coincident)
            d.relate(RelationKind::OnStroke, {offered.of[1], circle});
}

QString DrawingTable::verbOf(Tool tool) {
    for (const ToolWords& t : allTools())
        if (t.tool == tool) return t.label.toLower();
    return {};
}

/// Trim, extend and split act on the stroke under the pointer.
void DrawingTable::clickCut() {
    const Vec2 place = toDrawing(m_pointer);
    const int stroke = strokeAt(m_model->drawing(), place, reach());
    if (!stroke) return Q_EMIT message(tr("Point at a line or curve; what would happen is shown."));
    Drawing trial = m_model->drawing();
    const EditOutcome out = m_tool == Tool::Trim     ? trim(trial, stroke, place)
                            : m_tool == Tool::Extend ? extend(trial, stroke, place)
                                                     : split(trial, stroke, place);
    if (!out.done()) return Q_EMIT message(QStringLiteral("■ ") + QString::fromStdString(out.whyNot));
    m_model->edit(m_tool == Tool::Trim     ? tr("trimmed")
                  : m_tool == Tool::Extend ? tr("extended")
                                           : tr("split"),
                  [&](Drawing& d) { d = trial; });
    sayLost(out);
}

void DrawingTable::sayLost(const EditOutcome& out) {
    if (out.lost.empty()) return;
    QStringList lost;
    for (const std::string& l : out.lost) lost << QString::fromStdString(l);
    Q_EMIT message(tr("▲ Taken away, as it does not hold any more: %1. Ctrl+Z brings it back.")
                       .arg(lost.join(QStringLiteral("; "))));
}

void DrawingTable::setWay(int way) {
    m_ways[m_tool] = way;
    m_pictureClicks.clear();
    m_draft.clear();
    rebuildChips();
    look(m_pointer, Qt::NoModifier);
    update();
}

void DrawingTable::turnWay() {
    const auto ways = waysOf(m_tool);
    if (!ways.isEmpty()) setWay((way() + 1) % static_cast<int>(ways.size()));
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

/// How wide a curve is about the axis at the height that was clicked: both figures are open to typing.
void DrawingTable::addWidth(int stroke, Vec2 place) {
    CurveWidth width;
    m_model->edit(tr("width at a height"),
                  [&](Drawing& d) { width = widthAt(d, stroke, place, m_model->units()); });
    if (width.diameter) openEditor(width.diameter);
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
    const int first = m_measuring.front();
    const bool alone = m_measuring.size() == 1;
    m_measuring.clear();
    if (!wanted && alone && hasWidths(d, first)) return addWidth(first, toDrawing(pointer));
    if (!wanted)
        return Q_EMIT message(
            tr("■ These have no size between them. Choose a line, a circle, or two things."));
    addDimension(*wanted);
}

} // namespace gc::app
