#include "app/table/drawing_table.hpp"

#include "app/theme.hpp"
#include "core/sketch/arcs.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainterPath>

#include <algorithm>
#include <cmath>
#include <utility>

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

DrawingTable::DrawingTable(DrawingModel* model, QWidget* parent) : QWidget(parent), m_model(model) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    m_editor = new QLineEdit(this);
    m_editor->setFont(textFont(13, QFont::DemiBold));
    m_editor->setAlignment(Qt::AlignCenter);
    m_editor->hide();
    m_editor->installEventFilter(this);
    connect(m_model, &DrawingModel::changed, this, [this] {
        std::erase_if(m_chosen, [this](int id) {
            const Drawing& d = m_model->drawing();
            return id > 0 && !d.findPoint(id) && !d.findStroke(id) && !d.findRelation(id);
        });
        m_shown = nullptr;
        m_swing.stop();
        rebuildChips();
        if (!m_fitted) fit();
        update();
    });
    m_swing.setInterval(30);
    connect(&m_swing, &QTimer::timeout, this, [this] {
        m_phase += 0.12;
        update();
    });
}

QPointF DrawingTable::toScreen(Vec2 p) const {
    return m_zero + QPointF(p.x, -p.y) * m_scale;
}

Vec2 DrawingTable::toDrawing(QPointF p) const {
    const QPointF v = (p - m_zero) / m_scale;
    return {v.x(), -v.y()};
}

void DrawingTable::fit() {
    Vec2 low{-2, 0}, high{60, 60};
    const Drawing& d = m_model->drawing();
    if (!d.strokes.empty()) low = {0, 0}, high = {1, 1};
    for (const Stroke& s : d.strokes)
        for (const Curve2& c : curvesOf(d, s)) {
            Vec2 a, b;
            c.bounds(a, b);
            low = {std::min(low.x, a.x), std::min(low.y, a.y)};
            high = {std::max(high.x, b.x), std::max(high.y, b.y)};
        }
    const double room = std::max(high.x - low.x, 1e-3), tall = std::max(high.y - low.y, 1e-3);
    // Room for figures around it and for the card on the right.
    const double wide = std::max(200.0, width() - 380.0), high_ = std::max(160.0, height() - 170.0);
    m_scale = std::clamp(std::min(wide / room, high_ / tall), 0.02, 400.0);
    m_zero = QPointF(70 + (wide - room * m_scale) / 2 - low.x * m_scale,
                     70 + (high_ + tall * m_scale) / 2 + low.y * m_scale);
    m_fitted = width() > 340;
    update();
}

void DrawingTable::resizeEvent(QResizeEvent*) {
    fit();
}

void DrawingTable::setTool(Tool tool) {
    endChain();
    m_tool = tool;
    m_measuring.clear();
    if (tool != Tool::Choose) m_chosen.clear();
    rebuildChips();
    setFocus();
    Q_EMIT toolChanged(tool);
    update();
}

// ---- the pointer

void DrawingTable::look(QPointF pointer, Qt::KeyboardModifiers keys) {
    m_pointer = pointer;
    const Drawing& d = m_model->drawing();
    OfferQuestion q;
    q.pointer = toDrawing(pointer);
    q.reach = reach();
    q.free = keys.testFlag(Qt::AltModifier);
    if (m_tool == Tool::Line && m_chainEnd) {
        q.from = d.at(m_chainEnd);
        q.lastLine = m_lastStroke;
        q.notPoints = joinedPoints(d, m_chainEnd);
        if (m_arcNext) q.from.reset();
    } else if (m_tool == Tool::Line && !m_draft.empty()) {
        q.from = m_draft.front().at;
    }
    const bool draws = m_tool != Tool::Choose && m_tool != Tool::Dimension;
    m_offer = draws ? offerFor(d, q) : Offer{};
    m_hover = draws ? 0 : thingAt(d, q.pointer, reach());
}

