#include "app/table/drawing_table.hpp"

#include "core/document/edit_words.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/copy.hpp"

#include <algorithm>
#include <utility>

namespace gc::app {

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
        choiceChanged();
        const Drawing& d = m_model->drawing();
        return Q_EMIT message(m_model->sentence(*d.findRelation(mark)));
    }
    std::erase_if(m_chosen, [this](int id) { return m_model->drawing().findRelation(id) != nullptr; });
    const int thing = thingAt(m_model->drawing(), toDrawing(pointer), reach());
    m_area.clear();
    if (const auto group = groupOf(thing); !group.empty() && m_chosen != group) {
        // What moves as one is chosen as one; a second click takes the stroke alone.
        std::erase_if(m_chosen,
                      [&](int id) { return std::find(group.begin(), group.end(), id) != group.end(); });
        m_chosen.insert(m_chosen.end(), group.begin(), group.end());
        return choiceChanged();
    } else if (!group.empty()) {
        m_chosen = {thing};
        return choiceChanged();
    }
    const auto at = std::find(m_chosen.begin(), m_chosen.end(), thing);
    if (!thing) {
        if (!more) m_chosen.clear();
        if (!more) chooseArea(toDrawing(pointer));
    } else if (at != m_chosen.end()) {
        m_chosen.erase(at);
    } else {
        m_chosen.push_back(thing); // choosing adds: what belongs together is clicked in turn
    }
    choiceChanged();
}

/// The strokes that move as one with a stroke; none for one by itself.
std::vector<int> DrawingTable::groupOf(int stroke) const {
    for (const Relation& r : m_model->drawing().relations)
        if (r.kind == RelationKind::Together && std::find(r.of.begin(), r.of.end(), stroke) != r.of.end())
            return r.of;
    return {};
}

/// Letters and what came from files: nodes and handles would drown them.
std::set<int> DrawingTable::groupedStrokes() const {
    std::set<int> out;
    for (const Relation& r : m_model->drawing().relations)
        if (r.kind == RelationKind::Together) out.insert(r.of.begin(), r.of.end());
    return out;
}

/// The innermost area about a place.
void DrawingTable::chooseArea(Vec2 place) {
    const Region* found = nullptr;
    for (const Region& r : m_model->closedness().regions)
        if (r.contains(place) && (!found || r.area() < found->area())) found = &r;
    if (!found) return;
    m_area = found->strokes();
    double round = 0;
    for (const Side& s : found->outer.sides) round += s.curve.length();
    const UnitSystem& u = m_model->units();
    const double mm = u.factorFor(kLength);
    Q_EMIT message(tr("This area: %1 %2, %3 round.")
                       .arg(found->area() / (mm * mm), 0, 'f', 1)
                       .arg(QString::fromStdString(u.symbolFor(kLength)) + QStringLiteral("²"),
                            QString::fromStdString(sizeInWords(round, kLength, u))));
}

void DrawingTable::endBox(bool more) {
    std::vector<Vec2> loop;
    for (const QPointF& p : m_loop) loop.push_back(toDrawing(p));
    m_loop.clear();
    if (!more) m_chosen.clear();
    for (const int id : strokesWithin(m_model->drawing(), loop))
        if (std::find(m_chosen.begin(), m_chosen.end(), id) == m_chosen.end()) m_chosen.push_back(id);
    choiceChanged();
    update();
}

void DrawingTable::bringIn(const Drawing& other) {
    setTool(Tool::Choose);
    std::vector<int> added;
    m_model->edit(tr("brought in"), [&](Drawing& d) {
        added = addDrawing(d, other);
        d.sized = true;
    });
    m_chosen = added;
    choiceChanged();
    fit();
}

/// The buttons, and what an edit under way would do, follow what is chosen.
void DrawingTable::choiceChanged() {
    rebuildChips();
    previewEdit(std::exchange(m_edit, std::nullopt));
}

