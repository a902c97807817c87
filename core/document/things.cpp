// What a part's steps make: names, where they are used, and how bodies look.

#include "core/document/axes.hpp"
#include "core/document/body_list.hpp"
#include "core/document/part.hpp"
#include "core/document/planes.hpp"
#include "core/document/slot_trait.hpp"
#include "core/document/step_kind.hpp"

#include <algorithm>

namespace gc {

std::vector<std::string> namesOf(const Part& part, Thing thing) {
    std::vector<std::string> out;
    for (const Step& s : part.steps)
        if (std::string name = nameGiven(s, thing); !name.empty()) out.push_back(std::move(name));
    if (thing == Thing::Body)
        for (const BodyLook& look : part.looks)
            if (look.body.ordinal > 0 && !look.name.empty()) out.push_back(look.name);
    return out;
}

std::vector<std::string> namesBefore(const Part& part, int step, Thing thing) {
    const int place = part.placeOf(step), end = place > 0 ? place - 1 : part.shownSteps();
    std::vector<std::string> out;
    for (int i = 0; i < end; ++i)
        if (std::string name = nameGiven(part.steps[static_cast<std::size_t>(i)], thing); !name.empty())
            out.push_back(std::move(name));
    return out;
}

bool buildsFrom(const Step& step, const std::string& file) {
    const StepWords* words = findStepWords(step.kind);
    return words && std::any_of(words->slots.begin(), words->slots.end(), [&](const SlotWords& s) {
               return traitOf(s.type).holds == SlotTrait::Holds::File && step.text(s.key) == file;
           });
}

bool usesFile(const Step& step, const std::string& file) {
    const Drawing* drawing = drawingOf(step);
    return buildsFrom(step, file) || (drawing && drawing->picture && drawing->picture->file == file);
}

const Step* makerOf(const Part& part, Thing thing, const std::string& name) {
    const auto it = std::find_if(part.steps.begin(), part.steps.end(),
                                 [&](const Step& s) { return !name.empty() && nameGiven(s, thing) == name; });
    return it == part.steps.end() ? nullptr : &*it;
}

namespace {

constexpr Thing kThings[] = {Thing::Outline, Thing::Plane, Thing::Axis, Thing::Curve, Thing::Body};

bool isTaken(const Part& part, const std::string& name) {
    return std::any_of(std::begin(kThings), std::end(kThings), [&](Thing t) {
        const auto all = namesOf(part, t);
        return std::find(all.begin(), all.end(), name) != all.end();
    });
}

/// Puts another name wherever slots and targets name the thing.
void renameUses(Part& part, Thing thing, const std::string& from, const std::string& to) {
    for (Step& step : part.steps) {
        const StepWords* words = findStepWords(step.kind);
        if (!words) continue;
        for (const SlotWords& s : words->slots)
            if (namedBySlot(s.type) == thing) {
                const std::string now = step.text(s.key);
                const std::string then = s.type == SlotType::BodiesRef ? renamedIn(now, from, to)
                                         : now == from                 ? to
                                                                       : now;
                if (then != now) step.slots[s.key] = then;
            }
    }
    if (thing == Thing::Body)
        for (Target& t : part.brief.targets) {
            if (t.body == from) t.body = to;
            for (std::string& picked : t.of)
                if (picked == "body: " + from) picked = "body: " + to;
        }
}

} // namespace

std::string freeName(const Part& part, const std::string& wanted) {
    std::string name = wanted;
    for (int k = 2; isTaken(part, name); ++k) name = wanted + " " + std::to_string(k);
    return name;
}

namespace {

/// Why nothing can be called that; empty when something can.
std::string whyNoName(const Part& part, const std::string& name) {
    if (name.empty()) return "A name needs at least one letter.";
    if (fixedPlane(name) || fixedAxis(name) || name == kOwnAxis || parseFaceRef(name) || parseEdgeRef(name))
        return "\"" + name + "\" means something else already. Choose another name.";
    if (name.find('|') != std::string::npos) return "A name cannot have a bar in it. Choose another.";
    if (isTaken(part, name))
        return "There is something called \"" + name + "\" already. Choose another name.";
    return {};
}

} // namespace

std::string renameThing(Part& part, int stepId, const std::string& slot, const std::string& name) {
    Step* step = part.findStep(stepId);
    const StepWords* words = step ? findStepWords(step->kind) : nullptr;
    const SlotWords* s = words ? words->slot(slot) : nullptr;
    if (!s || !s->names) return "This step gives no name there.";
    const std::string before = step->text(slot);
    if (name == before) return {};
    if (std::string why = whyNoName(part, name); !why.empty()) return why;
    step->slots[slot] = name;
    renameUses(part, *s->names, before, name);
    return {};
}

std::string nameOfBody(const Part& part, ThingId body) {
    for (const BodyLook& look : part.looks)
        if (look.body == body && !look.name.empty() && body.ordinal > 0) return look.name;
    const Step* step = part.findStep(body.step);
    const std::string name = step ? nameGiven(*step, Thing::Body) : std::string();
    const std::string base = name.empty() ? "body " + std::to_string(body.step) : name;
    return body.ordinal == 0 ? base : base + " " + std::to_string(body.ordinal + 1);
}

BodyLook lookOf(const Part& part, ThingId body) {
    for (const BodyLook& look : part.looks)
        if (look.body == body) return look;
    return {body};
}

std::string colourOf(const Part& part, ThingId body) {
    // Clay, sage, slate, straw, plum, chalk: as the stand shows them in the light look.
    constexpr const char* kPalette[] = {"#c98a66", "#a9bdb0", "#5f7a8c", "#ddbf82", "#8a6a7e", "#d8d2c4"};
    const BodyLook look = lookOf(part, body);
    if (!look.colour.empty()) return look.colour;
    return kPalette[placeAmongBodies(part, body) % std::size(kPalette)];
}

std::size_t placeAmongBodies(const Part& part, ThingId body) {
    std::size_t place = 0;
    for (const Step& s : part.steps) {
        if (s.id == body.step) break;
        place += nameGiven(s, Thing::Body).empty() ? 0 : 1;
    }
    return place + static_cast<std::size_t>(body.ordinal);
}

std::string renameBody(Part& part, ThingId body, const std::string& name) {
    const Step* maker = part.findStep(body.step);
    const StepKind* kind = maker ? findKind(maker->kind) : nullptr;
    const SlotWords* slot = kind ? namingSlot(*kind, Thing::Body) : nullptr;
    if (!slot) return "This body is not there any more.";
    if (body.ordinal == 0) return renameThing(part, body.step, slot->key, name);
    if (name == nameOfBody(part, body)) return {};
    if (std::string why = whyNoName(part, name); !why.empty()) return why;
    const std::string before = nameOfBody(part, body);
    BodyLook look = lookOf(part, body);
    look.name = name;
    setLook(part, look);
    renameUses(part, Thing::Body, before, name);
    return {};
}

void takeOver(Part& part, ThingId body, const std::string& name, const std::string& colour) {
    const Step* maker = part.findStep(body.step);
    const StepKind* kind = maker ? findKind(maker->kind) : nullptr;
    const SlotWords* slot = kind ? namingSlot(*kind, Thing::Body) : nullptr;
    // What a person typed stays.
    const bool own = body.ordinal == 0 && slot && !maker->text(slot->key).starts_with(slot->fallback);
    if (!own && !name.empty() && name != nameOfBody(part, body)) {
        // A name of another file may mean something here, like "front".
        if (!renameBody(part, body, freeName(part, name)).empty())
            renameBody(part, body, freeName(part, name + " body"));
    }
    if (colour.empty()) return;
    BodyLook look = lookOf(part, body);
    look.colour = colour;
    setLook(part, look);
}

void setLook(Part& part, const BodyLook& look) {
    std::erase_if(part.looks, [&](const BodyLook& l) { return l.body == look.body; });
    if (look != BodyLook{look.body}) part.looks.push_back(look);
    std::sort(part.looks.begin(), part.looks.end(),
              [](const BodyLook& a, const BodyLook& b) { return a.body < b.body; });
}

} // namespace gc
