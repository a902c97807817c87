#include "core/regen/engine.hpp"

#include "core/document/drawing_sizes.hpp"
#include "core/document/slot_trait.hpp"
#include "core/regen/explain.hpp"

#include <algorithm>
#include <chrono>
#include <utility>

namespace gc {

namespace {

Error slotError(const Error& cause, const SlotWords& slot) {
    Error e = cause;
    e.sentence = phrase("The %1: %2", slot.label, cause.sentence);
    e.culprits.insert(e.culprits.begin(), slot.key);
    return e;
}

Result<Done> readStations(const Step& step, const Part& part, const Values& values, StepArguments& args) {
    const StationCheck check =
        checkStations(step.stations("stations"), args.numbers.at("tolerance"), part.brief.units, values);
    if (check.faults.empty()) {
        args.stations = check.rows;
        return Done{};
    }
    Error e;
    e.code = "stations.row";
    e.position = check.faults.front().row;
    for (const RowFault& f : check.faults) e.culprits.push_back("row " + std::to_string(f.row + 1));
    e.sentence = phrase("Row %1: %2", std::to_string(e.position + 1), check.faults.front().sentence);
    return e;
}

/// Two things of one name could not be told apart by the slots that name them.
std::optional<Error> nameTaken(const Step& step, const ModelState& state) {
    const auto fault = [](const std::string& what, const std::string& name) {
        return errorOf("name.taken",
                       phrase("There is %1 called \"%2\" already. Give this one another name.", what, name));
    };
    if (const std::string name = nameGiven(step, Thing::Body); state.bodyNamed(name))
        return fault("a body", name);
    if (const std::string name = nameGiven(step, Thing::Outline); state.outlineNamed(name))
        return fault("an outline", name);
    if (const std::string name = nameGiven(step, Thing::Plane); state.planeNamed(name))
        return fault("a plane", name);
    return std::nullopt;
}

Message inWords(const Meant& meant) {
    if (meant.items == 1) return meant.edges ? "1 edge" : "1 face";
    return phrase(meant.edges ? "%1 edges" : "%1 faces", std::to_string(meant.items));
}

/// What a slot is at a place; it keeps all that it needs.
std::function<std::optional<double>(int)> seriesOf(const Step& step, const std::string& slot,
                                                   const Part& part, const Values& values) {
    Part bare; // of which only the values and the units count
    bare.brief.units = part.brief.units;
    bare.values = part.values;
    return [=](int place) -> std::optional<double> {
        const auto v = evaluateSlot(step, slot, bare, values, place);
        return v ? std::optional(*v) : std::nullopt;
    };
}

} // namespace

Result<StepArguments> Engine::argumentsOf(const Step& step, const Part& part, const Values& values) {
    StepArguments args;
    args.id = step.id;
    args.kind = step.kind;
    const StepWords* words = findStepWords(step.kind);
    if (!words) return errorOf("step.kind", phrase("This version cannot do \"%1\".", step.kind));
    for (const SlotWords& slot : words->slots) {
        switch (traitOf(slot.type).holds) {
        case SlotTrait::Holds::Number: {
            const auto v = evaluateSlot(step, slot.key, part, values);
            if (!v) return slotError(v.error(), slot);
            args.numbers[slot.key] = *v;
            if (changesByPlace(step, slot) && isShown(step, slot.key))
                args.series[slot.key] = seriesOf(step, slot.key, part, values);
            break;
        }
        case SlotTrait::Holds::Picked:
            args.references[slot.key] = step.references(slot.key);
            break;
        case SlotTrait::Holds::Rows:
            break;
        case SlotTrait::Holds::Drawing: {
            args.drawing = std::get<DrawingSlot>(step.slots.at(slot.key));
            auto sizes = dimensionSizes(**args.drawing, part.brief.units, values);
            if (!sizes) return sizes.error();
            args.sizes = std::move(*sizes);
            break;
        }
        case SlotTrait::Holds::File:
            args.texts[slot.key] = step.text(slot.key);
            for (const Attachment& a : part.attachments)
                if (a.name == step.text(slot.key)) args.files.emplace(slot.key, a.content);
            break;
        case SlotTrait::Holds::Text:
            args.texts[slot.key] = step.text(slot.key);
            break;
        }
    }
    if (words->slot("stations"))
        if (const auto done = readStations(step, part, values, args); !done) return done.error();
    return args;
}

void Engine::runOne(const Step& step, const Part& part, const Result<Values>& values, const RegenHooks& hooks,
                    ModelState& state, StepReport& report) {
    const auto failed = [&](const Error& e) {
        report.ok = false;
        report.error = e;
    };
    if (!values) return failed(values.error());
    if (const auto taken = nameTaken(step, state)) return failed(*taken);
    auto args = argumentsOf(step, part, *values);
    if (!args) return failed(args.error());
    auto hit = m_cache.find(*args, state);
    if (!hit && hooks.quick) {
        args->onlyWhole = true;
        hit = m_cache.find(*args, state);
    }
    report.cached = hit.has_value();
    if (!hit) {
        const StepOutcome outcome = runStep(*args, state, Progress(hooks.cancelled));
        hit = {outcome.change, m_cache.keep(*args, outcome), outcome.aids};
    }
    report.content = hit->content;
    report.aids = hit->aids;
    if (!hit->change) return failed(hit->change.error());
    report.bodies = apply(*hit->change, step, part, hit->content, state);
    report.notes = hit->change->notes;
    report.doubt = hit->change->doubt;
    report.meant = hit->change->meant;
}

/// The kept part is another now: what its references meant is what the next is told against.
void Engine::keepMeanings(const Part& part) {
    const bool same = m_kept && m_kept->steps == part.steps && m_kept->values == part.values &&
                      m_kept->bookmark == part.bookmark;
    if (same) return;
    m_kept = part;
    m_before = std::exchange(m_now, {});
}

/// The same words may mean other edges once a step before is off, or makes more of them: "rim of top" is two
/// circles after a shell and one without it. No failure, but nothing to pass over in silence.
void Engine::tellOtherMeanings(StepReport& report, const RegenHooks& hooks) {
    if (hooks.trial || !report.ok) return;
    const Meanings& earlier = hooks.preview ? m_now : m_before;
    if (const auto step = earlier.find(report.id); step != earlier.end())
        for (const auto& [reference, now] : report.meant) {
            const auto was = step->second.find(reference);
            if (was == step->second.end() || was->second == now) continue;
            report.notes.push_back(phrase("%1 is %2 now; before the last edit it was %3.", marked(reference),
                                          inWords(now), inWords(was->second)));
        }
    if (!hooks.preview) m_now[report.id] = report.meant;
}

RegenResult Engine::regenerate(const Part& part, const RegenHooks& hooks) {
    RegenResult result;
    m_cache.beginPart();
    if (!hooks.trial && !hooks.preview) keepMeanings(part);
    const Progress progress(hooks.cancelled);
    const auto values = evaluateValues(part.values, part.brief.units);
    const int shown = part.shownSteps();
    for (int i = 0; i < static_cast<int>(part.steps.size()); ++i) {
        const Step& step = part.steps[static_cast<std::size_t>(i)];
        StepReport report;
        report.id = step.id;
        report.number = i + 1;
        report.kind = step.kind;
        report.off = step.off;
        report.later = i >= shown;
        result.before.push_back(result.state);
        if (progress.stopped()) {
            result.cancelled = true;
            break;
        }
        if (!report.off && !report.later) {
            if (hooks.stepStarted) hooks.stepStarted(report);
            const auto start = std::chrono::steady_clock::now();
            runOne(step, part, values, hooks, result.state, report);
            report.milliseconds =
                std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
            tellOtherMeanings(report, hooks);
            explain(report, part, result);
            if (report.error && report.error->code == stoppedError().code) {
                result.cancelled = true;
                break;
            }
        }
        if (hooks.stepDone) hooks.stepDone(report);
        result.steps.push_back(std::move(report));
    }
    if (!hooks.trial && !result.cancelled) m_cache.holdPart();
    return result;
}

} // namespace gc
