#include "core/steps/step_run.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

const Body* bodyOf(const Change& change) {
    if (const auto* made = std::get_if<MadeBody>(&change)) return &made->body;
    if (const auto* changed = std::get_if<ChangedBody>(&change)) return &changed->body;
    return nullptr;
}

/// The bodies that a step changed or used up, as they were: what it left alone of them is sound.
std::vector<const Body*> bodiesBefore(const StepChange& change, const ModelState& state) {
    std::vector<const Body*> out;
    const auto add = [&](ThingId id) {
        if (const auto it = state.bodies.find(id); it != state.bodies.end()) out.push_back(&it->second.value);
    };
    for (const Change& c : change.list) {
        if (const auto* changed = std::get_if<ChangedBody>(&c)) add(changed->id);
        if (const auto* ended = std::get_if<EndedBody>(&c)) add(ended->id);
    }
    return out;
}

std::optional<Error> unsound(const StepKind& kind, const Body& body, int step,
                             const std::vector<const Body*>& before) {
    const BodyCheck check = checkBody(body, before);
    if (!check.faults.empty())
        return errorOf(
            kind.key() + ".unsound",
            phrase("The result is not a sound body: %1. The step is left out.", check.faults.front()));
    if (kind.pieces == 0 || check.solids == kind.pieces) return std::nullopt;
    const std::string pieces = std::to_string(check.solids);
    Error e = errorOf(
        kind.key() + ".pieces",
        phrase("The step would cut the body into %1 pieces. Check its sizes; the step is left out.", pieces));
    if (const SlotWords* slot = kind.words.slot("pieces"); slot && check.solids > 1)
        e.remedies.push_back({step, slot->key, slot->choices.back().key,
                              phrase("Keep the %1 pieces as bodies of their own", pieces), false});
    return e;
}

Result<StepChange> checkedRun(const StepKind& kind, StepFunction* run, StepInputs& inputs,
                              const ModelState& state, const Progress& progress) {
    const Arguments args(inputs);
    ModelReader model(inputs);
    auto change = run(args, model, progress);
    if (!change || kind.mayBeUnsound || change->checked) return change;
    const auto before = bodiesBefore(*change, state);
    for (const Change& c : change->list)
        if (const Body* body = bodyOf(c))
            if (auto fault = unsound(kind, *body, args.id(), before)) return *fault;
    return change;
}

} // namespace

StepOutcome runStep(const StepArguments& args, const ModelState& state, const Progress& progress) {
    const StepKind* kind = findKind(args.kind);
    const auto run = stepRuns().find(args.kind);
    if (!kind || run == stepRuns().end())
        return {errorOf("step.kind", phrase("This version cannot do \"%1\".", args.kind)), {}};
    StepInputs inputs(args, state);
    auto change = checkedRun(*kind, run->second, inputs, state, progress);
    if (change && change->notes.empty()) inputs.forgetNames();
    if (change) change->meant = inputs.meant();
    return {std::move(change), inputs.reads(), std::move(inputs.aids())};
}

std::optional<Remedy> findLargestThatWorks(const StepArguments& args, const ModelState& state,
                                           const UnitSystem& units, const Progress& progress, int tries) {
    const StepKind* kind = findKind(args.kind);
    const std::string slot = kind ? kind->decidingSlot : std::string();
    const auto it = args.numbers.find(slot);
    if (slot.empty() || it == args.numbers.end()) return std::nullopt;
    auto works = [&](double v) {
        StepArguments trial = args;
        trial.numbers[slot] = v;
        trial.onlyWhole = true;
        const auto change = runStep(trial, state, progress).change;
        return change.ok() && !change->doubt;
    };
    const double unit = units.factorFor(kLength), wanted = it->second;
    double good = 0, bad = wanted;
    // A fifth first: most failures are a little too large; then halve the gap.
    double trial = wanted * 0.8;
    for (int k = 0; k < tries && (bad - good) > 0.005 * wanted; ++k) {
        if (progress.stopped()) return std::nullopt;
        (works(trial) ? good : bad) = trial;
        trial = good > 0 ? 0.5 * (good + bad) : bad * 0.5;
    }
    if (good < 0.01 * wanted) return std::nullopt;
    // Rounded down to what a person would type, and tried once more as typed.
    const double step = good / unit >= 1 ? 0.05 : 0.01;
    const double rounded = std::floor(good / unit / step + 1e-9) * step * unit;
    const double offered = rounded > 0 && works(rounded) ? rounded : good;
    Remedy r;
    r.step = args.id;
    r.slot = slot;
    r.value = formatAmount(offered, units.length, offered == good ? 4 : 2);
    r.sentence = phrase("%1 works", r.value);
    return r;
}

} // namespace gc
