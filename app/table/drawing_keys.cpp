#include "app/look/words.hpp"
#include "app/table/drawing_table.hpp"

#include "core/sketch/edit/part_of.hpp"

#include <QKeyEvent>

#include <algorithm>
#include <cmath>

namespace gc::app {

void DrawingTable::keyPressEvent(QKeyEvent* e) {
    if (toolKey(e)) return update();
    switch (e->key()) {
    case Qt::Key_Escape:
        if (m_edit) break; // the sentence is dropped first
        if (m_chainEnd || !m_draft.empty() || !m_measuring.empty() || !m_pictureClicks.empty()) {
            endChain();
            m_pictureClicks.clear();
            m_measuring.clear();
        } else if (m_tool != Tool::Choose) {
            setTool(Tool::Choose);
        } else { // it never leaves the table: one Esc too many must not put the drawing away
            m_chosen.clear();
            m_area.clear();
            choiceChanged();
        }
        return update();
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (m_edit) break; // the sentence is kept
        if (m_tool == Tool::Spline) finishDrawn();
        endChain();
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
        m_tool == Tool::Choose ? clickChoose(m_pointer, true) : click(m_pointer);
        look(m_pointer, e->modifiers());
        return update();
    default:
        break;
    }
    QWidget::keyPressEvent(e);
}

/// Keys that mean something to the tool at hand.
bool DrawingTable::toolKey(QKeyEvent* e) {
    if (e->key() == Qt::Key_Tab || e->key() == Qt::Key_Backtab) {
        if (m_tool == Tool::Line && m_chainEnd && m_lastStroke) {
            m_arcNext = !m_arcNext;
            look(m_pointer, e->modifiers());
        } else if (m_tool == Tool::Choose || m_tool == Tool::Dimension) {
            walk(e->key() == Qt::Key_Backtab);
        } else {
            turnWay();
        }
        return true;
    }
    const QString text = e->text();
    const bool draws = m_tool < Tool::Follow && m_tool != Tool::Choose;
    if (draws && text.size() == 1 && QStringLiteral("0123456789-+.(").contains(text)) {
        openPlaceEditor(text);
        return true;
    }
    return false;
}

/// The pointer goes by one square of the grid, or a tenth of it.
void DrawingTable::stepPointer(int key, bool fine) {
    const double step = gridStep() * m_scale * (fine ? 0.1 : 1);
    const QPointF by = key == Qt::Key_Left    ? QPointF(-step, 0)
                       : key == Qt::Key_Right ? QPointF(step, 0)
                       : key == Qt::Key_Up    ? QPointF(0, -step)
                                              : QPointF(0, step);
    // The first step lands on the grid, so that whole steps stay on it.
    Vec2 at = toDrawing(m_pointer + by);
    const double grid = gridStep() * (fine ? 0.1 : 1);
    at = {std::round(at.x / grid) * grid, std::round(at.y / grid) * grid};
    m_byKeys = true;
    look(toScreen(at), Qt::NoModifier);
    update();
}

/// From one thing that can be chosen to the next: strokes by their middles, and their ends.
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
    if (stops.empty()) return;
    const Vec2 now = toDrawing(m_pointer);
    const auto at = std::find_if(stops.begin(), stops.end(), [&](Vec2 p) { return length(p - now) < 1e-6; });
    const auto n = static_cast<int>(stops.size());
    int next = at == stops.end() ? 0 : static_cast<int>(at - stops.begin()) + (back ? n - 1 : 1);
    m_byKeys = true;
    look(toScreen(stops[static_cast<std::size_t>(next % n)]), Qt::NoModifier);
    update();
}

std::optional<Vec2> DrawingTable::lastPlace() const {
    if (m_tool == Tool::Line && m_chainEnd) return m_model->drawing().at(m_chainEnd);
    if (!m_draft.empty()) return m_draft.back().at;
    return std::nullopt;
}

void DrawingTable::openPlaceEditor(const QString& typed) {
    m_typing = Typing::Place;
    m_editor->setText(typed);
    m_editor->resize(150, 28);
    QPointF at = m_pointer + QPointF(16, 16);
    at = {std::clamp(at.x(), 4.0, width() - 160.0), std::clamp(at.y(), 4.0, height() - 36.0)};
    m_editor->move(at.toPoint());
    m_editor->show();
    m_editor->setFocus();
    Q_EMIT message(lastPlace()
                       ? tr("A length toward the pointer; \"12, 30\" from the origin, \"+5, 2\" from the "
                            "last place, or \"40 at 30°\".")
                       : tr("Across and up from the origin, like \"12, 30\"."));
}

void DrawingTable::closePlaceEditor(bool keep) {
    if (keep) {
        const auto place = m_model->placeFrom(m_editor->text(), lastPlace(), toDrawing(m_pointer));
        if (!place) { // what was typed stays, to be mended
            Q_EMIT message(QStringLiteral("■ ") + inWords(place.error().sentence));
            return;
        }
        m_offer = {place->at, {}, {}};
        m_typedLength = QString::fromStdString(place->length);
    }
    m_typing = Typing::Nothing;
    m_editor->hide();
    setFocus();
    if (!keep) return;
    const QPointF at = toScreen(m_offer.at);
    click(at);
    m_typedLength.clear();
    look(at, Qt::NoModifier);
}

} // namespace gc::app
