// What is shown of a step in the stand while it is filled in or chosen, and what dragging it there does.

#include "app/link/forge_link.hpp"
#include "app/sentence/file_bodies_panel.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/sheet/sheet.hpp"
#include "app/shell/selection.hpp"
#include "app/shell/session.hpp"
#include "app/stand/handles.hpp"
#include "app/stand/stand.hpp"
#include "core/document/areas.hpp"
#include "core/document/slot_trait.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc::app {

void Selection::look() {
    const bool places = m_use.stand->picking() == Picking::Points ||
                        m_use.stand->picking() == Picking::Sections ||
                        m_use.stand->picking() == Picking::Anything || m_use.stand->handlesReach();
    m_use.forge->look(places, drawing ? drawing() : 0, m_aidsOf);
}

void Selection::showHandlesOf(const Step* step) {
    m_aidsOf = step ? step->id : 0;
    m_use.stand->showPlane(step ? QString::fromStdString(nameGiven(*step, Thing::Plane)) : QString());
    look();
    takeAids();
}

/// The step whose handles are shown: of the sentence, or of the sheet.
const Step* Selection::handled() const {
    if (m_use.bar->active() && !m_use.bar->editing() && m_use.bar->draft()->id == m_aidsOf)
        return &*m_use.bar->draft();
    return m_use.session->part().findStep(m_aidsOf);
}

void Selection::takeAids() {
    const Step* step = m_aidsOf ? handled() : nullptr;
    // What was wrong with a step of the sheet may be mended by now.
    if (const auto view = m_use.forge->steps().find(m_aidsOf);
        !m_use.bar->active() && step && view != m_use.forge->steps().end())
        m_use.stand->showPlace(view->second.place, view->second.gone);
    const StepWords* words = step ? findStepWords(step->kind) : nullptr;
    std::vector<HandleView> shown;
    if (words && m_use.forge->aids().step == m_aidsOf)
        for (HandleView h : m_use.forge->aids().handles) {
            const SlotWords* slot = words->slot(h.slot.toStdString());
            if (!slot) continue;
            h.reaches = slot->reaches.has_value();
            h.factor = slot->dimension == kNumber && !h.counts;
            shown.push_back(std::move(h));
        }
    m_use.stand->setHandles(std::move(shown));
    m_fileBodies->offer(words && m_use.forge->aids().step == m_aidsOf ? m_use.forge->aids().fileBodies
                                                                      : std::vector<FileBodyView>());
    m_use.stand->setThreads(words && m_use.forge->aids().step == m_aidsOf ? m_use.forge->aids().threads
                                                                          : std::vector<ThreadView>());
    look();
}

namespace {

/// The size as it is written, within what the slot allows.
std::string sizeText(const SlotWords& slot, double value, const UnitSystem& units) {
    constexpr double kGrain = 0.01; // mm; of an angle a hundredth of a degree
    const double grain = slot.dimension == kAngle ? kGrain * std::numbers::pi / 180 : kGrain;
    const double least = slot.leastAllowed ? slot.least : slot.least + grain;
    return formatAmount(std::clamp(value, least, slot.most), units.symbolFor(slot.dimension), 3);
}

/// The other of the two words that say forward and back.
std::string turnedRound(const SlotWords& choice, const std::string& now) {
    return choice.choiceAt(now) == 0 ? choice.choices[1].key : choice.choices[0].key;
}

} // namespace

