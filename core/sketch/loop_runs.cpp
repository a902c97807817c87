#include "core/sketch/loop_runs.hpp"

namespace gc {

std::vector<LoopRun> runsOf(const Loop& loop) {
    std::vector<LoopRun> runs;
    const std::size_t n = loop.sides.size();
    std::size_t first = 0;
    while (first < n && loop.sides[first].stroke == loop.sides[(first + n - 1) % n].stroke) ++first;
    if (first == n) first = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const Side& s = loop.sides[(first + i) % n];
        if (runs.empty() || runs.back().stroke != s.stroke) runs.push_back({s.stroke, {}});
        auto& curves = runs.back().curves;
        if (!curves.empty() && s.curve.kind == Curve2::Kind::Ellipse)
            curves.back().turn += s.curve.turn;
        else if (curves.empty() || s.curve.kind != Curve2::Kind::Line)
            curves.push_back(s.curve);
        else
            curves.back().p[1] = s.curve.p[1];
    }
    return runs;
}

} // namespace gc
