#pragma once
/// \file For tests and benches: a cap of a ball of 85 mm, 40 mm across its foot, hollow and open below: steps
/// 1 to 3.

#include "tests/support/probe.hpp"

namespace gc::test {

inline constexpr double kDomeOutside = 85, kDomeWall = 1.8; // mm; the ball's middle is on the upright axis

inline Part dome() {
    Part p;
    Drawing d;
    const int foot = d.draw(StrokeKind::Line, {{0, 0}, {40, 0}});
    d.draw(StrokeKind::Line, {{40, 0}, {40, 20}});
    d.draw(StrokeKind::Arc, {{40, 20}, {0, 30}, {0, -55}}, {kDomeOutside});
    d.draw(StrokeKind::Line, {{0, 30}, {0, 0}});
    add(p, "draw", {{"name", std::string("half")}, {"drawing", DrawingSlot(d)}});
    add(p, "revolve", text("outline", "half"));
    add(p, "shell",
        {{"open", References{"side " + std::to_string(foot) + " of step 2"}},
         {"wall", std::string("1.8 mm")}});
    return p;
}

} // namespace gc::test
