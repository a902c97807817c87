// What clicks in the stand put into an open sentence, and what dragging there does to its sizes.

#include "app/sentence/sentence_bar.hpp"

#include "core/document/areas.hpp"
#include "core/document/body_list.hpp"
#include "core/document/slot_trait.hpp"

#include <algorithm>

namespace gc::app {

bool SentenceBar::isEmpty(const SlotWords& s) const {
    return traitOf(s.type).isPickedText() ? m_draft->text(s.key).empty() : m_draft->references(s.key).empty();
}

/// Areas can be picked where there are several, whether the sentence speaks of them yet or not.
bool SentenceBar::takesPicks(const SlotWords& s) const {
    if (pickingFor(s.type) == Picking::Nothing) return false;
    if (isShown(*m_draft, s.key)) return true;
    if (s.type != SlotType::AreaRef) return false;
    // Asked with every change, and of a large drawing not found in a moment: once for each drawing.
    const Drawing* drawing = drawingOf(m_part, m_draft->text("outline"));
    if (drawing != m_several.first) m_several = {drawing, drawing && areasOf(*drawing).size() > 1};
    return m_several.second;
}

QString SentenceBar::pickSlot() const {
    if (!m_draft) return {};
    const StepWords* words = findWords(m_draft->kind);
    const QString active = m_flow->activeSlot();
    for (const SlotWords& s : words->slots)
        if (QString key = QString::fromStdString(s.key); takesPicks(s) && key == active) return key;
    // What still waits for a pick comes first, then areas, then what more can be added to, then the plane
    // that it leans on. What else a list has filled is not changed by a stray click: its slot is clicked
    // first.
    const auto first = [&](const auto& fits) -> QString {
        for (const SlotWords& s : words->slots)
            if (takesPicks(s) && fits(s)) return QString::fromStdString(s.key);
        return {};
    };
    QString slot = first([&](const SlotWords& s) { return isEmpty(s) && mustBeFilled(s); });
    if (slot.isEmpty()) slot = first([](const SlotWords& s) { return s.type == SlotType::AreaRef; });
    if (slot.isEmpty()) slot = first([](const SlotWords& s) { return holdsReferences(s.type); });
    if (slot.isEmpty()) slot = first([](const SlotWords& s) { return s.type == SlotType::PlaneRef; });
    return slot;
}

bool SentenceBar::waitsForPick() const {
    const StepWords* words = m_draft ? findWords(m_draft->kind) : nullptr;
    return words && std::any_of(words->slots.begin(), words->slots.end(), [&](const SlotWords& s) {
               return pickingFor(s.type) != Picking::Nothing && mustBeFilled(s) && isShown(*m_draft, s.key) &&
                      isEmpty(s);
           });
}

Picking SentenceBar::wants() const {
    const StepWords* words = m_draft ? findWords(m_draft->kind) : nullptr;
    const SlotWords* s = words ? words->slot(pickSlot().toStdString()) : nullptr;
    return s ? pickingFor(s->type) : Picking::Nothing;
}

bool SentenceBar::wantsSeveral() const {
    const StepWords* words = m_draft ? findWords(m_draft->kind) : nullptr;
    const SlotWords* s = words ? words->slot(pickSlot().toStdString()) : nullptr;
    return s && !traitOf(s->type).one;
}

/// An area of another drawing takes its drawing along.
SlotValue SentenceBar::withArea(const SlotWords& s, const Pick& pick) {
    const std::string area = pick.refs.first().toStdString();
    const Step* maker = m_part.findStep(pick.drawing);
    const std::string outline = maker ? nameGiven(*maker, Thing::Outline) : std::string();
    if (outline.empty() || outline == m_draft->text("outline")) {
        return gc::withArea(m_draft->text(s.key), area);
    }
    m_draft->slots["outline"] = outline;
    return area;
}

/// What the sentence itself would make is seen, but it cannot be made of that.
bool SentenceBar::isOwn(const QString& reference) const {
    const std::vector<int> steps = stepsIn(reference.toStdString());
    return std::find(steps.begin(), steps.end(), m_draft->id) != steps.end();
}

void SentenceBar::fill(const Pick& pick) {
    const QString slot = pickSlot();
    if (slot.isEmpty() || pick.refs.isEmpty() || pick.kind != wants() || isOwn(pick.refs.first())) return;
    const SlotWords* s = findWords(m_draft->kind)->slot(slot.toStdString());
    const std::string ref = pick.refs.first().toStdString();
    const Step before = *m_draft;
    SlotValue filled = ref;
    if (s->type == SlotType::AreaRef) {
        filled = withArea(*s, pick);
    } else if (s->type == SlotType::BodiesRef) {
        filled = withName(m_draft->text(s->key), ref);
    } else if (!traitOf(s->type).isPickedText()) {
        References now = m_draft->references(slot.toStdString());
        togglePick(now, ref, s->type);
        filled = now;
    }
    // Where a face is picked to be touched, the place of the click is the spot.
    if (const std::string spot = spotSlot(*m_draft);
        s->type == SlotType::Face && !pick.spot.isEmpty() && !spot.empty())
        m_draft->slots[spot] = References{pick.spot.toStdString()};
    m_draft->slots[slot.toStdString()] = filled;
    remember(before);
    m_flow->setActiveSlot(nextSlot(slot));
    set(slot, filled);
}

void SentenceBar::fillSeveral(const QStringList& refs) {
    const QString slot = pickSlot();
    if (slot.isEmpty() || !wantsSeveral()) return;
    const SlotWords* s = findWords(m_draft->kind)->slot(slot.toStdString());
    if (s->type == SlotType::BodiesRef) {
        std::string list = m_draft->text(s->key);
        for (const QString& r : refs)
            if (const auto names = namesInList(list);
                std::find(names.begin(), names.end(), r.toStdString()) == names.end())
                list = withName(list, r.toStdString());
        return set(slot, list);
    }
    References now = m_draft->references(s->key);
    for (const QString& r : refs)
        if (!isOwn(r) && std::find(now.begin(), now.end(), r.toStdString()) == now.end())
            now.push_back(r.toStdString());
    set(slot, now);
    m_flow->setActiveSlot(slot);
}

/// One of several that a slot holds.
void SentenceBar::letGo(const QString& slot, int item) {
    const SlotWords* s = m_draft ? findWords(m_draft->kind)->slot(slot.toStdString()) : nullptr;
    if (!s || item < 0) return;
    if (s->type == SlotType::BodiesRef) {
        const auto names = namesInList(m_draft->text(s->key));
        if (static_cast<std::size_t>(item) < names.size())
            set(slot, withName(m_draft->text(s->key), names[static_cast<std::size_t>(item)]));
        return;
    }
    References now = m_draft->references(s->key);
    if (static_cast<std::size_t>(item) >= now.size()) return;
    now.erase(now.begin() + item);
    set(slot, now);
}

/// A slot that holds one pick hands on to the next that waits for one.
QString SentenceBar::nextSlot(const QString& from) const {
    const StepWords* words = findWords(m_draft->kind);
    const SlotWords* here = words->slot(from.toStdString());
    if (!traitOf(here->type).one) return from;
    for (const SlotWords& s : words->slots)
        if (takesPicks(s) && isEmpty(s) && mustBeFilled(s)) return QString::fromStdString(s.key);
    return holdsReferences(here->type) ? from : QString();
}

References SentenceBar::references() const {
    return m_draft ? m_draft->references(pickSlot().toStdString()) : References();
}

void SentenceBar::sayOtherwise(const QString& was, const QString& now) {
    const QString slot = pickSlot();
    References refs = references();
    std::replace(refs.begin(), refs.end(), was.toStdString(), now.toStdString());
    set(slot, refs);
    m_flow->setActiveSlot(slot);
}

/// One drag is one change, however many slots it sets.
void SentenceBar::drag(const SlotValues& values, bool done) {
    if (!m_draft) return;
    const Step before = *m_draft;
    for (const auto& [slot, value] : values) m_draft->slots[slot] = value;
    const QString key = QStringLiteral("drag");
    if (m_scrubbed != key) remember(before);
    m_scrubbed = done ? QString() : key;
    m_message.clear();
    m_fault.clear();
    tellChanged();
}

/// The choice that has the focus, else the one that is made to be turned, else the first of all.
void SentenceBar::turnRound() {
    if (!m_draft) return;
    const auto& all = findWords(m_draft->kind)->slots;
    const auto shown = [&](const SlotWords& s) { return !s.choices.empty() && isShown(*m_draft, s.key); };
    const SlotWords* turned = nullptr;
    for (const SlotWords& s : all) {
        if (!shown(s)) continue;
        const bool focused = QString::fromStdString(s.key) == m_flow->activeSlot();
        if (focused || (!turned) || (turned->flips.empty() && !s.flips.empty())) turned = &s;
        if (focused) break;
    }
    if (!turned) return;
    std::vector<std::string> round = turned->flips;
    if (round.empty())
        for (const Choice& c : turned->choices) round.push_back(c.key);
    const auto now = std::find(round.begin(), round.end(), m_draft->text(turned->key));
    const bool last = now == round.end() || now + 1 == round.end();
    set(QString::fromStdString(turned->key), last ? round.front() : *(now + 1));
}

} // namespace gc::app
