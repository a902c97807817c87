#include "core/document/part.hpp"

#include "core/document/drawing_hold.hpp"
#include "core/document/slot_trait.hpp"

#include "core/base/hash.hpp"
#include "core/document/areas.hpp"
#include "core/document/axes.hpp"
#include "core/document/body_list.hpp"
#include "core/document/planes.hpp"
#include "core/document/wording.hpp"

#include "core/sketch/drawing_words.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

template <class T>
const T& slotAs(const Step& step, const std::string& slot) {
    static const T empty{};
    const auto it = step.slots.find(slot);
    if (it == step.slots.end()) return empty;
    const T* value = std::get_if<T>(&it->second);
    return value ? *value : empty;
}

std::string faceInWords(const std::string& text, const Wording& w) {
    const auto ref = parseFaceRef(text);
    return ref ? inWords(**ref, w) : text;
}

std::string edgeInWords(const std::string& text, const Wording& w) {
    const auto ref = parseEdgeRef(text);
    return ref ? inWords(*ref, w) : text;
}

std::string pointInWords(const std::string& text, const Wording& w) {
    const auto ref = parsePointRef(text);
    return ref ? inWords(*ref, w) : text;
}

std::string pickInWords(SlotTrait::Picks picks, const std::string& text, const Wording& w) {
    using Picks = SlotTrait::Picks;
    if (picks == Picks::Edges || picks == Picks::Curves) return edgeInWords(text, w);
    if (picks == Picks::Sections) return parseEdgeRef(text) ? edgeInWords(text, w) : pointInWords(text, w);
    return picks == Picks::Points ? pointInWords(text, w) : faceInWords(text, w);
}

std::string joined(const std::vector<std::string>& items) {
    std::string s;
    for (std::size_t i = 0; i < items.size(); ++i)
        s += (i == 0 ? "" : i + 1 == items.size() ? " and " : ", ") + items[i];
    return s;
}

/// Of a slot that may hold several, each.
std::vector<std::string> itemsInWords(const Step& step, const SlotWords& slot, const Wording& w) {
    if (slot.type == SlotType::BodiesRef) return namesInList(step.text(slot.key));
    std::vector<std::string> words;
    for (const std::string& r : step.references(slot.key))
        words.push_back(pickInWords(traitOf(slot.type).picks, r, w));
    return words;
}

std::string slotInWords(const Part& part, const Step& step, const SlotWords& slot, const Wording& w) {
    const SlotTrait& trait = traitOf(slot.type);
    const std::string& text = step.text(slot.key);
    switch (trait.holds) {
    case SlotTrait::Holds::Rows: {
        const std::size_t n = step.stations(slot.key).size();
        return std::to_string(n) + (n == 1 ? " station" : " stations");
    }
    case SlotTrait::Holds::Drawing: {
        const std::size_t n = step.drawing(slot.key).strokes.size();
        return n == 0 ? "nothing yet" : std::to_string(n) + (n == 1 ? " stroke" : " strokes");
    }
    case SlotTrait::Holds::Picked: {
        const auto words = itemsInWords(step, slot, w);
        return words.empty() ? trait.nothingYet : joined(words);
    }
    case SlotTrait::Holds::Number:
    case SlotTrait::Holds::Text:
    case SlotTrait::Holds::File:
        break;
    }
    if (trait.picks == SlotTrait::Picks::Planes) return planeInWords(part, text);
    if (trait.picks == SlotTrait::Picks::Axes) return axisInWords(part, text);
    if (slot.type == SlotType::BodiesRef && !text.empty()) return joined(namesInList(text));
    if (slot.type == SlotType::FileBodies && !text.empty()) {
        constexpr std::size_t kSaid = 2; // more would be longer than the sentence
        const auto names = namesInList(text);
        return names.size() <= kSaid ? joined(names) : std::to_string(names.size()) + " of its bodies";
    }
    if (slot.type == SlotType::AreaRef) return areaInWords(part, step.text("outline"), text);
    if (const std::size_t k = slot.choiceAt(text); k < slot.choices.size()) return slot.choices[k].words;
    return text.empty() ? trait.nothingYet : slot.prefix + text;
}

} // namespace

std::uint64_t SharedText::hash() const {
    std::call_once(m_held->hashed, [&] { m_held->hash = Hasher().text(m_held->text).value(); });
    return m_held->hash;
}

const std::string& Step::text(const std::string& slot) const {
    return slotAs<std::string>(*this, slot);
}
const References& Step::references(const std::string& slot) const {
    return slotAs<References>(*this, slot);
}
const Stations& Step::stations(const std::string& slot) const {
    return slotAs<Stations>(*this, slot);
}

