#pragma once
/// \file The sides of a closed walk, a stroke at a time.

#include "core/sketch/region.hpp"

namespace gc {

/// What one stroke gives to a loop in one go.
struct LoopRun {
    int stroke = 0;
    std::vector<Curve2> curves;
    Vec2 start() const { return curves.front().at(0); }
    Vec2 end() const { return curves.back().at(1); }
};

/// Sides of the same stroke that follow each other are one run: a circle that was cut to be walked, the
/// pieces of a spline. The first one begins where a stroke begins.
std::vector<LoopRun> runsOf(const Loop& loop);

} // namespace gc
