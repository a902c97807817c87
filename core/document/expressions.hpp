#pragma once
/// \file For .cpp files of this folder: every text of a part in which sizes and values are named.

#include "core/document/part.hpp"
#include "core/document/slot_trait.hpp"

#include <algorithm>

namespace gc {

/// The expressions between the signs of an allowed range ("2 mm … wall * 2"), joined again afterwards.
template <class Use>
std::string eachBound(const std::string& allowed, const Use& use) {
    static const std::string signs[] = {"±",        "+/-", "+-", "…", "...",     ">=", "≥",
                                        "at least", ">",   "<=", "≤", "at most", "<",  "="};
    std::string out, bound;
    const auto close = [&] {
        use(bound);
        out += bound;
        bound.clear();
    };
    for (std::size_t i = 0; i < allowed.size();) {
        const auto sign = std::find_if(std::begin(signs), std::end(signs), [&](const std::string& s) {
            return allowed.compare(i, s.size(), s) == 0;
        });
        if (sign == std::end(signs)) {
            bound += allowed[i++];
            continue;
        }
        close();
        out += *sign;
        i += sign->size();
    }
    close();
    return out;
}

inline const SlotValues& slotsOf(const Step& step) {
    return step.slots;
}
inline SlotValues::Map& slotsOf(Step& step) {
    return step.slots.own();
}

/// Every text of a part in which values may be named, with what it is called.
/// \param use void(std::string& expression, const std::string& called, std::optional<Dimension>): of which
/// dimension it is; nothing where that is for the text to say
template <class AnyPart, class Use>
void eachExpression(AnyPart& part, const Use& use) {
    const auto of = [](Dimension d) { return std::optional<Dimension>(d); };
    for (auto& v : part.values) use(v.expression, "value " + v.name, std::optional<Dimension>());
    int place = 0;
    for (auto& step : part.steps) {
        ++place;
        const StepWords* words = findStepWords(step.kind);
        if (!words) continue;
        const std::string called = "step " + std::to_string(place) + ", ";
        for (auto& [key, slot] : slotsOf(step)) {
            const SlotWords* w = words->slot(key);
            if (!w) continue;
            if (auto* text = std::get_if<std::string>(&slot);
                text && traitOf(w->type).holds == SlotTrait::Holds::Number)
                use(*text, called + words->verb + ": " + w->label,
                    of(traitOf(w->type).whole ? kNumber : w->dimension));
            if (auto* rows = std::get_if<Stations>(&slot))
                for (std::size_t i = 0; i < rows->size(); ++i) {
                    use((*rows)[i].height, called + "height of station " + std::to_string(i + 1),
                        of(kLength));
                    use((*rows)[i].diameter, called + "diameter of station " + std::to_string(i + 1),
                        of(kLength));
                    if (!(*rows)[i].tolerance.empty())
                        use((*rows)[i].tolerance, called + "tolerance of station " + std::to_string(i + 1),
                            of(kLength));
                }
        }
    }
    use(part.brief.fillLine, "the fill line", of(kLength));
    for (auto& t : part.brief.targets) {
        const MeasureWords* m = findMeasure(t.measure);
        const std::string allowed = eachBound(t.allowed, [&](std::string& bound) {
            use(bound, "target " + t.measure, m ? of(m->dimension) : std::nullopt);
        });
        if constexpr (!std::is_const_v<AnyPart>) t.allowed = allowed;
    }
}

} // namespace gc
