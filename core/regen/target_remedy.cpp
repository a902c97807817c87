// Solving backwards: which number makes a failing target hold.

#include "core/regen/orders.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// A number that may be turned: a named value, or a slot that holds a number of its own.
struct Knob {
    int step = 0;
    std::string slot;
    double value = 0; ///< mm or rad
    Dimension dimension;
    std::string words; ///< "wall"
};

std::vector<Knob> knobsFor(const Part& part, const std::string& measure) {
    const Values values = valuesOf(part);
    std::vector<Knob> knobs;
    for (int i = 0; i < part.shownSteps(); ++i) {
        const Step& step = part.steps[static_cast<std::size_t>(i)];
        const StepKind* kind = findKind(step.kind);
        if (!kind || step.off) continue;
        for (const TriedSlot& tried : kind->tried) {
            const bool decides =
                std::find(tried.measures.begin(), tried.measures.end(), measure) != tried.measures.end();
            const SlotWords* slot = kind->words.slot(tried.slot);
            if (!decides || !slot) continue;
            if (const auto v = evaluateSlot(step, slot->key, part, values))
                knobs.push_back({step.id, slot->key, *v, slot->dimension, slot->label});
        }
    }
    return knobs;
}

struct Trial {
    double value = 0; ///< of the knob
    double measured = 0;
    PartMeasures measures;
};

class Solver {
  public:
    Solver(const Part& part, std::size_t target, Engine& engine, Measurer& measurer,
           const std::vector<Material>& materials, const Stop& stop)
        : m_part(part), m_target(target), m_engine(engine), m_measurer(measurer), m_materials(materials),
          m_stop(stop) {}

    std::optional<Trial> build(const Knob& knob, double value) {
        Part part = m_part;
        typeIntoSlot(part, knob.step, knob.slot, asTyped(knob, value));
        return build(part, value);
    }
    /// \param value of the knob
    std::optional<Trial> build(const Part& part, double value) {
        if (m_stop && m_stop()) return std::nullopt;
        ++m_builds;
        RegenHooks hooks;
        hooks.cancelled = m_stop;
        hooks.trial = true;
        const auto regen = m_engine.regenerate(part, hooks);
        if (regen.cancelled) return std::nullopt;
        // A remedy may mend a step that failed before, but must not break one.
        const auto failing =
            std::count_if(regen.steps.begin(), regen.steps.end(), [](const StepReport& s) { return !s.ok; });
        if (m_failing < 0) m_failing = failing;
        if (failing > m_failing) return std::nullopt;
        auto measures = m_measurer.measure(part, regen.state, m_materials, {true, m_stop});
        if (!measures || measures->targets.size() <= m_target || !measures->targets[m_target].value)
            return std::nullopt;
        const double measured = *measures->targets[m_target].value;
        return Trial{value, measured, std::move(*measures)};
    }

    std::string asTyped(const Knob& knob, double value) const {
        return formatAmount(value, m_part.brief.units.symbolFor(knob.dimension), 2);
    }
    int builds() const { return m_builds; }

  private:
    const Part& m_part;
    std::size_t m_target;
    Engine& m_engine;
    Measurer& m_measurer;
    const std::vector<Material>& m_materials;
    const Stop& m_stop;
    int m_builds = 0;
    std::ptrdiff_t m_failing = -1; ///< steps that fail as the part is
};

/// Where to aim: a little inside the limit that is missed, so that the verdict is a plain "holds".
double aimFor(const MeasuredTarget& t) {
    const AllowedRange& a = t.allowed;
    if (a.least && a.most) return 0.5 * (*a.least + *a.most);
    return a.least ? *a.least * 1.025 : *a.most * 0.975;
}

/// Rounds a size to what people use, a hundredth to a twentieth of the unit.
double tidy(double value, double unit) {
    return std::round(value / unit / 0.05) * 0.05 * unit;
}

