#pragma once
/// \file A drawing on the ground, extruded: what steps of Finish are tried on.

#include "tests/support/built.hpp"

namespace gc::test {

/// Step 1 draws, step 2 extrudes. \param more slots of the latter
inline Part block(const Drawing& drawing, const std::string& height, const Slots& more = {}) {
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(drawing)}});
    Slots slots{{"length", height}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "extrude", slots);
    return p;
}
/// A block of 40 x 30, 20 high.
inline Part brick() {
    return block(rectangle({0, 0}, {40, 30}), "20 mm");
}
/// The wall over a stroke of it.
inline std::string side(const Part& p, std::size_t stroke) {
    return "side " + std::to_string(p.steps[0].drawing("drawing").strokes[stroke].id) + " of step 2";
}

} // namespace gc::test
