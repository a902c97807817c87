// What stands in a number slot, worked out.

#include "core/document/part.hpp"
#include "core/document/slot_trait.hpp"

#include <cmath>

namespace gc {

namespace {

/// A value without a unit is a length; where a number is wanted it is that number: "holes = 6".
Result<Amount> evaluateNumber(const std::string& text, const Part& part, const NameLookup& lookup) {
    auto plain = evaluate(text, kNumber, part.brief.units, lookup);
    if (plain) return plain;
    const auto second = evaluate(text, kNumber, part.brief.units, [&](const std::string& name) {
        for (const NamedValue& v : part.values)
            if (v.name == name && isPlainNumber(v.expression))
                if (const auto number = evaluate(v.expression, kNumber, part.brief.units))
                    return std::optional<Amount>(*number);
        return lookup(name);
    });
    return second ? second : plain;
}

constexpr const char* kPlace = "n";

} // namespace

bool changesByPlace(const Step& step, const SlotWords& slot) {
    return slot.eachPlace && namesUsed(step.text(slot.key)).count(kPlace) > 0;
}

Result<double> evaluateSlot(const Step& step, const std::string& slot, const Part& part, const Values& values,
                            int place) {
    const StepWords* words = findWords(step.kind);
    const SlotWords* s = words ? words->slot(slot) : nullptr;
    Error e;
    e.code = "slot.unknown";
    if (!s) {
        e.sentence = phrase("This step has no \"%1\".", slot);
        return e;
    }
    const auto lookup = [&](const std::string& name) -> std::optional<Amount> {
        if (s->eachPlace && name == kPlace) return Amount{static_cast<double>(place), kNumber};
        const auto it = values.find(name);
        return it == values.end() ? std::nullopt : std::optional<Amount>(it->second);
    };
    const bool whole = traitOf(s->type).whole;
    const Dimension dimension = whole ? kNumber : s->dimension;
    const auto amount = dimension == kNumber ? evaluateNumber(step.text(slot), part, lookup)
                                             : evaluate(step.text(slot), dimension, part.brief.units, lookup);
    if (!amount) {
        e = amount.error();
        e.culprits.insert(e.culprits.begin(), slot);
        return e;
    }
    const std::string unit = part.brief.units.symbolFor(dimension);
    e.culprits = {slot};
    e.code = "slot.range";
    const std::string called =
        changesByPlace(step, *s) ? s->label + " at place " + std::to_string(place) : s->label;
    const double v = amount->value;
    const bool tooSmall = s->leastAllowed || whole ? v < s->least : v <= s->least;
    if (tooSmall) {
        e.sentence =
            phrase(s->leastAllowed || whole ? "The %1 must be at least %2." : "The %1 must be more than %2.",
                   called, formatAmount(s->least, unit));
        return e;
    }
    if (v > s->most) {
        e.sentence = phrase("The %1 must be at most %2.", called, formatAmount(s->most, unit));
        return e;
    }
    if (whole && std::fabs(v - std::round(v)) > 1e-9) {
        e.sentence = phrase("The %1 must be a whole number, not %2.", s->label, formatNumber(v));
        return e;
    }
    return whole ? std::round(v) : v;
}

} // namespace gc
