#include "core/document/edit_words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_trait.hpp"
#include "core/document/step_kind.hpp"

#include <algorithm>
#include <unordered_map>

namespace gc {

bool holdsReferences(SlotType type) {
    return traitOf(type).holds == SlotTrait::Holds::Picked;
}

bool holdsOne(SlotType type) {
    return holdsReferences(type) && traitOf(type).one;
}

std::string whyNoReference(SlotType type, const std::string& text) {
    using Picks = SlotTrait::Picks;
    const Picks picks = traitOf(type).picks;
    const bool edge = picks == Picks::Edges || picks == Picks::Curves;
    const bool good = edge                       ? parseEdgeRef(text).ok()
                      : picks == Picks::Sections ? parseEdgeRef(text).ok() || parsePointRef(text).ok()
                      : picks == Picks::Points   ? parsePointRef(text).ok()
                                                 : parseFaceRef(text).ok();
    return good ? std::string() : "The reference \"" + text + "\" is not understood.";
}

const SlotWords* StepWords::slot(const std::string& key) const {
    const auto it =
        std::find_if(slots.begin(), slots.end(), [&](const SlotWords& s) { return s.key == key; });
    return it == slots.end() ? nullptr : &*it;
}

std::optional<Thing> namedBySlot(SlotType type) {
    return traitOf(type).named;
}

std::size_t SlotWords::choiceAt(const std::string& choice) const {
    const auto it =
        std::find_if(choices.begin(), choices.end(), [&](const Choice& c) { return c.key == choice; });
    return static_cast<std::size_t>(it - choices.begin());
}

bool StepKind::makes(const std::string& role) const {
    return std::any_of(roles.begin(), roles.end(), [&](const RoleWords& r) {
        return r.numbered ? role.starts_with(r.role + " ") : role == r.role;
    });
}

const StepKind* findKind(const std::string& key) {
    static const auto byKey = [] {
        std::unordered_map<std::string, const StepKind*> all;
        for (const StepKind& k : allKinds()) all[k.key()] = &k;
        return all;
    }();
    const auto it = byKey.find(key);
    return it == byKey.end() ? nullptr : it->second;
}

const SlotWords* namingSlot(const StepKind& kind, Thing thing) {
    const auto& slots = kind.words.slots;
    const auto it =
        std::find_if(slots.begin(), slots.end(), [&](const SlotWords& s) { return s.names == thing; });
    return it == slots.end() ? nullptr : &*it;
}

std::string nameGiven(const Step& step, Thing thing) {
    const StepKind* kind = findKind(step.kind);
    const SlotWords* slot = kind ? namingSlot(*kind, thing) : nullptr;
    return slot && isShown(step, slot->key) ? step.text(slot->key) : std::string();
}

FilledIn filledIn(const Step& step) {
    const StepKind* kind = findKind(step.kind);
    return kind ? kind->filledIn : FilledIn::Sentence;
}

const StepWords* findWords(const std::string& kind) {
    if (const StepWords* step = findStepWords(kind)) return step;
    const auto& all = allEditWords();
    const auto it = std::find_if(all.begin(), all.end(), [&](const StepWords& w) { return w.kind == kind; });
    return it == all.end() ? nullptr : &*it;
}

const StepWords* findStepWords(const std::string& kind) {
    const StepKind* k = findKind(kind);
    return k ? &k->words : nullptr;
}

} // namespace gc
