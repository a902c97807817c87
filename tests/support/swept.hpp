#pragma once
/// \file Sections swept along drawn paths.

#include "tests/support/sections.hpp"

namespace gc::test {

inline std::string chainOfStep(const Part& p, std::size_t step) {
    return "chain of stroke " + std::to_string(p.steps[step].drawing("drawing").strokes[0].id) + " of step " +
           std::to_string(p.steps[step].id);
}

/// Up 20, a quarter turn of 10 to the right, and 30 along; in the front plane from the origin. Lines and an
/// arc.
inline Drawing hook() {
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 0}, {0, 20}});
    drawArcThrough(d, {0, 20},
                   {10 - 10 * std::cos(std::numbers::pi / 4), 20 + 10 * std::sin(std::numbers::pi / 4)},
                   {10, 30});
    d.draw(StrokeKind::Line, {{10, 30}, {40, 30}});
    return d;
}

inline Part swept(const Drawing& path, const Drawing& section, const Slots& more = {},
                  const std::string& plane = "ground") {
    Part p;
    add(p, "draw", {{"name", std::string("way")}, {"drawing", DrawingSlot(path)}});
    add(p, "draw", {{"name", std::string("section")}, {"plane", plane}, {"drawing", DrawingSlot(section)}});
    Slots slots{{"outline", std::string("section")}, {"path", References{chainOfStep(p, 0)}}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "sweep", slots);
    return p;
}

inline Drawing corners(const std::vector<Vec2>& at) {
    Drawing d;
    for (std::size_t i = 0; i + 1 < at.size(); ++i) d.draw(StrokeKind::Line, {at[i], at[i + 1]});
    return d;
}

/// Of all its strokes, mm.
inline double lengthOf(const Drawing& d) {
    double sum = 0;
    for (const Stroke& s : d.strokes)
        for (const Curve2& c : curvesOf(d, s)) sum += c.length();
    return sum;
}

} // namespace gc::test
