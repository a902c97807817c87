#pragma once
/// \file Drawings embossed on walls.

#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/letters.hpp"

namespace gc::test {

/// A step that embosses a drawing on its own plane. \return its index
inline std::size_t addEmboss(Part& p, const Drawing& d, const std::string& plane, const std::string& wall,
                             const Slots& more = {}) {
    const std::string name = "label " + std::to_string(p.steps.size());
    add(p, "draw", {{"name", name}, {"plane", plane}, {"drawing", DrawingSlot(d)}});
    Slots slots{{"outline", name}, {"wall", References{wall}}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "emboss", slots);
    return p.steps.size() - 1;
}

/// A plane 60 before the front one.
inline void addBefore(Part& p) {
    add(p, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("60 mm")}});
}

inline const Body& bodyOf(const RegenResult& r) {
    return r.state.bodies.begin()->second.value;
}
inline void checkSound(const RegenResult& r) {
    const auto found = checkBody(bodyOf(r));
    for (const auto& f : found.faults) UNSCOPED_INFO(f.text());
    CHECK(found.faults.empty());
}

} // namespace gc::test