void DrawingTable::askEdit(const QString& kind) {
    if (m_tool != Tool::Choose) setTool(Tool::Choose);
    QString why;
    const Step edit = m_model->newEdit(kind, m_chosen, why);
    if (!why.isEmpty()) return Q_EMIT message(QStringLiteral("▲ ") + why);
    if (edit.slots.empty()) { // nothing to ask
        keepEdit(edit);
        return;
    }
    Q_EMIT editAsked(edit);
}

void DrawingTable::previewEdit(const std::optional<Step>& edit) {
    m_edit = edit;
    m_preview.reset();
    if (edit) {
        Drawing with;
        const EditOutcome out = m_model->tryEdit(*edit, m_chosen, with);
        if (out.done())
            m_preview = std::move(with);
        else
            Q_EMIT message(QStringLiteral("■ ") + QString::fromStdString(out.whyNot));
    }
    update();
}

bool DrawingTable::keepEdit(const Step& edit) {
    Drawing with;
    const EditOutcome out = m_model->tryEdit(edit, m_chosen, with);
    if (!out.done()) {
        Q_EMIT message(QStringLiteral("■ ") + QString::fromStdString(out.whyNot));
        return false;
    }
    const std::vector<int> made = out.made;
    previewEdit(std::nullopt);
    m_chosen.clear();
    m_model->edit(QString::fromStdString(findWords(edit.kind)->verb).toLower(),
                  [&](Drawing& d) { d = with; });
    m_chosen = made;
    choiceChanged();
    sayLost(out);
    setFocus();
    return true;
}

void DrawingTable::applyRelation(RelationKind kind, const std::vector<int>& of) {
    if (wordsOf(kind).sized) {
        Relation dimension;
        dimension.kind = kind;
        dimension.of = of;
        freezeSense(m_model->drawing(), dimension);
        m_chosen.clear();
        choiceChanged();
        return addDimension(std::move(dimension));
    }
    m_model->edit(QString::fromStdString(wordsOf(kind).label).toLower(),
                  [&](Drawing& d) { d.relate(kind, of); });
    m_chosen.clear();
    choiceChanged();
    update();
}

void DrawingTable::removeChosen() {
    if (m_chosen.empty()) return;
    std::vector<int> ids = m_chosen;
    std::erase_if(ids, [](int id) { return id <= 0; });
    m_chosen.clear();
    m_model->edit(tr("removed"), [&](Drawing& d) { d.erase(ids); });
}

void DrawingTable::chip(const QString& label, int row, std::function<void()> action, bool on) {
    m_chips.push_back({QRectF(), label, std::move(action), {}, row, on});
}

void DrawingTable::rebuildChips() {
    m_chips.clear();
    if (m_editing) return figureChips();
    if (m_tool != Tool::Choose) return toolChips();
    if (m_chosen.empty() && !m_area.empty())
        for (const StepKind& kind : allKinds()) {
            const auto& all = kind.words.slots;
            if (std::none_of(all.begin(), all.end(),
                             [](const SlotWords& s) { return s.type == SlotType::AreaRef; }))
                continue;
            chip(tr("%1 this area").arg(QString::fromStdString(kind.words.verb)), 0,
                 [this, key = QString::fromStdString(kind.key())] { Q_EMIT areaAsked(key, m_area); });
        }
    if (m_chosen.empty()) return;
    editChips();
    relationChips();
}

/// What can be said of the chosen things.
void DrawingTable::relationChips() {
    const Drawing& d = m_model->drawing();
    std::vector<std::vector<int>> orders{m_chosen};
    if (m_chosen.size() == 2) orders.push_back({m_chosen[1], m_chosen[0]});
    meetingChip();
    for (const RelationWords& words : allRelationWords())
        for (const auto& of : orders) {
            if (words.kind == RelationKind::Follows || words.kind == RelationKind::OnTrace) continue;
            if (!whyNot(d, words.kind, of).empty()) continue;
            QString label = QString::fromStdString(words.label);
            if (words.kind == RelationKind::Distance && of.size() == 1) label = tr("Length");
            if (words.kind == RelationKind::Distance && isRound(d, of[0])) label = tr("Wall between");
            chip(label, 1, [this, kind = words.kind, of] { applyRelation(kind, of); });
            break;
        }
}