TargetRemedy remedyOf(const Trial& good, Remedy remedy, const UnitSystem& units) {
    TargetRemedy out;
    out.remedy = std::move(remedy);
    for (const MeasuredTarget& t : good.measures.targets) {
        if (!t.value) continue;
        out.then.emplace_back(t.label, formatMeasure(*t.value, t.dimension, units));
        out.othersFailing += t.verdict == Verdict::Fails;
    }
    return out;
}

/// Another place in the sheet for a step that decides the measure: a shell behind the dimples keeps its wall.
std::optional<TargetRemedy> otherOrder(const Part& part, const std::vector<Knob>& knobs, std::size_t target,
                                       Solver& solver, int builds) {
    std::vector<int> asked;
    for (const Knob& knob : knobs) {
        const Step* step = part.findStep(knob.step);
        const StepKind* kind = step ? findKind(step->kind) : nullptr;
        if (!kind || kind->words.stage != "Finish") continue;
        if (std::find(asked.begin(), asked.end(), knob.step) != asked.end()) continue;
        asked.push_back(knob.step);
        for (const int place : otherPlaces(part, knob.step)) {
            if (solver.builds() >= builds) return std::nullopt;
            Part other = part;
            putStep(other, knob.step, place);
            const auto trial = solver.build(other, knob.value);
            if (!trial || trial->measures.targets[target].verdict != Verdict::Holds) continue;
            Remedy r;
            r.step = knob.step;
            r.before = place;
            const std::string own = stepInWords(knob.step, part);
            r.sentence = place == 0 ? phrase("Put %1 at the end", own)
                                    : phrase("Put %1 before %2", own, stepInWords(place, part));
            return remedyOf(*trial, r, part.brief.units);
        }
    }
    return std::nullopt;
}

} // namespace

std::vector<TargetRemedy> findTargetRemedies(const Part& part, std::size_t target, Engine& engine,
                                             Measurer& measurer, const std::vector<Material>& materials,
                                             const Stop& stop, int builds) {
    std::vector<TargetRemedy> found;
    if (target >= part.brief.targets.size()) return found;
    Solver solver(part, target, engine, measurer, materials, stop);
    constexpr int kOrders = 6; // builds for other orders, beyond those for numbers
    const std::vector<Knob> knobs = knobsFor(part, part.brief.targets[target].measure);
    for (const Knob& knob : knobs) {
        if (solver.builds() >= builds || found.size() >= 2) break;
        const double unit = part.brief.units.factorFor(knob.dimension);
        auto now = solver.build(knob, knob.value);
        if (!now) continue;
        const double aim = aimFor(now->measures.targets[target]);
        double nextValue = knob.value == 0 ? (knob.dimension == kAngle ? 0.03 : unit) : knob.value * 1.1;
        std::optional<Trial> before = now, good;
        for (int round = 0; round < 5 && solver.builds() < builds; ++round) {
            auto trial = solver.build(knob, tidy(nextValue, unit));
            if (!trial) break;
            const Verdict v = trial->measures.targets[target].verdict;
            if (v == Verdict::Holds || v == Verdict::Watch) good = trial;
            if (v == Verdict::Holds) break;
            const double slope = (trial->measured - before->measured) / (trial->value - before->value);
            if (!std::isfinite(slope) || std::fabs(slope) < 1e-9) break;
            nextValue = trial->value + (aim - trial->measured) / slope;
            if (nextValue <= 0.2 * knob.value || nextValue > 4 * knob.value + 4 * unit) break;
            before = trial;
        }
        if (!good) continue;
        Remedy r;
        r.step = knob.step;
        r.slot = knob.slot;
        r.value = solver.asTyped(knob, good->value);
        r.sentence = phrase("Set the %1 of step %2 to %3", knob.words,
                            std::to_string(part.placeOf(knob.step)), r.value);
        found.push_back(remedyOf(*good, std::move(r), part.brief.units));
    }
    if (auto order = otherOrder(part, knobs, target, solver, builds + kOrders))
        found.push_back(std::move(*order));
    std::stable_sort(found.begin(), found.end(), [](const TargetRemedy& a, const TargetRemedy& b) {
        return a.othersFailing < b.othersFailing;
    });
    return found;
}

} // namespace gc
