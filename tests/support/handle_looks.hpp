#pragma once
/// \file Where the sizes that can be dragged lie.

#include "core/regen/engine.hpp"

#include <catch2/catch.hpp>

#include <algorithm>
#include <cmath>

namespace gc::test {

/// Of the last step.
inline const Handle& handleOf(const RegenResult& r, const std::string& slot) {
    const auto& all = r.steps.back().aids.handles;
    const auto it = std::find_if(all.begin(), all.end(), [&](const Handle& h) { return h.slot == slot; });
    INFO(slot);
    REQUIRE(it != all.end());
    return *it;
}

/// Where it ends; of an angle the arm turned about the axis (Rodrigues' formula, the arm square to it).
inline Vec3 tipOf(const Handle& h) {
    const double a = h.value * h.way;
    return h.turns ? h.from + h.arm * std::cos(a) + cross(h.direction, h.arm) * std::sin(a)
                   : h.from + h.direction * a;
}

} // namespace gc::test
