#include "core/document/units_change.hpp"

#include "core/document/drawing_sizes.hpp"
#include "core/document/expressions.hpp"
#include "core/document/named_values.hpp"
#include "core/document/slot_trait.hpp"
#include "core/sketch/drawing_words.hpp"

#include <utility>

namespace gc {

namespace {

/// Of a drawing's own names, then of the part's values; it holds no longer than they live.
NameLookup namesIn(const Drawing& drawing, const Values& values) {
    return [&](const std::string& name) -> std::optional<Amount> {
        for (const Relation& r : drawing.relations)
            if (r.name == name && !r.readOnly)
                return Amount{1, wordsOf(r.kind).dimension}; // its kind is what counts
        const auto it = values.find(name);
        return it == values.end() ? std::nullopt : std::optional<Amount>(it->second);
    };
}

/// Does the value stand for a number wherever it is used? Then no unit is meant by it.
bool isNumberOnly(const Part& part, const std::string& name) {
    std::size_t uses = 0;
    for (const Step& step : part.steps)
        if (const StepWords* words = findWords(step.kind))
            for (const SlotWords& s : words->slots) {
                const SlotTrait& trait = traitOf(s.type);
                const bool number =
                    trait.holds == SlotTrait::Holds::Number && (trait.whole || s.dimension == kNumber);
                uses += number && namesUsed(step.text(s.key)).count(name);
            }
    return uses > 0 && uses == usesOfValue(part, name).size();
}

} // namespace

UnitsChanged inUnits(const Part& part, const UnitSystem& now) {
    const UnitSystem was = part.brief.units;
    const Values values = valuesOf(part);
    UnitsChanged out{part, {}};
    const auto say = [&](std::string& text, const std::string& called, std::optional<Dimension> dimension,
                         const NameLookup& names) {
        std::string with = sayUnits(text, dimension.value_or(kLength), was, now, names);
        if (with == text) return;
        out.said.push_back(called + ": " + text);
        text = std::move(with);
    };
    const auto targets = std::exchange(out.part.brief.targets, {}); // they have a way of their own
    const Drawing none;
    const NameLookup lookup = namesIn(none, values);
    std::size_t value = 0;
    eachExpression(out.part, [&](std::string& text, const std::string& called, std::optional<Dimension> d) {
        if (!d && value < part.values.size()) { // a named value: what it came to says what it is
            const std::string& name = part.values[value++].name;
            if (isNumberOnly(part, name)) return;
            if (const auto it = values.find(name); it != values.end()) d = it->second.dimension;
        }
        say(text, called, d, lookup);
    });
    for (Target t : targets) {
        const MeasureWords* m = findMeasure(t.measure);
        const Dimension d = m ? m->dimension : kNumber;
        const auto before = parseAllowed(t.allowed, d, was, lookup),
                   after = parseAllowed(t.allowed, d, now, lookup);
        // "100 ± 3 mm" says its unit once for both.
        if (!before || !after || before->least != after->least || before->most != after->most)
            t.allowed = eachBound(t.allowed,
                                  [&](std::string& bound) { say(bound, "target " + t.measure, d, lookup); });
        out.part.brief.targets.push_back(std::move(t));
    }
    int place = 0;
    for (Step& step : out.part.steps) {
        ++place;
        for (auto& [key, slot] : step.slots.own()) {
            auto* held = std::get_if<DrawingSlot>(&slot);
            if (!held) continue;
            Drawing drawing = **held;
            const std::size_t before = out.said.size();
            const NameLookup own = namesIn(drawing, values);
            for (Relation& r : drawing.relations) {
                if (r.expression.empty()) continue;
                const std::string s = sentenceOf(drawing, r, was);
                const std::string called = "step " + std::to_string(place) + ", " + step.text("name") + ": " +
                                           s.substr(0, s.rfind(" = "));
                say(r.expression, called, wordsOf(r.kind).dimension, own);
            }
            if (out.said.size() != before) slot = DrawingSlot(std::move(drawing));
        }
    }
    out.part.brief.units = now;
    return out;
}

} // namespace gc
