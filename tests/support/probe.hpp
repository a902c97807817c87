#pragma once
/// \file For tests: a step of a kind on a part that it works on, with what its result shows and what it does
/// not. Each kind registers one in its test; kinds_test.cpp holds every kind to its contracts with it.

#include "core/regen/engine.hpp"

#include <algorithm>
#include <functional>
#include <map>

namespace gc::test {

using Slots = std::map<std::string, SlotValue>;

struct Probe {
    Part part;
    int step = 0;
    std::vector<std::pair<std::string, Slots>> shows{}, hides{}; ///< what is changed, in words; the slots
};

using MakeProbe = std::function<Probe()>;
inline std::map<std::string, MakeProbe>& probes() {
    static std::map<std::string, MakeProbe> all;
    return all;
}
struct ProbeOf {
    ProbeOf(const std::string& kind, MakeProbe make) { probes()[kind] = std::move(make); }
};

inline Slots text(const std::string& slot, const std::string& value) {
    return {{slot, value}};
}

/// Puts a step at the end of the part.
inline Step& add(Part& p, const std::string& kind, const Slots& slots = {}) {
    Step step = newStep(p, kind);
    for (const auto& [key, value] : slots) step.slots[key] = value;
    p.steps.push_back(step);
    return p.steps.back();
}

/// Stations, a turn and a shell: a cup 60 mm high, 8 mm wider at the top. Three steps; their ids begin at the
/// next free one.
inline void addCup(Part& p, double width, const std::string& body) {
    const std::string line = "line of " + body;
    add(p, "outline",
        {{"name", line},
         {"stations",
          Stations{{"0", formatNumber(width), false, ""}, {"60", formatNumber(width + 8), false, ""}}},
         {"tolerance", std::string("0")}});
    const int turned = add(p, "revolve", {{"outline", line}, {"body", body}}).id;
    add(p, "shell", {{"body", body}, {"open", References{"top of step " + std::to_string(turned)}}});
}

inline Part cup() {
    Part p;
    addCup(p, 50, "cup");
    return p;
}

/// A drawing of one line.
inline Drawing lineFrom(Vec2 a, Vec2 b) {
    Drawing d;
    d.draw(StrokeKind::Line, {a, b});
    return d;
}

/// A closed drawing of four lines; the strokes are numbered from the lowest, counter-clockwise.
inline Drawing rectangle(Vec2 low, Vec2 high) {
    Drawing d;
    const Vec2 at[] = {low, {high.x, low.y}, high, {low.x, high.y}};
    for (std::size_t i = 0; i < 4; ++i) d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]});
    return d;
}

/// A block 40 by 30 about the upright axis, 20 high, drawn on the ground: steps 1 and 2.
inline Part block() {
    Part p;
    add(p, "draw",
        {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({-20, -15}, {20, 15}))}});
    add(p, "extrude", text("length", "20 mm"));
    return p;
}

/// Why steps failed, for INFO.
inline std::string faults(const RegenResult& r) {
    std::string s;
    for (const StepReport& step : r.steps)
        if (step.error)
            s += std::to_string(step.number) + " " + step.kind + ": " + step.error->sentence.text() + "\n";
    return s;
}

inline bool allFine(const RegenResult& r) {
    return std::all_of(r.steps.begin(), r.steps.end(), [](const StepReport& s) { return s.ok; });
}

} // namespace gc::test
