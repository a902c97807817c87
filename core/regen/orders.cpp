#include "core/regen/orders.hpp"

#include <algorithm>
#include <limits>

namespace gc {

namespace {

constexpr int kReach = 3; // steps to either side

bool leavesEdges(const StepReport& s) {
    return s.ok && s.doubt && s.doubt->code == "edges.left";
}

/// "91.2 g, thinnest wall 2.4 mm, 0.3 s"
Message broughtBy(const Part& part, const PartMeasures& measures, double milliseconds) {
    double wall = std::numeric_limits<double>::infinity();
    for (const BodyMeasures& b : measures.bodies)
        if (b.ray.any) wall = std::min(wall, b.ray.thinnest.value);
    constexpr double kShort = 50; // nothing that anybody waits for
    const std::string mass = formatMeasure(measures.mass, kMass, part.brief.units),
                      time = milliseconds < kShort ? "< 0.1 s" : formatNumber(milliseconds / 1000, 1) + " s";
    if (wall > 1e6) return phrase("%1, %2", mass, time);
    return phrase("%1, thinnest wall %2, %3", mass, formatMeasure(wall, kLength, part.brief.units), time);
}

std::vector<Remedy> ordersThatWork(const Part& part, int step, int before, Engine& engine, Measurer& measurer,
                                   const std::vector<Material>& materials, const RegenHooks& hooks,
                                   int most) {
    const auto stopped = [&] { return hooks.cancelled && hooks.cancelled(); };
    std::vector<Remedy> out;
    for (const int place : otherPlaces(part, step)) {
        if (static_cast<int>(out.size()) >= most || stopped()) break;
        Part other = part;
        putStep(other, step, place);
        const auto built = engine.regenerate(other, hooks);
        if (built.cancelled) break;
        const auto own = std::find_if(built.steps.begin(), built.steps.end(),
                                      [&](const StepReport& s) { return s.id == step; });
        if (own == built.steps.end() || !own->ok || leavesEdges(*own) || faultsIn(built) >= before) continue;
        double milliseconds = 0;
        for (const StepReport& s : built.steps) milliseconds += s.milliseconds;
        const auto measures = measurer.measure(other, built.state, materials, {true, hooks.cancelled});
        if (!measures) continue;
        Remedy r;
        r.step = step;
        r.before = place;
        const Message brought = broughtBy(part, *measures, milliseconds);
        r.sentence = place == 0 ? phrase("put it at the end (%1)", brought)
                                : phrase("put it before %1 (%2)", stepInWords(place, part), brought);
        out.push_back(std::move(r));
    }
    return out;
}

} // namespace

std::vector<int> otherPlaces(const Part& part, int step) {
    const int at = part.placeOf(step) - 1, shown = part.shownSteps(),
              all = static_cast<int>(part.steps.size());
    std::vector<int> out;
    if (at < 0 || at >= shown) return out;
    const auto idAt = [&](int place) {
        return place < all ? part.steps[static_cast<std::size_t>(place)].id : 0;
    };
    for (int k = 1; k <= kReach; ++k) {
        if (at - k >= 0) out.push_back(idAt(at - k));
        if (at + k < shown) out.push_back(idAt(at + k + 1));
    }
    return out;
}

int faultsIn(const RegenResult& built) {
    return static_cast<int>(std::count_if(built.steps.begin(), built.steps.end(),
                                          [](const StepReport& s) { return !s.ok || leavesEdges(s); }));
}

std::vector<Remedy> findOrders(const Part& part, int step, Engine& engine, Measurer& measurer,
                               const std::vector<Material>& materials, const Stop& stop, int most) {
    RegenHooks hooks;
    hooks.cancelled = stop;
    hooks.trial = true;
    const auto now = engine.regenerate(part, hooks);
    if (now.cancelled) return {};
    const int before = faultsIn(now);
    hooks.quick = true; // another order helps where it makes things plain
    return ordersThatWork(part, step, before, engine, measurer, materials, hooks, most);
}

} // namespace gc
