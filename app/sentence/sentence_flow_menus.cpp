// The lists that slots of a sentence open.

#include "app/sentence/sentence_flow.hpp"

#include "app/look/words.hpp"
#include "core/document/areas.hpp"
#include "core/document/axes.hpp"
#include "core/document/body_list.hpp"
#include "core/document/planes.hpp"
#include "core/document/slot_trait.hpp"

#include <QMenu>

#include <algorithm>

namespace gc::app {

void SentenceFlow::openMenu(const Word& word) {
    const SlotWords* s = slotWords(word.slot);
    QStringList choices;
    using Picks = SlotTrait::Picks;
    const Picks picks = traitOf(s->type).picks;
    if (picks == Picks::Planes || picks == Picks::Axes) return openPickMenu(word, *s);
    if (!s->choices.empty()) return openChoices(word, *s);
    if (s->type == SlotType::BodiesRef) return openBodies(word);
    if (s->type == SlotType::FileBodies) return; // the list of them is open beside the part
    if (const auto thing = namedBySlot(s->type))
        for (const std::string& name : namesBefore(*m_part, m_step.id, *thing))
            choices << QString::fromStdString(name);
    if (traitOf(s->type).holds == SlotTrait::Holds::File)
        for (const Attachment& a : m_part->attachments) choices << QString::fromStdString(a.name);
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    if (s->type == SlotType::AreaRef) {
        menu->addAction(tr("all of it"), this, [this, slot = word.slot] { Q_EMIT chosen(slot, QString()); });
        if (const Drawing* d = drawingOf(*m_part, m_step.text("outline")))
            for (const AreaChoice& a : areasOf(*d)) addArea(menu, word, a);
    }
    for (const QString& c : choices)
        menu->addAction(c, this, [this, slot = word.slot, c] { Q_EMIT chosen(slot, c); });
    if (picks != Picks::Nothing) addPick(menu, word);
    if (traitOf(s->type).holds == SlotTrait::Holds::File) {
        menu->addSeparator();
        menu->addAction(tr("another file …"), this, [this, slot = word.slot] { Q_EMIT fileAsked(slot); });
    }
    menu->popup(mapToGlobal(word.rect.bottomLeft()));
}

/// One of the areas: a click puts it in, or takes it out again.
void SentenceFlow::addArea(QMenu* menu, const Word& word, const AreaChoice& area) {
    const std::string now = rawText(word.slot).toStdString();
    const Areas areas = areasIn(now).value_or(Areas()), own = areasIn(area.value).value_or(Areas());
    QAction* a = menu->addAction(QString::fromStdString(area.words), this,
                                 [this, slot = word.slot, with = withArea(now, area.value)] {
                                     Q_EMIT chosen(slot, QString::fromStdString(with));
                                 });
    a->setCheckable(true);
    a->setChecked(!own.empty() && std::find(areas.begin(), areas.end(), own.front()) != areas.end());
}

void SentenceFlow::openChoices(const Word& word, const SlotWords& slot) {
    if (slot.choices.size() == 2) { // two ways: one click turns it round
        const std::size_t other = slot.choiceAt(rawText(word.slot).toStdString()) == 0 ? 1 : 0;
        Q_EMIT chosen(word.slot, QString::fromStdString(slot.choices[other].key));
        return;
    }
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const Choice& c : slot.choices)
        menu->addAction(
            inWords(c.words), this,
            [this, name = word.slot, key = QString::fromStdString(c.key)] { Q_EMIT chosen(name, key); });
    menu->popup(mapToGlobal(word.rect.bottomLeft()));
}

/// Planes or axes: those that every part has, those that were made, and what is picked.
void SentenceFlow::openPickMenu(const Word& word, const SlotWords& s) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const bool planes = traitOf(s.type).picks == SlotTrait::Picks::Planes;
    const auto add = [&](const std::string& name) {
        menu->addAction(
            QString::fromStdString(planes ? planeInWords(*m_part, name) : axisInWords(*m_part, name)), this,
            [this, slot = word.slot, name] { Q_EMIT chosen(slot, QString::fromStdString(name)); });
    };
    if (s.fallback == kOwnAxis) add(kOwnAxis);
    for (const char* name : planes ? kFixedPlanes : kFixedAxes) add(name);
    for (const std::string& name : namesBefore(*m_part, m_step.id, planes ? Thing::Plane : Thing::Axis))
        add(name);
    addPick(menu, word);
    menu->popup(mapToGlobal(word.rect.bottomLeft()));
}

void SentenceFlow::addPick(QMenu* menu, const Word& word) {
    menu->addSeparator();
    menu->addAction(tr("pick in the stand …"), this, [this, slot = word.slot] { Q_EMIT pickAsked(slot); });
}

/// Any number of bodies, or whichever the step touches.
void SentenceFlow::openBodies(const Word& word) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const std::string now = rawText(word.slot).toStdString();
    const auto there = namesInList(now);
    const auto add = [&](const QString& words, const std::string& value, bool checked) {
        QAction* a = menu->addAction(words, this, [this, slot = word.slot, value] {
            Q_EMIT chosen(slot, QString::fromStdString(value));
        });
        a->setCheckable(true);
        a->setChecked(checked);
    };
    add(tr("what it touches"), {}, there.empty());
    for (const std::string& name : namesBefore(*m_part, m_step.id, Thing::Body))
        add(QString::fromStdString(name), withName(now, name),
            std::find(there.begin(), there.end(), name) != there.end());
    addPick(menu, word);
    menu->popup(mapToGlobal(word.rect.bottomLeft()));
}

} // namespace gc::app