void Selection::handleDragged(const HandleDrag& drag) {
    const Step* step = handled();
    const StepWords* words = step ? findStepWords(step->kind) : nullptr;
    const SlotWords* slot = words ? words->slot(drag.slot.toStdString()) : nullptr;
    if (!slot) return;
    const auto& handles = m_use.forge->aids().handles;
    const auto handle = std::find_if(handles.begin(), handles.end(),
                                     [&](const HandleView& h) { return h.slot == drag.slot; });
    SlotValues values;
    const UnitSystem& units = m_use.session->part().brief.units;
    double size = drag.value;
    if (handle != handles.end() && !handle->turnsRound.isEmpty()) {
        const std::string way = handle->turnsRound.toStdString();
        const SlotWords* choice = words->slot(way);
        if (!m_dragFrom) { // the handles that follow are of what it has become
            const std::string was = step->text(way), into = handle->turnsInto.toStdString();
            m_dragFrom = {was, into.empty() && choice ? turnedRound(*choice, was) : into};
        }
        if (choice) values[way] = size < 0 ? m_dragFrom->second : m_dragFrom->first;
        size = std::fabs(size);
    }
    if (handle != handles.end() && handle->counts)
        values[slot->key] = std::to_string(
            static_cast<int>(std::clamp<double>(Handles::countOf(*handle, size), slot->least, slot->most)));
    else
        values[slot->key] = sizeText(*slot, size, units);
    if (slot->reaches) {
        const SlotWords::Reaches& to = *slot->reaches;
        values[to.choice] = to.byLength;
        const QStringList& refs = drag.faceRefs.isEmpty() ? drag.pointRefs : drag.faceRefs;
        if (!refs.isEmpty()) {
            const bool face = !drag.faceRefs.isEmpty();
            values[to.choice] = face ? to.toFace : to.toPoint;
            values[face ? to.faceSlot : to.pointSlot] = References{refs.first().toStdString()};
            values[slot->key] = step->text(slot->key); // what it was: for when a length is wanted again
            if (face && words->slot("sense"))
                values["sense"] = values.count("way") ? values.at("way") : SlotValue(step->text("way"));
        }
    }
    if (drag.done) m_dragFrom.reset();
    if (m_use.bar->active())
        m_use.bar->drag(values, drag.done);
    else
        m_use.sheet->dragSizes(step->id, values, drag.done);
}

/// A thread between sections has gone to another place.
void Selection::threadPulled(const ThreadPull& pull) {
    const Step* step = handled();
    const StepWords* words = step ? findStepWords(step->kind) : nullptr;
    if (!words || !words->slot(pull.slot.toStdString())) return;
    SlotValues values;
    values[pull.slot.toStdString()] = pull.says.toStdString();
    if (!pull.choice.isEmpty()) values[pull.choice.toStdString()] = pull.chosen.toStdString();
    if (m_use.bar->active())
        m_use.bar->drag(values, pull.done);
    else
        m_use.sheet->dragSizes(step->id, values, pull.done);
}

/// Of a file that a step brings in other bodies are taken.
void Selection::fileBodiesTaken(const QString& names) {
    const Step* step = handled();
    const StepWords* words = step ? findStepWords(step->kind) : nullptr;
    if (!words) return;
    for (const SlotWords& s : words->slots) {
        if (s.type != SlotType::FileBodies) continue;
        SlotValues values;
        values[s.key] = names.toStdString();
        if (m_use.bar->active())
            m_use.bar->drag(values, true);
        else
            m_use.sheet->dragSizes(step->id, values, true);
    }
}

void Selection::handleTyped(const QString& slot, const QString& text) {
    const Step* step = handled();
    if (!step) return;
    if (m_use.bar->active())
        m_use.bar->fillText(slot, text);
    else
        m_use.sheet->typeSize(step->id, slot, text);
}

void Selection::boxed(const QStringList& refs) {
    if (m_use.bar->active()) return m_use.bar->fillSeveral(refs);
    if (m_step == 0 || m_which) return;
    Part p = m_use.session->part();
    Step* s = p.findStep(m_step);
    const SlotWords* slot = findStepWords(s->kind)->slot(m_slot.toStdString());
    if (!holdsReferences(slot->type)) return;
    References now = s->references(slot->key);
    for (const QString& r : refs)
        if (std::find(now.begin(), now.end(), r.toStdString()) == now.end()) now.push_back(r.toStdString());
    s->slots[slot->key] = now;
    const int step = m_step;
    const QString key = m_slot;
    m_use.session->commit(p, tr("%1 picked").arg(QString::fromStdString(slot->label)));
    pickFor(step, key);
}

QString Selection::areaWords(int drawnBy, const QString& area) const {
    const Part& part = m_use.session->part();
    const Step* step = part.findStep(drawnBy);
    if (!step) return area;
    return QString::fromStdString(areaInWords(part, nameGiven(*step, Thing::Outline), area.toStdString()));
}

/// The areas that a step was given, where its drawing lies.
void Selection::showAreasOf(const Step* step) {
    const Step* maker =
        step ? makerOf(m_use.session->part(), Thing::Outline, step->text("outline")) : nullptr;
    QStringList areas;
    if (maker)
        if (const auto chosen = areasIn(step->text("area")))
            for (const std::vector<int>& one : *chosen) areas << QString::fromStdString(areaText({one}));
    m_use.stand->setAreas(maker ? maker->id : 0, areas);
}

} // namespace gc::app
