#include "core/document/named_values.hpp"

#include "core/document/expressions.hpp"
#include "core/sketch/drawing_words.hpp"

#include <algorithm>

namespace gc {

namespace {

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
    eachExpression(part, [&](const std::string& expression, const std::string& called, auto) {
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
    eachExpression(renamed, [&](std::string& expression, const std::string&, auto) {
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