/// What can be done to them.
void DrawingTable::editChips() {
    const Drawing& d = m_model->drawing();
    const bool strokes =
        std::any_of(m_chosen.begin(), m_chosen.end(), [&](int id) { return d.findStroke(id) != nullptr; });
    for (const StepWords& words : allEditWords())
        if (words.kind != "edit:text" && whyNoEdit(words.kind, d, m_chosen).empty())
            chip(QString::fromStdString(words.verb), 0,
                 [this, kind = QString::fromStdString(words.kind)] { askEdit(kind); });
    handleChip();
    if (strokes)
        chip(tr("Helper"), 0, [this] {
            const auto ids = m_chosen;
            m_model->edit(tr("helper"), [&](Drawing& drawing) {
                for (const int id : ids)
                    if (Stroke* s = drawing.findStroke(id)) s->helper = !s->helper;
            });
        });
    if (std::any_of(m_chosen.begin(), m_chosen.end(), [](int id) { return id > 0; }))
        chip(tr("Remove"), 0, [this] { removeChosen(); });
}

/// What else the open figure can be.
void DrawingTable::figureChips() {
    const Relation* r = m_model->drawing().findRelation(m_editing);
    if (!r) return;
    chip(r->readOnly ? tr("Let it drive") : tr("Only measure"), 0, [this, id = r->id, on = !r->readOnly] {
        closeEditor(false);
        m_model->setReadOnly(id, on);
    });
    chip(tr("Remove"), 0, [this, id = r->id] {
        closeEditor(false);
        m_model->edit(tr("dimension taken away"), [id](Drawing& d) { d.erase({id}); });
    });
}

/// A spline's handle follows its nodes until it is held.
void DrawingTable::handleChip() {
    if (m_chosen.size() != 1) return;
    const Drawing& d = m_model->drawing();
    for (const Stroke& s : d.strokes) {
        if (s.kind != StrokeKind::Spline) continue;
        for (std::size_t node = 0; node < s.points.size() / 2; ++node) {
            if (s.points[2 * node] != m_chosen[0] && s.points[2 * node + 1] != m_chosen[0]) continue;
            const bool held = node < s.held.size() && s.held[node];
            chip(held ? tr("Let its handle follow") : tr("Hold its handle"), 0,
                 [this, id = s.id, node, held] {
                     m_model->edit(held ? tr("handle let go") : tr("handle held"), [&](Drawing& drawing) {
                         Stroke& spline = *drawing.findStroke(id);
                         spline.held.resize(spline.points.size() / 2, false);
                         spline.held[node] = !held;
                     });
                 });
            return;
        }
    }
}

/// The ways in which the tool at hand can be used.
void DrawingTable::toolChips() {
    const QStringList ways = waysOf(m_tool);
    if (m_tool == Tool::Picture) pictureChips();
    if (m_tool == Tool::Picture && !m_model->drawing().picture) return;
    for (int i = 0; i < ways.size(); ++i)
        chip(
            ways[i], 0, [this, i] { setWay(i); }, way() == i);
    if (m_tool != Tool::Polygon) return;
    static constexpr int kMostSides = 60;
    const auto sides = [this](int by) {
        m_sides = std::clamp(m_sides + by, 3, kMostSides);
        rebuildChips();
        update();
    };
    chip(tr("fewer sides"), 0, [sides] { sides(-1); });
    chip(
        tr("%1 sides").arg(m_sides), 0, [] {}, true);
    chip(tr("more sides"), 0, [sides] { sides(1); });
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
