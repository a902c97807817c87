#include "core/document/wording.hpp"

#include "core/sketch/chain.hpp"
#include "core/sketch/drawing_words.hpp"

#include <algorithm>

namespace gc {

namespace {

/// What goes on from a stroke at both ends: a drawing that is nothing but this is called by its own name.
std::string chainInWords(const Step& step, int item) {
    const Drawing* drawn = drawingOf(step);
    if (!drawn) return {};
    std::map<int, std::vector<Curve2>> strokes;
    std::set<int> helpers;
    for (const Stroke& s : drawn->strokes) {
        if (s.kind == StrokeKind::Point) continue;
        strokes[s.id] = curvesOf(*drawn, s);
        if (s.helper) helpers.insert(s.id);
    }
    const std::size_t links = chainOf(strokes, helpers, item).links.size();
    const std::string name = nameGiven(step, Thing::Outline);
    if (links > 0 && links == strokes.size() - helpers.size()) return name;
    return "the chain of " + nameOf(*drawn, item) + " of " + name;
}

} // namespace

Wording wordingFor(const Part& part) {
    Wording w;
    // A role needs no step when only one step in the sheet makes it.
    w.roleIsUnique = [&part](const std::string& role) {
        return std::count_if(part.steps.begin(), part.steps.end(), [&](const Step& s) {
                   const StepKind* kind = findKind(s.kind);
                   return kind && kind->makes(role);
               }) <= 1;
    };
    w.placeOf = [&part](int id) { return part.placeOf(id); };
    w.bodyWords = [&part](ThingId body) { return nameOfBody(part, body); };
    w.drawnWords = [&part](int stepId, int item) {
        const Step* step = part.findStep(stepId);
        const Drawing* drawn = step ? drawingOf(*step) : nullptr;
        return drawn ? nameOf(*drawn, item) + " of " + nameGiven(*step, Thing::Outline) : std::string();
    };
    w.curveWords = [&part](int stepId) {
        const Step* step = part.findStep(stepId);
        return step ? nameGiven(*step, Thing::Curve) : std::string();
    };
    w.chainWords = [&part](int stepId, int item) {
        const Step* step = part.findStep(stepId);
        return step ? chainInWords(*step, item) : std::string();
    };
    w.roleWords = [&part](int stepId, const std::string& role) {
        const Step* made = part.findStep(stepId);
        const StepKind* kind = made ? findKind(made->kind) : nullptr;
        return kind && kind->roleInWords ? kind->roleInWords(*made, part, role) : std::string();
    };
    return w;
}

} // namespace gc
