#include "app/table/drawing_table.hpp"

#include "core/sketch/drawing_words.hpp"

#include <algorithm>

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
        Relation dimension;
        dimension.kind = kind;
        dimension.of = of;
        freezeSense(m_model->drawing(), dimension);
        m_chosen.clear();
        rebuildChips();
        return addDimension(std::move(dimension));
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
