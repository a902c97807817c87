#include "core/steps/step_run.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

struct KindRun {
    const char* kind;
    StepFunction run;
    const char* decidingSlot;
};

constexpr KindRun kRuns[] = {
    {"outline", runOutline, ""},     {"draw", runDraw, ""},     {"plane", runPlane, ""},
    {"revolve", runRevolve, ""},     {"import", runImport, ""}, {"shell", runShell, "wall"},
    {"fillet", runFillet, "radius"}, {"hole", runHole, ""},
};

const KindRun* findRun(const std::string& kind) {
    const auto it =
        std::find_if(std::begin(kRuns), std::end(kRuns), [&](const KindRun& r) { return kind == r.kind; });
    return it == std::end(kRuns) ? nullptr : it;
}

/// Imported bodies may be what they are; what a step made itself must be sound.
std::optional<Error> unsound(const StepArguments& args, const StepChange& change) {
    if (change.body.empty() || args.kind == "import") return std::nullopt;
    const BodyCheck check = checkBody(change.body);
    Error e;
    e.code = args.kind + ".unsound";
    if (!check.faults.empty()) {
        if (args.kind == "fillet") { // the kernel's own way of saying so
            e.code = "fillet.too-large";
            e.sentence = "A radius of " + formatAmount(args.number("radius"), "mm", 2) +
                         " does not fit at these edges: the faces beside them are used up.";
            return e;
        }
        e.sentence = "The result is not a sound body: " + check.faults.front() + ". The step is left out.";
        return e;
    }
    if (check.solids != 1) {
        e.code = args.kind + ".pieces";
        e.sentence = "The step would cut the body into " + std::to_string(check.solids) +
                     " pieces. Check its sizes; the step is left out.";
        return e;
    }
    return std::nullopt;
}

} // namespace

Result<StepChange> runStep(const StepArguments& args, const ModelState& state) {
    const KindRun* run = findRun(args.kind);
    if (!run) {
        Error e;
        e.code = "step.kind";
        e.sentence = "This version cannot do \"" + args.kind + "\".";
        return e;
    }
    auto change = run->run(args, state);
    if (!change) return change;
    if (auto fault = unsound(args, *change)) return *fault;
    return change;
}

std::string decidingSlot(const std::string& kind) {
    const KindRun* run = findRun(kind);
    return run ? run->decidingSlot : "";
}

std::optional<Remedy> findLargestThatWorks(const StepArguments& args, const ModelState& state,
                                           const UnitSystem& units, int tries) {
    const std::string slot = decidingSlot(args.kind);
    const auto it = args.numbers.find(slot);
    if (slot.empty() || it == args.numbers.end()) return std::nullopt;
    auto works = [&](double v) {
        StepArguments trial = args;
        trial.numbers[slot] = v;
        return runStep(trial, state).ok();
    };
    const double unit = units.factorFor(kLength), wanted = it->second;
    double good = 0, bad = wanted;
    // A fifth first: most failures are a little too large; then halve the gap.
    double trial = wanted * 0.8;
    for (int k = 0; k < tries && (bad - good) > 0.005 * wanted; ++k) {
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
    r.sentence = r.value + " works";
    return r;
}

} // namespace gc
