#include "app/table/drawing_table.hpp"

#include "app/look/theme.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainterPath>

#include <algorithm>
#include <cmath>
#include <utility>

namespace gc::app {

namespace {
constexpr double kFirstAway = 34; // pixels from what is measured to its figure
} // namespace

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
        m_cards.clear(); // its lines speak of what was known before
        m_swing.stop();
        m_area.clear();
        choiceChanged();
        if (!m_fitted) fit();
        rebuildStrip();
        if (!m_model->dragging()) layFigures(); // while something moves, figures keep their rows
        update();
    });
    m_ghostSoon.setSingleShot(true);
    m_ghostSoon.setInterval(60);
    connect(&m_ghostSoon, &QTimer::timeout, this, &DrawingTable::refreshGhost);
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
    if (d.strokes.empty() && !d.picture && corners)
        for (const QVector3D& c : corners()) {
            const Vec2 p = m_plane.foot({double(c.x()), double(c.y()), double(c.z())});
            low = {std::min(low.x, p.x), std::min(low.y, p.y)};
            high = {std::max(high.x, p.x), std::max(high.y, p.y)};
        }
    if (d.picture) {
        const Vec2 far = d.picture->at + Vec2{d.picture->width, d.picture->height};
        if (d.strokes.empty()) low = d.picture->at, high = far;
        low = {std::min(low.x, d.picture->at.x), std::min(low.y, d.picture->at.y)};
        high = {std::max(high.x, far.x), std::max(high.y, far.y)};
    }
    const double room = std::max(high.x - low.x, 1e-3), tall = std::max(high.y - low.y, 1e-3);
    // Room for figures around it and for the card on the right.
    const double wide = std::max(200.0, width() - cardWidth() - 118.0),
                 high_ = std::max(160.0, height() - 170.0);
    m_scale = std::clamp(std::min(wide / room, high_ / tall), 0.02, 400.0);
    m_zero = QPointF(70 + (wide - room * m_scale) / 2 - low.x * m_scale,
                     70 + (high_ + tall * m_scale) / 2 + low.y * m_scale);
    m_fitted = width() > 340;
    layFigures();
    update();
}

void DrawingTable::resizeEvent(QResizeEvent*) {
    fit();
}

void DrawingTable::setTool(Tool tool) {
    endChain();
    m_tool = tool;
    m_pictureClicks.clear();
    m_measuring.clear();
    if (tool != Tool::Choose) m_chosen.clear();
    choiceChanged();
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
    const bool cuts = m_tool == Tool::Trim || m_tool == Tool::Extend || m_tool == Tool::Split;
    const bool draws = m_tool != Tool::Choose && m_tool != Tool::Dimension && m_tool != Tool::Follow &&
                       m_tool != Tool::Picture && !cuts;
    m_offer = draws ? offerFor(d, q) : Offer{};
    m_hover = draws || m_tool == Tool::Follow || m_tool == Tool::Picture ? 0
              : cuts                                                     ? strokeAt(d, q.pointer, reach())
                                                                         : thingAt(d, q.pointer, reach());
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
    if (!m_loop.isEmpty()) {
        if (m_lasso)
            m_loop << at;
        else
            m_loop = QPolygonF(QRectF(m_pressedAt, at).normalized());
        m_pointer = at;
        return update();
    }
    m_byKeys = false;
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
    const bool over = onButton(at);
    forButtons([&](const Button& b) {
        if (b.rect.contains(at) && b.hovered) b.hovered();
    });
    if (m_shown != before) {
        m_phase = 0;
        m_shown ? m_swing.start() : m_swing.stop();
    }
    setCursor(over ? Qt::PointingHandCursor : m_tool == Tool::Choose ? Qt::ArrowCursor : Qt::CrossCursor);
    update();
}

