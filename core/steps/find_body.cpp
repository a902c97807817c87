#include "core/steps/find_body.hpp"

#include <algorithm>

namespace gc {

namespace {

/// One parsed reference on every body in turn; the first that has it wins, for names tell bodies apart.
template <class Ref, class Resolve>
Result<Done> addItems(const Ref& ref, const std::vector<int>& steps, const ModelState& state, Resolve resolve,
                      FoundItems& found) {
    Error e;
    e.code = "reference.lost";
    e.sentence = "There is no body yet that \"" + toText(ref) + "\" could be on.";
    for (const auto& [name, body] : state.bodies) {
        const auto r = resolve(body, ref);
        if (!r) {
            const bool home =
                std::any_of(steps.begin(), steps.end(), [&b = body](int s) { return restsOnStep(b, s); });
            if (home || state.bodies.size() == 1) e = r.error();
            continue;
        }
        if (!found.bodyName.empty() && found.bodyName != name) {
            e.code = "reference.bodies";
            e.sentence = "The references are on two bodies, " + found.bodyName + " and " + name +
                         ". Use one step for each.";
            return e;
        }
        found.bodyName = name;
        found.body = body;
        found.items.insert(found.items.end(), r->items.begin(), r->items.end());
        if (!r->note.empty()) found.notes.push_back(r->note);
        return Done{};
    }
    return e;
}

Result<FoundItems> closed(FoundItems found, const char* what) {
    if (found.items.empty()) {
        Error e;
        e.code = "reference.none";
        e.sentence = std::string("Pick ") + what + " in the stand, or choose a rule from the list.";
        return e;
    }
    std::sort(found.items.begin(), found.items.end());
    found.items.erase(std::unique(found.items.begin(), found.items.end()), found.items.end());
    return found;
}

} // namespace

Result<FoundItems> findEdges(const References& references, const ModelState& state) {
    FoundItems found;
    for (const std::string& text : references) {
        const auto ref = parseEdgeRef(text);
        if (!ref) return ref.error();
        if (const auto done = addItems(*ref, stepsIn(*ref), state, resolveEdges, found); !done)
            return done.error();
    }
    return closed(std::move(found), "an edge");
}

Result<FoundItems> findFaces(const References& references, const ModelState& state) {
    FoundItems found;
    for (const std::string& text : references) {
        const auto ref = parseFaceRef(text);
        if (!ref) return ref.error();
        if (const auto done = addItems(**ref, stepsIn(**ref), state, resolveFaces, found); !done)
            return done.error();
    }
    return closed(std::move(found), "a face");
}

} // namespace gc