const Drawing& Step::drawing(const std::string& slot) const {
    return *slotAs<DrawingSlot>(*this, slot);
}

int Part::shownSteps() const {
    const int all = static_cast<int>(steps.size());
    return bookmark < 0 || bookmark > all ? all : bookmark;
}

const Step* Part::findStep(int id) const {
    const auto it = std::find_if(steps.begin(), steps.end(), [id](const Step& s) { return s.id == id; });
    return it == steps.end() ? nullptr : &*it;
}

Step* Part::findStep(int id) {
    return const_cast<Step*>(std::as_const(*this).findStep(id));
}

void putStep(Part& part, int step, int before) {
    const int from = part.placeOf(step) - 1;
    if (from < 0 || step == before || (before != 0 && part.placeOf(before) == 0)) return;
    const Step moved = part.steps[static_cast<std::size_t>(from)];
    part.steps.erase(part.steps.begin() + from);
    const int to = before == 0 ? static_cast<int>(part.steps.size()) : part.placeOf(before) - 1;
    part.steps.insert(part.steps.begin() + to, moved);
}

int Part::placeOf(int id) const {
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (steps[i].id == id) return static_cast<int>(i) + 1;
    return 0;
}

Step newStep(Part& part, const std::string& kind) {
    Step step;
    step.id = part.nextId++;
    step.kind = kind;
    const StepWords* words = findWords(kind);
    if (!words) return step;
    for (const SlotWords& s : words->slots) {
        using Holds = SlotTrait::Holds;
        const Holds holds = traitOf(s.type).holds;
        if (holds == Holds::Picked)
            step.slots[s.key] = References{};
        else if (holds == Holds::Drawing)
            step.slots[s.key] = DrawingSlot();
        else if (holds == Holds::Rows)
            step.slots[s.key] = Stations{
                {"0 mm", "60 mm", false, ""}, {"50 mm", "70 mm", false, ""}, {"100 mm", "90 mm", false, ""}};
        else
            step.slots[s.key] = s.fallback;
    }
    if (const StepKind* k = findKind(kind); k && k->defaults) k->defaults(step, part);
    for (const SlotWords& s : words->slots) // a new name must be new
        if (s.names) step.slots[s.key] = freeName(part, step.text(s.key));
    return step;
}

const Drawing* drawingOf(const Step& step) {
    for (const auto& [key, value] : step.slots)
        if (const auto* held = std::get_if<DrawingSlot>(&value)) return &**held;
    return nullptr;
}

Values valuesOf(const Part& part) {
    auto values = evaluateValues(part.values, part.brief.units);
    return values ? *values : Values{};
}

std::uint64_t spokenOf(const Part& part) {
    Hasher h;
    for (const NamedValue& v : part.values) h.text(v.name).text(v.expression);
    for (const std::string& unit : {part.brief.units.length, part.brief.units.angle}) h.text(unit);
    for (const Step& s : part.steps) {
        h.number(static_cast<std::uint64_t>(s.id)).text(s.kind);
        if (const Drawing* d = drawingOf(s)) h.number(reinterpret_cast<std::uintptr_t>(d));
        const StepWords* words = findStepWords(s.kind);
        for (const SlotWords& slot : words ? words->slots : std::vector<SlotWords>())
            if (slot.names) h.text(s.text(slot.key));
    }
    return h.value();
}

std::vector<SentenceWord> sentenceOf(const Step& step, const Part& part) {
    return sentenceOf(step, part, valuesOf(part));
}

std::vector<SentenceWord> sentenceOf(const Step& step, const Part& part, const Values& values, SaidIn where) {
    const StepWords* words = findWords(step.kind);
    if (!words) return {{step.kind, "", ""}};
    const Wording w = wordingFor(part);
    std::vector<SentenceWord> out;
    for (const SentencePiece& piece : words->sentence) {
        if (piece.shown && !piece.shown(step)) continue;
        if (piece.slot.empty()) {
            out.push_back({piece.words, "", ""});
            continue;
        }
        const SlotWords* slot = words->slot(piece.slot);
        if (piece.quiet && where == SaidIn::Sheet && slot->choiceAt(step.text(piece.slot)) == 0) continue;
        SentenceWord word{slotInWords(part, step, *slot, w), piece.slot, ""};
        const SlotTrait& trait = traitOf(slot->type);
        if (trait.picks != SlotTrait::Picks::Nothing && !trait.one) word.items = itemsInWords(step, *slot, w);
        const bool number = trait.holds == SlotTrait::Holds::Number;
        const std::string& typed = step.text(piece.slot);
        const bool complete = typed.find_first_not_of("-0123456789., ") != std::string::npos;
        if (number && !slot->eachPlace && !(isPlainNumber(typed) && (complete || trait.whole)))
            if (const auto v = evaluateSlot(step, piece.slot, part, values)) {
                word.text = slot->prefix +
                            (trait.whole ? formatNumber(*v)
                                         : formatAmount(*v, part.brief.units.symbolFor(slot->dimension)));
                word.expression = typed;
            }
        out.push_back(std::move(word));
    }
    return out;
}