void DrawingTable::mousePressEvent(QMouseEvent* e) {
    // Before the focus goes, and with it what is marked in the open figure.
    if (m_editing)
        if (const int other = figureUnder(e->position()); other && other != m_editing) {
            m_answered = true;
            return insertName(m_model->nameOfDimension(other)); // equal to what is clicked
        }
    setFocus();
    m_pressedAt = m_pointer = e->position();
    if (e->button() == Qt::MiddleButton || e->button() == Qt::RightButton) {
        m_panning = true;
        return;
    }
    if (onButton(e->position())) return; // answered on release
    if (m_editor->isVisible()) closeAnyEditor(m_typing == Typing::Nothing);
    look(e->position(), e->modifiers());
    if (m_tool != Tool::Choose) return;
    m_labelDragged = figureUnder(e->position());
    if (m_labelDragged) return;
    m_mayDrag = m_hover > 0;
    if (m_hover || markAt(e->position())) return;
    m_lasso = e->modifiers().testFlag(Qt::ControlModifier);
    m_loop << e->position();
}

void DrawingTable::mouseReleaseEvent(QMouseEvent* e) {
    if (std::exchange(m_answered, false)) return;
    if (m_panning) {
        m_panning = false;
        // A right click that did not move ends a chain, as Esc does.
        if (e->button() == Qt::RightButton && (e->position() - m_pressedAt).manhattanLength() < 4) endChain();
        return;
    }
    const bool still = (e->position() - m_pressedAt).manhattanLength() <= 4;
    m_mayDrag = false;
    if (!m_loop.isEmpty() && !still) return endBox(e->modifiers().testFlag(Qt::ShiftModifier));
    m_loop.clear();
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
    if (onButton(e->position())) {
        std::function<void()> action; // the lists are made anew by what it does
        forButtons([&](const Button& b) {
            if (b.rect.contains(e->position())) action = b.action;
        });
        return action ? action() : void();
    }
    if (still) {
        m_tool == Tool::Choose ? clickChoose(e->position(), e->modifiers().testFlag(Qt::ShiftModifier))
                               : click(e->position());
    }
    look(e->position(), e->modifiers());
    update();
}

bool DrawingTable::onButton(QPointF at) const {
    bool any = false;
    forButtons([&](const Button& b) { any = any || b.rect.contains(at); });
    return any;
}

void DrawingTable::wheelEvent(QWheelEvent* e) {
    const double factor = std::pow(1.0015, e->angleDelta().y());
    const QPointF at = e->position();
    const double scale = std::clamp(m_scale * factor, 0.02, 2000.0);
    m_zero = at + (m_zero - at) * (scale / m_scale);
    m_scale = scale;
    layFigures();
    update();
}

// ---- figures in place

QFont DrawingTable::figureFont() {
    return textFont(13, QFont::DemiBold);
}

/// A dimension's figure as it stands on the table.
QString DrawingTable::figureText(const Relation& r) const {
    QString text = m_model->figure(r);
    if (!r.name.empty()) text = QString::fromStdString(r.name) + QStringLiteral(" = ") + text;
    return r.readOnly ? QLatin1Char('(') + text + QLatin1Char(')') : text;
}

QRectF DrawingTable::figureBox(const Relation& r) const {
    const QPointF at = toScreen(shapeOf(r).figure);
    const double w = QFontMetricsF(figureFont()).horizontalAdvance(figureText(r)) + 10;
    return {at.x() - w / 2, at.y() - 10, w, 20};
}

int DrawingTable::figureUnder(QPointF at) const {
    for (const Relation& r : m_model->drawing().relations)
        if (wordsOf(r.kind).sized && !r.quiet && figureBox(r).adjusted(-2, -2, 2, 2).contains(at))
            return r.id;
    return 0;
}

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
    const auto away = m_awayOf.find(r.id);
    return dimensionShape(d, r, (away == m_awayOf.end() ? kFirstAway : away->second) / m_scale);
}

