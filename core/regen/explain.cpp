#include "core/regen/explain.hpp"

#include "core/regen/found_anew.hpp"
#include "core/shape/places.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/units/said_in.hpp"

#include <algorithm>

namespace gc {

namespace {

/// Where what a reference means lies in a state; nothing where it means nothing there.
std::optional<Vec3> placeIn(const ModelState& state, const std::string& reference) {
    FreeReader reader(state);
    if (const auto point = parsePointRef(reference)) {
        for (const ThingId id : bodiesFor(point->body, stepsIn(*point), reader))
            if (const auto at = resolvePoint(state.bodies.at(id).value, *point)) return *at;
        return std::nullopt;
    }
    const auto middle = [&](const Result<FoundItems>& found, bool edges) -> std::optional<Vec3> {
        if (!found) return std::nullopt;
        return found->body.shape().middleOf({found->items.front()}, edges);
    };
    if (parseEdgeRef(reference))
        if (const auto at = middle(findEdges({reference}, reader), true)) return at;
    if (parseFaceRef(reference)) return middle(findFaces({reference}, reader), false);
    return std::nullopt;
}

/// Why it was never there: a step that it rests on is off, has failed, or does not make it now.
Message whyNeverThere(const std::string& reference, const Part& part, const RegenResult& sofar) {
    const auto reportOf = [&](int id) {
        return std::find_if(sofar.steps.begin(), sofar.steps.end(),
                            [id](const StepReport& r) { return r.id == id; });
    };
    const std::vector<int> steps = stepsIn(reference);
    for (const int id : steps) {
        const Step* step = part.findStep(id);
        if (!step) return "the step that made it was deleted";
        if (step->off) return phrase("%1, is switched off", stepInWords(id, part));
        const auto report = reportOf(id);
        if (report == sofar.steps.end()) return phrase("%1, comes later", stepInWords(id, part));
        if (!report->ok) return phrase("%1, has failed", stepInWords(id, part));
    }
    // All of them work: the first that left nothing, else the last, which had the others to work on.
    const ModelState& now = sofar.before.back();
    for (const int id : steps)
        if (std::none_of(now.bodies.begin(), now.bodies.end(),
                         [id](const auto& b) { return restsOnStep(b.second.value, id); }))
            return phrase("%1, does not make it as it is now", stepInWords(id, part));
    if (steps.empty()) return {};
    return phrase("%1, does not make it as it is now", stepInWords(steps.back(), part));
}

/// What came from a file that is another one now: the likeliest is asked for, and nothing is taken without an
/// answer.
bool asksWhatItIsNow(Error& e, const std::string& reference, const Part& part, const ModelState& now) {
    auto answers = foundAnew(reference, part, now);
    if (answers.empty()) return false;
    e.sentence = phrase("%1 The file is another one now. The likeliest is %2: is that it?", e.sentence,
                        marked(answers.front()));
    e.place = placeIn(now, answers.front());
    e.question = Question{reference, std::move(answers)};
    return true;
}

void explainLost(Error& e, const Part& part, const RegenResult& sofar) {
    for (const std::string& reference : e.culprits) {
        if (stepsIn(reference).empty()) continue;
        Message cause;
        for (std::size_t k = sofar.before.size(); k-- > 0 && cause.empty();) {
            const auto at = placeIn(sofar.before[k], reference);
            if (!at) continue;
            if (k >= sofar.steps.size()) return; // it is there: something else is meant
            e.place = at;
            cause = phrase("%1, took it away", stepInWords(sofar.steps[k].id, part));
        }
        if (cause.empty() && asksWhatItIsNow(e, reference, part, sofar.before.back())) return;
        if (cause.empty()) cause = whyNeverThere(reference, part, sofar);
        if (cause.empty()) return;
        e.sentence = phrase("%1 The cause: %2.", e.sentence, cause);
        return;
    }
}

} // namespace

void explain(StepReport& report, const Part& part, const RegenResult& sofar) {
    const auto put = [&](const std::string& text) { return spoken(text, part); };
    if (report.error) {
        Error& e = *report.error;
        if (e.code == "reference.lost") explainLost(e, part, sofar);
        e.sentence = saidIn(part.brief.units, e.sentence.putOtherwise(put));
    }
    if (report.doubt)
        report.doubt->sentence = saidIn(part.brief.units, report.doubt->sentence.putOtherwise(put));
    for (Message& note : report.notes) note = saidIn(part.brief.units, note.putOtherwise(put));
}

} // namespace gc