bool isShown(const Step& step, const std::string& slot) {
    const StepWords* words = findWords(step.kind);
    return words && std::any_of(words->sentence.begin(), words->sentence.end(), [&](const SentencePiece& p) {
               return p.slot == slot && (!p.shown || p.shown(step));
           });
}

std::string spotSlot(const Step& step) {
    const StepWords* words = findWords(step.kind);
    for (const SlotWords& s : words ? words->slots : std::vector<SlotWords>())
        if (s.type == SlotType::Point && isShown(step, s.key)) return s.key;
    return {};
}

std::string sentenceText(const Step& step, const Part& part) {
    std::string s;
    for (const SentenceWord& w : sentenceOf(step, part)) {
        const bool joins = s.empty() || w.text[0] == ',' || w.text[0] == '.';
        s += (joins ? "" : " ") + w.text;
    }
    return s;
}

std::string referenceInWords(const std::string& reference, const Part& part) {
    const Wording w = wordingFor(part);
    // Any words can be the role of a face: what reads as something else comes first.
    if (parsePointRef(reference)) return pointInWords(reference, w);
    for (const char* begin : {"stroke ", "where ", "all edges of ", "edges between ", "corners of ",
                              "outside corners of ", "inside corners of "})
        if (reference.starts_with(begin)) return edgeInWords(reference, w);
    return parseFaceRef(reference) ? faceInWords(reference, w) : edgeInWords(reference, w);
}

std::string pickedInWords(const std::string& picked, const Part& part) {
    const Wording w = wordingFor(part);
    const auto after = [&](const std::string& word) -> std::optional<std::string> {
        return picked.starts_with(word) ? std::optional(picked.substr(word.size())) : std::nullopt;
    };
    if (const auto point = after("point: ")) return pointInWords(*point, w);
    for (const char* line : {"edge: ", "curve: "})
        if (const auto edge = after(line)) return edgeInWords(*edge, w);
    if (const auto face = after("face: ")) return faceInWords(*face, w);
    const auto body = after("body: ");
    return body ? *body : picked;
}

std::string targetInWords(const Target& target, const Part& part) {
    const MeasureWords* words = findMeasure(target.measure);
    std::string label = words ? words->label : target.measure;
    for (std::size_t i = 0; i < target.of.size(); ++i)
        label += (i == 0 ? " of " : " to ") + pickedInWords(target.of[i], part);
    if (!target.body.empty()) label += " of " + target.body;
    return label;
}

void togglePick(References& references, const std::string& picked, SlotType type) {
    if (holdsOne(type)) {
        references = {picked};
        return;
    }
    const auto it = std::find(references.begin(), references.end(), picked);
    if (it == references.end())
        references.push_back(picked);
    else
        references.erase(it);
}

std::optional<std::string> typeIntoSlot(Part& part, int stepId, const std::string& slot,
                                        const std::string& text) {
    Step* step = part.findStep(stepId);
    if (!step) return std::nullopt;
    const StepWords* words = findStepWords(step->kind);
    if (const SlotWords* s = words ? words->slot(slot) : nullptr; s && s->names) {
        (void)renameThing(part, stepId, slot, text); // a name that cannot be given is left as it was
        return std::nullopt;
    }
    if (const SlotWords* s = words ? words->slot(slot) : nullptr; s && s->type == SlotType::Drawing) {
        const auto hold = parsePointHold(text);
        Drawing drawing = step->drawing(slot);
        if (!hold || !drawing.findPoint(hold->point)) return std::nullopt;
        holdPoint(drawing, hold->point, hold->trace);
        step->slots[slot] = DrawingSlot(std::move(drawing));
        return std::nullopt;
    }
    const std::string before = step->text(slot);
    for (NamedValue& v : part.values)
        if (v.name == before && !namesUsed(text).count(before)) {
            v.expression = text;
            return v.name;
        }
    step->slots[slot] = text;
    return std::nullopt;
}