void DrawingTable::mouseMoveEvent(QMouseEvent* e) {
    const QPointF at = e->position();
    if (m_panning) {
        m_zero += at - m_pointer;
        m_pointer = at;
        return update();
    }
    if (m_labelDragged) {
        if ((at - m_pressedAt).manhattanLength() > 4) m_labelAt = toDrawing(at);
        return update();
    }
    if (m_mayDrag && (at - m_pressedAt).manhattanLength() > 4 && !m_model->dragging()) {
        const Drawing& d = m_model->drawing();
        if (const Stroke* s = d.findStroke(m_hover)) {
            const bool circle = s->kind == StrokeKind::Circle;
            m_sizeDragged = circle ? s->id : 0;
            circle ? m_model->beginDragSize(s->id) : m_model->beginDrag(s->points);
        } else if (m_hover > 0) {
            m_model->beginDrag({m_hover});
        }
    }
    if (m_model->dragging()) {
        if (m_sizeDragged) {
            const Drawing& d = m_model->drawing();
            m_model->dragSizeTo(length(toDrawing(at) - d.at(centrePoint(*d.findStroke(m_sizeDragged)))));
        } else {
            m_model->dragTo(toDrawing(at) - toDrawing(m_pressedAt));
        }
        return;
    }
    look(at, e->modifiers());
    const FreeMotion* before = m_shown;
    m_shown = nullptr;
    bool onButton = false;
    for (const auto* list : {&m_cards, &m_chips})
        for (const Button& b : *list)
            if (b.rect.contains(at)) {
                onButton = true;
                if (b.hovered) b.hovered();
            }
    if (m_shown != before) {
        m_phase = 0;
        m_shown ? m_swing.start() : m_swing.stop();
    }
    setCursor(onButton ? Qt::PointingHandCursor : m_tool == Tool::Choose ? Qt::ArrowCursor : Qt::CrossCursor);
    update();
}

void DrawingTable::mousePressEvent(QMouseEvent* e) {
    setFocus();
    m_pressedAt = m_pointer = e->position();
    if (e->button() == Qt::MiddleButton || e->button() == Qt::RightButton) {
        m_panning = true;
        return;
    }
    for (const auto* list : {&m_cards, &m_chips})
        for (const Button& b : *list)
            if (b.rect.contains(e->position())) return; // answered on release
    if (m_editor->isVisible()) closeEditor(true);
    look(e->position(), e->modifiers());
    if (m_tool != Tool::Choose) return;
    for (const Relation& r : m_model->drawing().relations)
        if (wordsOf(r.kind).sized &&
            QRectF(figureAt(r.id) - QPointF(30, 12), QSizeF(60, 24)).contains(e->position())) {
            m_labelDragged = r.id;
            return;
        }
    m_mayDrag = m_hover > 0;
}

void DrawingTable::mouseReleaseEvent(QMouseEvent* e) {
    if (m_panning) {
        m_panning = false;
        // A right click that did not move ends a chain, as Esc does.
        if (e->button() == Qt::RightButton && (e->position() - m_pressedAt).manhattanLength() < 4) endChain();
        return;
    }
    const bool still = (e->position() - m_pressedAt).manhattanLength() <= 4;
    m_mayDrag = false;
    if (m_labelDragged) {
        const int id = m_labelDragged;
        m_labelDragged = 0;
        const auto to = std::exchange(m_labelAt, std::nullopt);
        if (!to) return openEditor(id);
        m_model->edit(tr("figure moved"), [&](Drawing& d) {
            Relation* r = d.findRelation(id);
            if (r) r->label = *to - dimensionShape(d, *r, 1).middle;
        });
        return;
    }
    if (m_model->dragging()) {
        m_sizeDragged = 0;
        m_model->endDrag(tr("dragged"));
        return;
    }
    for (const auto* list : {&m_cards, &m_chips})
        for (const Button& b : *list)
            if (b.rect.contains(e->position())) {
                const auto action = b.action; // the list is made anew by what it does
                if (action) action();
                return;
            }
    if (still) {
        m_tool == Tool::Choose ? clickChoose(e->position(), e->modifiers().testFlag(Qt::ShiftModifier))
                               : click(e->position());
    }
    look(e->position(), e->modifiers());
    update();
}

void DrawingTable::wheelEvent(QWheelEvent* e) {
    const double factor = std::pow(1.0015, e->angleDelta().y());
    const QPointF at = e->position();
    const double scale = std::clamp(m_scale * factor, 0.02, 2000.0);
    m_zero = at + (m_zero - at) * (scale / m_scale);
    m_scale = scale;
    update();
}

