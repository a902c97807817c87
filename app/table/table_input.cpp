// What the pointer and the keys say to the table, and to the tool at hand.

#include "app/look/words.hpp"
#include "app/table/drawing_table.hpp"
#include "core/sketch/edit/part_of.hpp"
#include "core/sketch/offer.hpp"

#include <QKeyEvent>
#include <QMouseEvent>

#include <algorithm>
#include <cmath>
#include <utility>

namespace gc::app {

// ---- the pointer

void DrawingTable::look(QPointF pointer, Qt::KeyboardModifiers keys) {
    m_pointer = pointer;
    m_figures.pointAt(pointer);
    m_tool->look(pointer, keys);
}

void DrawingTable::lookAgain() {
    look(m_pointer, Qt::NoModifier);
    update();
}

/// Calls something for every button that can be clicked.
template <class Visit>
void DrawingTable::forButtons(const Visit& visit) const {
    for (const auto* list : {&m_card.buttons(), &std::as_const(m_buttons), &m_strip.buttons()})
        for (const TableButton& b : *list) visit(b);
}

bool DrawingTable::onButton(QPointF at) const {
    bool any = false;
    forButtons([&](const TableButton& b) { any = any || b.rect.contains(at); });
    return any;
}

void DrawingTable::mouseMoveEvent(QMouseEvent* e) {
    const QPointF at = e->position();
    if (m_panning) {
        m_view.zero += at - m_pointer;
        m_pointer = at;
        return update();
    }
    if (m_tool->drag(at)) {
        m_pointer = at;
        return update();
    }
    m_byKeys = false;
    look(at, e->modifiers());
    m_card.pointerMoved();
    const bool over = onButton(at);
    forButtons([&](const TableButton& b) {
        if (b.rect.contains(at) && b.hovered) b.hovered();
    });
    m_card.pointerSettled();
    setCursor(over ? Qt::PointingHandCursor : m_tool->cursor());
    update();
}

void DrawingTable::mousePressEvent(QMouseEvent* e) {
    // Before the focus goes, and with it what is marked in the open figure.
    if (const int open = m_figures.opened())
        if (const int other = m_figures.under(e->position()); other && other != open) {
            m_answered = true;
            return m_figures.insertName(m_model->nameOfDimension(other)); // equal to what is clicked
        }
    if (const int figure = m_edit ? m_figures.under(e->position()) : 0) {
        m_answered = true;
        return Q_EMIT nameAsked(figure);
    }
    setFocus();
    m_pressedAt = m_pointer = e->position();
    if (e->button() == Qt::MiddleButton || e->button() == Qt::RightButton) {
        m_panning = true;
        return;
    }
    if (onButton(e->position())) return; // answered on release
    m_field.leave();
    look(e->position(), e->modifiers());
    m_tool->press(e->position(), e->modifiers());
}

void DrawingTable::mouseReleaseEvent(QMouseEvent* e) {
    if (std::exchange(m_answered, false)) return;
    const bool still = (e->position() - m_pressedAt).manhattanLength() <= 4;
    if (std::exchange(m_panning, false)) {
        // A right click that did not move ends what is being drawn, as Esc does.
        if (e->button() == Qt::RightButton && still && m_tool->takesPlaces()) m_tool->dropDraft();
        return update();
    }
    if (m_tool->drop(e->position(), still, e->modifiers())) return update();
    if (onButton(e->position())) {
        std::function<void()> action; // the lists are made anew by what it does
        forButtons([&](const TableButton& b) {
            if (b.rect.contains(e->position())) action = b.action;
        });
        return action ? action() : void();
    }
    if (still) m_tool->click(e->position(), e->modifiers().testFlag(Qt::ShiftModifier));
    look(e->position(), e->modifiers());
    update();
}

void DrawingTable::wheelEvent(QWheelEvent* e) {
    m_view.zoom(std::pow(1.0015, e->angleDelta().y()), e->position());
    layFigures();
    update();
}

// ---- the keyboard

/// \return false when a sentence under way is to be dropped first
bool DrawingTable::escape() {
    if (m_edit) return false;
    // It never leaves the table: one Esc too many must not put the drawing away.
    if (!m_tool->dropDraft() && m_tool != m_tools.front().get())
        setTool(allTools().front().key);
    else if (m_tool == m_tools.front().get())
        choose({});
    return true;
}

void DrawingTable::keyPressEvent(QKeyEvent* e) {
    const QString text = e->text();
    if (m_tool->takesPlaces() && text.size() == 1 && QStringLiteral("0123456789-+.(").contains(text))
        return openPlaceField(text);
    switch (e->key()) {
    case Qt::Key_Tab:
    case Qt::Key_Backtab:
        m_tool->tab(e->key() == Qt::Key_Backtab);
        return update();
    case Qt::Key_Escape:
        return escape() ? update() : QWidget::keyPressEvent(e);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (m_edit) break; // the sentence is kept
        m_tool->finish();
        return update();
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        return removeChosen();
    case Qt::Key_Home:
        return fit();
    case Qt::Key_Left:
    case Qt::Key_Right:
    case Qt::Key_Up:
    case Qt::Key_Down:
        return stepPointer(e->key(), e->modifiers().testFlag(Qt::ShiftModifier));
    case Qt::Key_Space:
        m_tool->click(m_pointer, true);
        look(m_pointer, e->modifiers());
        return update();
    default:
        break;
    }
    QWidget::keyPressEvent(e);
}

void DrawingTable::pointTo(Vec2 place) {
    m_byKeys = true;
    look(m_view.toScreen(place), Qt::NoModifier);
    update();
}

/// The pointer goes by one square of the grid, or a tenth of it. The first step lands on the grid, so that
/// whole steps stay on it.
void DrawingTable::stepPointer(int key, bool fine) {
    const double grid = m_view.gridStep() * (fine ? 0.1 : 1);
    const Vec2 by = key == Qt::Key_Left    ? Vec2{-grid, 0}
                    : key == Qt::Key_Right ? Vec2{grid, 0}
                    : key == Qt::Key_Up    ? Vec2{0, grid}
                                           : Vec2{0, -grid};
    const Vec2 at = m_view.toDrawing(m_pointer) + by;
    pointTo({std::round(at.x / grid) * grid, std::round(at.y / grid) * grid});
}

void DrawingTable::walk(bool back) {
    const Drawing& d = m_model->drawing();
    std::vector<Vec2> stops;
    for (const Stroke& s : d.strokes) {
        const StrokeRun run(d, s);
        if (!run.empty()) stops.push_back(run.at(run.atLength(run.length() / 2)));
        for (const int p : endPoints(s)) stops.push_back(d.at(p));
        if (s.kind == StrokeKind::Point) stops.push_back(d.at(s.points[0]));
    }
    stops.push_back({0, 0});
    const Vec2 now = m_view.toDrawing(m_pointer);
    const auto at = std::find_if(stops.begin(), stops.end(), [&](Vec2 p) { return length(p - now) < 1e-6; });
    const auto n = static_cast<int>(stops.size());
    const int next = at == stops.end() ? 0 : static_cast<int>(at - stops.begin()) + (back ? n - 1 : 1);
    pointTo(stops[static_cast<std::size_t>(next % n)]);
}

void DrawingTable::openPlaceField(const QString& typed) {
    TableField::Use use;
    use.keep = [this](const QString& text) { return keepPlace(text); };
    use.closed = [this](bool) {
        const auto place = std::exchange(m_typed, std::nullopt);
        if (!place) return;
        m_tool->typedPlace(place->at, place->length);
        look(m_view.toScreen(place->at), Qt::NoModifier);
        update();
    };
    const QPointF at = m_pointer + QPointF(16, 16);
    m_field.open(typed, {std::clamp(at.x(), 4.0, width() - 160.0), std::clamp(at.y(), 4.0, height() - 36.0)},
                 150, std::move(use));
    say(m_tool->lastPlace()
            ? tr("A length toward the pointer; \"12, 30\" from the origin, \"+5, 2\" from the "
                 "last place, or \"40 at 30°\".")
            : tr("Across and up from the origin, like \"12, 30\"."));
}

bool DrawingTable::keepPlace(const QString& typed) {
    const Vec2 toward = m_tool->offeredPlace().value_or(m_view.toDrawing(m_pointer));
    const auto place = m_model->placeFrom(typed, m_tool->lastPlace(), toward);
    if (!place) say(QStringLiteral("■ ") + inWords(place.error().sentence));
    if (place) m_typed = *place;
    return place.ok();
}

} // namespace gc::app
