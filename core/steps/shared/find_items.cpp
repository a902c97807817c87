#include "core/steps/shared/find_items.hpp"

#include <algorithm>
#include <iterator>

namespace gc {

namespace {

template <class Ref>
Error onSeveralBodies(const Ref& ref, const std::vector<ThingId>& bodies, ModelReader& model) {
    const std::string text = toText(ref);
    Error e = errorOf("reference.tie",
                      phrase("%1 is on two bodies, %2 and %3. Pick the one that is meant in the stand.",
                             marked(text), model.nameOf(bodies[0]), model.nameOf(bodies[1])));
    e.culprits = {text};
    e.question = Question{text, {onBody(text, bodies[0]), onBody(text, bodies[1])}};
    return e;
}

/// One parsed reference on the bodies that it could lie on.
template <class Ref, class Resolve>
Result<Done> addItems(const Ref& ref, const std::vector<ThingId>& candidates, ModelReader& model,
                      Resolve resolve, FoundItems& found) {
    std::optional<Error> cause;
    std::optional<ThingId> home;
    std::optional<Resolution> resolution;
    for (const ThingId id : candidates) {
        auto r = resolve(*model.body(id), ref);
        if (!r) {
            Error e = r.error();
            if (e.question && candidates.size() > 1)
                for (std::string& answer : e.question->answers) answer = onBody(answer, id);
            if (!cause || (e.question && !cause->question)) cause = std::move(e);
            continue;
        }
        if (home) return onSeveralBodies(ref, {*home, id}, model);
        home = id;
        resolution = std::move(*r);
    }
    if (!home) return cause ? *cause : onNoBody(toText(ref), model);
    if (!found.body.empty() && found.id != *home)
        return errorOf("reference.bodies",
                       phrase("The references are on two bodies, %1 and %2. Use one step for each.",
                              model.nameOf(found.id), model.nameOf(*home)));
    found.id = *home;
    found.body = *model.body(*home);
    model.meant(toText(ref), {static_cast<int>(resolution->items.size()), std::is_same_v<Ref, EdgeRef>});
    found.items.insert(found.items.end(), resolution->items.begin(), resolution->items.end());
    if (!resolution->note.empty()) found.notes.push_back(resolution->note);
    return Done{};
}

Result<FoundItems> closed(FoundItems found, const char* what) {
    if (found.items.empty())
        return errorOf("reference.none",
                       phrase("Pick %1 in the stand, or choose a rule from the list.", what));
    std::sort(found.items.begin(), found.items.end());
    found.items.erase(std::unique(found.items.begin(), found.items.end()), found.items.end());
    return found;
}

Result<FoundItems> faces(const References& references, ModelReader& model,
                         const std::optional<ThingId>& only) {
    FoundItems found;
    for (const std::string& text : references) {
        const auto ref = parseFaceRef(text);
        if (!ref) return ref.error();
        const auto where = only ? std::vector{*only} : bodiesFor((*ref)->body, stepsIn(*bare(*ref)), model);
        if (const auto done = addItems(**ref, where, model, resolveFaces, found); !done) return done.error();
    }
    return closed(std::move(found), "a face");
}

} // namespace

std::vector<ThingId> bodiesFor(const std::optional<ThingId>& named, const std::vector<int>& steps,
                               ModelReader& model) {
    if (named) return model.body(*named) ? std::vector{*named} : std::vector<ThingId>();
    std::vector<ThingId> out;
    bool first = true;
    for (const int step : steps) {
        const auto here = model.bodiesOn(step);
        if (std::exchange(first, false)) {
            out = here;
            continue;
        }
        std::vector<ThingId> both;
        std::set_intersection(out.begin(), out.end(), here.begin(), here.end(), std::back_inserter(both));
        out = std::move(both);
    }
    return out;
}

Error notDrawn(const std::string& reference, int step) {
    Error e = errorOf("reference.lost", phrase("There is no %1 any more: it is not in the drawing of %2.",
                                               marked(reference), markedStep(step)));
    e.culprits = {reference};
    return e;
}

Error onNoBody(const std::string& reference, ModelReader& model) {
    Error e = model.bodies().empty()
                  ? errorOf("reference.lost",
                            phrase("There is no body yet that %1 could be on.", marked(reference)))
                  : errorOf("reference.lost",
                            phrase(reference.starts_with("where ") ? "There is no edge %1 any more."
                                                                   : "There is no %1 any more.",
                                   marked(reference)));
    e.culprits = {reference};
    return e;
}

Result<FoundItems> findEdges(const References& references, ModelReader& model) {
    FoundItems found;
    for (const std::string& text : references) {
        const auto ref = parseEdgeRef(text);
        if (!ref) return ref.error();
        if (const auto done =
                addItems(*ref, bodiesFor(ref->body, stepsIn(bare(*ref)), model), model, resolveEdges, found);
            !done)
            return done.error();
    }
    return closed(std::move(found), "an edge");
}

Result<FoundItems> findFaces(const References& references, ModelReader& model) {
    return faces(references, model, std::nullopt);
}

Result<FoundItems> findFacesOn(ThingId body, const References& references, ModelReader& model) {
    return faces(references, model, body);
}

} // namespace gc