StationCheck checkStations(const Stations& stations, double tolerance, const UnitSystem& units,
                           const Values& values) {
    const auto lookup = [&](const std::string& name) -> std::optional<Amount> {
        const auto it = values.find(name);
        return it == values.end() ? std::nullopt : std::optional<Amount>(it->second);
    };
    StationCheck check;
    int row = -1;
    for (const StationRow& r : stations) {
        ++row;
        StationValues v;
        v.inside = r.inside;
        v.tolerance = tolerance;
        auto read = [&](const std::string& text, const char* what, double& out) {
            const auto a = evaluate(text, kLength, units, lookup);
            if (!a) {
                check.faults.push_back({row, phrase("%1: %2", what, a.error().sentence)});
                return false;
            }
            out = a->value;
            return true;
        };
        const bool ok = read(r.height, "Height", v.height) & read(r.diameter, "Diameter", v.diameter);
        if (!r.tolerance.empty() && read(r.tolerance, "Tolerance", v.tolerance) && v.tolerance < 0)
            check.faults.push_back({row, "The tolerance must not be negative."});
        if (ok && v.diameter <= 0)
            check.faults.push_back(
                {row, "The diameter must be more than 0 mm, not " + formatAmount(v.diameter, "mm") + "."});
        constexpr double kMost = 5000; // mm: nobody turns a part of more, and slips of a unit show here
        if (ok && std::fabs(v.height) > kMost) check.faults.push_back({row, "The height is more than 5 m."});
        if (ok && v.diameter > kMost) check.faults.push_back({row, "The diameter is more than 5 m."});
        const auto same = std::find_if(check.rows.begin(), check.rows.end(), [&](const StationValues& other) {
            return std::fabs(v.height - other.height) < 1e-6 && std::fabs(v.diameter - other.diameter) < 1e-6;
        });
        if (ok && same != check.rows.end()) { // a profile that comes back to a point would cross itself there
            const auto other = same - check.rows.begin() + 1;
            check.faults.push_back(
                {row, other == row
                          ? Message("This is the same point as the row before. Delete one of the two.")
                          : phrase("This is the same point as row %1. Were rows pasted twice? Delete one of "
                                   "the two.",
                                   std::to_string(other))});
        }
        check.rows.push_back(v);
    }
    // A profile runs upwards by and large. It may overhang; but one row out of order is a slip.
    for (std::size_t i = 1; i + 1 < check.rows.size(); ++i) {
        const double before = check.rows[i - 1].height, now = check.rows[i].height,
                     next = check.rows[i + 1].height;
        const bool spike =
            (now > before && now > next && next > before) || (now < before && now < next && next > before);
        const double back = now > next ? now - next : before - now;
        if (spike && back > 0.25 * std::fabs(check.rows.back().height - check.rows.front().height))
            check.faults.push_back({static_cast<int>(i),
                                    "The heights are out of order here. Sort the rows, or "
                                    "check this height."});
    }
    return check;
}

std::string stepInWords(int id, const Part& part) {
    const Step* step = part.findStep(id);
    if (!step) return "a step that was deleted";
    const StepKind* kind = findKind(step->kind);
    return "step " + std::to_string(part.placeOf(id)) + (kind ? ", " + kind->words.verb : std::string());
}

std::string spoken(const std::string& sentence, const Part& part) {
    constexpr std::string_view kOpen = "⟦", kClose = "⟧";
    std::string out;
    std::size_t at = 0;
    for (;;) {
        const std::size_t open = sentence.find(kOpen, at);
        const std::size_t close = open == std::string::npos ? open : sentence.find(kClose, open);
        if (close == std::string::npos) break;
        out += sentence.substr(at, open - at);
        const std::string inner = sentence.substr(open + kOpen.size(), close - open - kOpen.size());
        const std::string words = inner.starts_with("step ") ? stepInWords(std::atoi(inner.c_str() + 5), part)
                                                             : referenceInWords(inner, part);
        out += words;
        at = close + kClose.size();
    }
    return out + sentence.substr(at);
}

std::string attach(Part& part, const std::string& name, SharedText content) {
    const auto dot = name.rfind('.');
    const std::string stem = name.substr(0, dot), ending = dot == std::string::npos ? "" : name.substr(dot);
    for (int k = 1;; ++k) {
        std::string own = name;
        if (k > 1) (own = stem).append(" ").append(std::to_string(k)).append(ending);
        const auto same = std::find_if(part.attachments.begin(), part.attachments.end(),
                                       [&](const Attachment& a) { return a.name == own; });
        if (same == part.attachments.end()) {
            part.attachments.push_back({own, std::move(content)});
            return own;
        }
        if (same->content.hash() == content.hash()) return own;
    }
}

} // namespace gc