/// Figures that nobody put somewhere stand one row further out where another is in the way.
void DrawingTable::layFigures() {
    m_awayOf.clear();
    constexpr int kMostRows = 5;
    std::vector<QRectF> taken;
    const auto& all = m_model->drawing().relations;
    const auto shown = [](const Relation& r) { return wordsOf(r.kind).sized && !r.quiet; };
    for (const Relation& r : all)
        if (shown(r) && !(r.label == Vec2{})) taken.push_back(figureBox(r));
    for (const Relation& r : all) {
        if (!shown(r) || !(r.label == Vec2{})) continue;
        for (int row = 0; row < kMostRows; ++row) {
            m_awayOf[r.id] = kFirstAway + 24.0 * row;
            const QRectF box = figureBox(r);
            if (std::none_of(taken.begin(), taken.end(), [&](const QRectF& b) { return b.intersects(box); }))
                break;
            if (row + 1 == kMostRows) m_awayOf[r.id] = kFirstAway; // nowhere better
        }
        taken.push_back(figureBox(r));
    }
}

void DrawingTable::openEditor(int relation) {
    const Relation* r = m_model->drawing().findRelation(relation);
    if (!r) return;
    m_editing = relation;
    const QPointF at = figureAt(relation);
    m_editor->setText(openedText());
    m_editor->resize(std::max(96, m_editor->fontMetrics().horizontalAdvance(m_editor->text()) + 30), 28);
    m_editor->move((at - QPointF(m_editor->width() / 2.0, 14)).toPoint());
    m_editor->show();
    m_editor->setFocus();
    // A name stays unless it is typed over.
    const auto begin = r->name.empty() ? 0 : m_editor->text().indexOf(QLatin1Char('=')) + 2;
    m_editor->setSelection(static_cast<int>(begin), static_cast<int>(m_editor->text().size()));
    rebuildChips();
    update();
}

/// The text that the open figure was opened with.
QString DrawingTable::openedText() const {
    const Relation* r = m_model->drawing().findRelation(m_editing);
    if (!r) return {};
    const QString size = r->expression.empty() ? m_model->figure(*r) : QString::fromStdString(r->expression);
    return r->name.empty() ? size : QStringLiteral("%1 = %2").arg(QString::fromStdString(r->name), size);
}

/// Puts the name of a value or of another dimension where the cursor stands.
void DrawingTable::insertName(const QString& name) {
    // What was marked when the click took the focus away.
    if (m_marked.second > 0) m_editor->setSelection(m_marked.first, m_marked.second);
    m_marked = {};
    m_editor->insert(name);
    m_editor->resize(std::max(96, m_editor->fontMetrics().horizontalAdvance(m_editor->text()) + 30), 28);
    m_editor->setFocus();
    update();
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
    if (keep && r && m_editor->text().trimmed() != openedText()) {
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
    rebuildChips();
}

void DrawingTable::closeAnyEditor(bool keep) {
    m_typing == Typing::Place   ? closePlaceEditor(keep)
    : m_typing == Typing::Scale ? closeScaleEditor(keep)
                                : closeEditor(keep);
}

void DrawingTable::nextEditor() {
    const int before = m_editing;
    closeEditor(true);
    if (m_editing) return; // it was not taken
    const auto& all = m_model->drawing().relations;
    int next = 0, first = 0;
    for (const Relation& r : all) {
        if (!wordsOf(r.kind).sized || r.quiet) continue;
        if (!first) first = r.id;
        if (!next && r.id > before) next = r.id;
    }
    openEditor(next ? next : first);
}

bool DrawingTable::eventFilter(QObject* o, QEvent* e) {
    if (o == m_editor && e->type() == QEvent::FocusOut)
        m_marked = {m_editor->selectionStart(), static_cast<int>(m_editor->selectedText().size())};
    if (o != m_editor || e->type() != QEvent::KeyPress) return QWidget::eventFilter(o, e);
    const int key = static_cast<QKeyEvent*>(e)->key();
    const bool enter = key == Qt::Key_Return || key == Qt::Key_Enter;
    if (m_typing != Typing::Nothing) {
        if (key != Qt::Key_Escape && !enter) return QWidget::eventFilter(o, e);
        closeAnyEditor(enter);
    } else if (key == Qt::Key_Escape) {
        closeEditor(false);
    } else if (enter) {
        closeEditor(true);
    } else if (key == Qt::Key_Tab) {
        nextEditor();
    } else {
        return QWidget::eventFilter(o, e);
    }
    update();
    return true;
}

} // namespace gc::app