void DrawingTable::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Escape:
        if (m_chainEnd || !m_draft.empty() || !m_measuring.empty()) {
            endChain();
            m_measuring.clear();
        } else if (m_tool != Tool::Choose) {
            setTool(Tool::Choose);
        } else { // it never leaves the table: one Esc too many must not put the drawing away
            m_chosen.clear();
            rebuildChips();
        }
        return update();
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (m_tool == Tool::Spline) finishSpline();
        endChain();
        return update();
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        return removeChosen();
    case Qt::Key_Tab:
        if (m_tool == Tool::Line && m_chainEnd && m_lastStroke) {
            m_arcNext = !m_arcNext;
            look(m_pointer, e->modifiers());
            return update();
        }
        break;
    case Qt::Key_Home:
        return fit();
    default:
        break;
    }
    QWidget::keyPressEvent(e);
}

// ---- tools

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
    int id = 0;
    m_model->edit(tr("dimension"), [&](Drawing& drawing) {
        Relation r = *wanted;
        id = r.id = drawing.nextId++;
        const Dimension dimension = wordsOf(r.kind).dimension;
        const double now = measured(drawing, r);
        r.expression = dimension == kNumber ? formatNumber(now, 6)
                                            : formatAmount(now, m_model->units().symbolFor(dimension), 6);
        drawing.relations.push_back(std::move(r));
    });
    openEditor(id);
}

int DrawingTable::markAt(QPointF at) const {
    for (const auto& [place, relation] : m_marks)
        if ((place - at).manhattanLength() < 9) return relation;
    return 0;
}

QPointF DrawingTable::markOf(int relation) const {
    for (const auto& [place, id] : m_marks)
        if (id == relation) return place;
    return {};
}

void DrawingTable::clickChoose(QPointF pointer, bool more) {
    if (const int mark = markAt(pointer)) { // a relation: it is read out, and can be removed
        m_chosen = {mark};
        rebuildChips();
        const Drawing& d = m_model->drawing();
        return Q_EMIT message(QString::fromStdString(sentenceOf(d, *d.findRelation(mark), m_model->units())));
    }
    std::erase_if(m_chosen, [this](int id) { return m_model->drawing().findRelation(id) != nullptr; });
    const int thing = thingAt(m_model->drawing(), toDrawing(pointer), reach());
    const auto at = std::find(m_chosen.begin(), m_chosen.end(), thing);
    if (!thing) {
        if (!more) m_chosen.clear();
    } else if (at != m_chosen.end()) {
        m_chosen.erase(at);
    } else {
        m_chosen.push_back(thing); // choosing adds: what belongs together is clicked in turn
    }
    rebuildChips();
}

void DrawingTable::applyRelation(RelationKind kind, const std::vector<int>& of) {
    if (wordsOf(kind).sized) {
        int id = 0;
        m_model->edit(tr("dimension"), [&](Drawing& d) {
            id = d.relate(kind, of);
            Relation& r = *d.findRelation(id);
            const Dimension dimension = wordsOf(kind).dimension;
            const double now = measured(d, r);
            r.expression = dimension == kNumber ? formatNumber(now, 6)
                                                : formatAmount(now, m_model->units().symbolFor(dimension), 6);
        });
        m_chosen.clear();
        rebuildChips();
        return openEditor(id);
    }
    m_model->edit(QString::fromStdString(wordsOf(kind).label).toLower(),
                  [&](Drawing& d) { d.relate(kind, of); });
    m_chosen.clear();
    rebuildChips();
    update();
}

void DrawingTable::removeChosen() {
    if (m_chosen.empty()) return;
    std::vector<int> ids = m_chosen;
    std::erase_if(ids, [](int id) { return id <= 0; });
    m_chosen.clear();
    m_model->edit(tr("removed"), [&](Drawing& d) { d.erase(ids); });
}

// ---- figures in place

QPointF DrawingTable::figureAt(int relation) const {
    const Relation* r = m_model->drawing().findRelation(relation);
    return r ? toScreen(shapeOf(*r).figure) : QPointF();
}

/// With the figure where it is being dragged.
DimensionShape DrawingTable::shapeOf(const Relation& r) const {
    const Drawing& d = m_model->drawing();
    if (m_labelAt && r.id == m_labelDragged) {
        Relation moved = r;
        moved.label = *m_labelAt - dimensionShape(d, r, 1).middle;
        return dimensionShape(d, moved, 1);
    }
    return dimensionShape(d, r, 34 / m_scale);
}

