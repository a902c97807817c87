#include "core/document/named_values.hpp"

#include "core/document/slot_trait.hpp"
#include "core/sketch/drawing_words.hpp"

#include <algorithm>

namespace gc {

namespace {

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

const SlotValues& slotsOf(const Step& step) {
    return step.slots;
}
SlotValues::Map& slotsOf(Step& step) {
    return step.slots.own();
}

/// Every text of a part in which values may be named, with what it is called.
/// \param use void(std::string& expression, const std::string& called)
template <class AnyPart, class Use>
void eachExpression(AnyPart& part, const Use& use) {
    for (auto& v : part.values) use(v.expression, "value " + v.name);
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
                use(*text, called + words->verb + ": " + w->label);
            if (auto* rows = std::get_if<Stations>(&slot))
                for (std::size_t i = 0; i < rows->size(); ++i) {
                    use((*rows)[i].height, called + "height of station " + std::to_string(i + 1));
                    use((*rows)[i].diameter, called + "diameter of station " + std::to_string(i + 1));
                }
        }
    }
    use(part.brief.fillLine, "the fill line");
    for (auto& t : part.brief.targets) {
        const std::string allowed =
            eachBound(t.allowed, [&](std::string& bound) { use(bound, "target " + t.measure); });
        if constexpr (!std::is_const_v<AnyPart>) t.allowed = allowed;
    }
}

/// Does a dimension of the drawing already have that name? It then means that one there.
bool hidden(const Drawing& d, const std::string& name) {
    return std::any_of(d.relations.begin(), d.relations.end(),
                       [&](const Relation& r) { return r.name == name; });
}

std::string badName(const std::string& name) {
    return "\"" + name + "\" cannot be a name. Use letters, digits and _, a letter first, and no unit.";
}

} // namespace

std::vector<std::string> usesOfValue(const Part& part, const std::string& name) {
    std::vector<std::string> out;
    eachExpression(part, [&](const std::string& expression, const std::string& called) {
        if (namesUsed(expression).count(name)) out.push_back(called);
    });
    int place = 0;
    for (const Step& step : part.steps) {
        ++place;
        for (const auto& [key, slot] : step.slots) {
            const auto* drawing = std::get_if<DrawingSlot>(&slot);
            if (!drawing || hidden((**drawing), name)) continue;
            for (const Relation& r : (**drawing).relations) {
                if (!namesUsed(r.expression).count(name)) continue;
                const std::string s = sentenceOf((**drawing), r, part.brief.units);
                out.push_back("step " + std::to_string(place) + ", " + step.text("name") + ": " +
                              s.substr(0, s.rfind(" = ")));
            }
        }
    }
    return out;
}

std::string renameValue(Part& part, const std::string& from, const std::string& to) {
    if (from == to) return {};
    if (!isGoodName(to)) return badName(to);
    if (std::any_of(part.values.begin(), part.values.end(),
                    [&](const NamedValue& v) { return v.name == to; }))
        return "There is a value called \"" + to + "\" already.";
    Part renamed = part;
    eachExpression(renamed, [&](std::string& expression, const std::string&) {
        if (namesUsed(expression).count(from)) expression = renameIn(expression, from, to);
    });
    for (Step& step : renamed.steps)
        for (auto& [key, slot] : step.slots.own()) {
            auto* held = std::get_if<DrawingSlot>(&slot);
            if (!held || hidden((**held), from)) continue;
            Drawing drawing = (**held);
            if (hidden(drawing, to))
                return "A dimension of " + step.text("name") + " is called \"" + to + "\" already.";
            bool changed = false;
            for (Relation& r : drawing.relations)
                if (namesUsed(r.expression).count(from)) {
                    r.expression = renameIn(r.expression, from, to);
                    changed = true;
                }
            if (changed) slot = DrawingSlot(drawing);
        }
    for (NamedValue& v : renamed.values)
        if (v.name == from) v.name = to;
    part = std::move(renamed);
    return {};
}

std::string nameDimension(Drawing& d, int relation, const std::string& name, const Values& values) {
    Relation* r = d.findRelation(relation);
    if (!r || r->name == name) return {};
    if (!name.empty()) {
        if (!isGoodName(name)) return badName(name);
        if (values.count(name)) return "A value of the part is called \"" + name + "\" already.";
        if (hidden(d, name)) return "Another dimension of this drawing is called \"" + name + "\" already.";
    }
    const std::string was = r->name;
    const auto uses = [&](const Relation& other) {
        return !was.empty() && namesUsed(other.expression).count(was) > 0;
    };
    if (name.empty() && std::any_of(d.relations.begin(), d.relations.end(), uses))
        return "\"" + was + "\" is used by another dimension, so it needs a name. Give it another one.";
    for (Relation& other : d.relations)
        if (uses(other)) other.expression = renameIn(other.expression, was, name);
    r->name = name;
    return {};
}

NamedExpression splitName(const std::string& typed) {
    const auto trimmed = [](const std::string& s) {
        const auto a = s.find_first_not_of(" \t"), b = s.find_last_not_of(" \t");
        return a == std::string::npos ? std::string() : s.substr(a, b - a + 1);
    };
    const auto at = typed.find('=');
    if (at == std::string::npos || typed.find('=', at + 1) != std::string::npos)
        return {std::nullopt, trimmed(typed)};
    return {trimmed(typed.substr(0, at)), trimmed(typed.substr(at + 1))};
}

} // namespace gc