void DrawingTable::openEditor(int relation) {
    const Relation* r = m_model->drawing().findRelation(relation);
    if (!r) return;
    m_editing = relation;
    const QPointF at = figureAt(relation);
    m_editor->setText(
        QString::fromStdString(r->expression.empty() ? m_model->figure(*r).toStdString() : r->expression));
    m_editor->resize(std::max(96, m_editor->fontMetrics().horizontalAdvance(m_editor->text()) + 30), 28);
    m_editor->move((at - QPointF(m_editor->width() / 2.0, 14)).toPoint());
    m_editor->show();
    m_editor->setFocus();
    m_editor->selectAll();
}

void DrawingTable::closeEditor(bool keep) {
    if (!m_editing) return;
    const int id = m_editing;
    const Relation* r = m_model->drawing().findRelation(id);
    if (keep && r && m_editor->text().trimmed().isEmpty()) { // no size is wanted there
        m_editing = 0;
        m_editor->hide();
        setFocus();
        return m_model->edit(tr("dimension taken away"), [id](Drawing& d) { d.erase({id}); });
    }
    if (keep && r && m_editor->text().trimmed().toStdString() != r->expression) {
        const QString why = m_model->setSize(id, m_editor->text());
        if (!why.isEmpty()) { // what was typed stays, to be mended
            Q_EMIT message(QStringLiteral("■ ") + why);
            m_editor->setFocus();
            return;
        }
        if (m_model->justScaled()) fit();
        if (m_model->justScaled())
            Q_EMIT message(
                tr("The drawing was scaled by %1 to its first size.").arg(m_model->scaledBy(), 0, 'g', 3));
    }
    m_editing = 0;
    m_editor->hide();
    setFocus();
}

void DrawingTable::nextEditor() {
    const int before = m_editing;
    closeEditor(true);
    if (m_editing) return; // it was not taken
    const auto& all = m_model->drawing().relations;
    int next = 0, first = 0;
    for (const Relation& r : all) {
        if (!wordsOf(r.kind).sized) continue;
        if (!first) first = r.id;
        if (!next && r.id > before) next = r.id;
    }
    openEditor(next ? next : first);
}

bool DrawingTable::eventFilter(QObject* o, QEvent* e) {
    if (o != m_editor || e->type() != QEvent::KeyPress) return QWidget::eventFilter(o, e);
    const int key = static_cast<QKeyEvent*>(e)->key();
    if (key == Qt::Key_Escape) {
        closeEditor(false);
    } else if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        closeEditor(true);
    } else if (key == Qt::Key_Tab) {
        nextEditor();
    } else {
        return QWidget::eventFilter(o, e);
    }
    update();
    return true;
}

// ---- what can be said of what is chosen

void DrawingTable::rebuildChips() {
    m_chips.clear();
    const Drawing& d = m_model->drawing();
    if (m_tool != Tool::Choose || m_chosen.empty()) return;
    const auto chip = [&](const QString& label, std::function<void()> action) {
        m_chips.push_back({QRectF(), label, std::move(action), {}});
    };
    std::vector<std::vector<int>> orders{m_chosen};
    if (m_chosen.size() == 2) orders.push_back({m_chosen[1], m_chosen[0]});
    for (const RelationWords& words : allRelationWords())
        for (const auto& of : orders) {
            if (!whyNot(d, words.kind, of).empty()) continue;
            QString label = QString::fromStdString(words.label);
            if (words.kind == RelationKind::Distance && of.size() == 1) label = tr("Length");
            chip(label, [this, kind = words.kind, of] { applyRelation(kind, of); });
            break;
        }
    const bool strokes =
        std::any_of(m_chosen.begin(), m_chosen.end(), [&](int id) { return d.findStroke(id) != nullptr; });
    if (strokes)
        chip(tr("Helper"), [this] {
            const auto ids = m_chosen;
            m_model->edit(tr("helper"), [&](Drawing& drawing) {
                for (const int id : ids)
                    if (Stroke* s = drawing.findStroke(id)) s->helper = !s->helper;
            });
        });
    if (std::any_of(m_chosen.begin(), m_chosen.end(), [](int id) { return id > 0; }))
        chip(tr("Remove"), [this] { removeChosen(); });
}

QRectF DrawingTable::chipRect(const QString& label) const {
    for (const Button& b : m_chips)
        if (b.label == label) return b.rect;
    return {};
}

QRectF DrawingTable::cardRect(const QString& words) const {
    for (const Button& b : m_cards)
        if (b.label.contains(words)) return b.rect;
    return {};
}

} // namespace gc::app
