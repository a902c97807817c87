#include "core/steps/shared/far_sides.hpp"

#include "core/base/tolerance.hpp"
#include "core/units/amount.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

Error tooMuch(double reached, const ReliefShape& shape) {
    const double most = std::atan2(reached, std::fabs(shape.height) - shape.below) * 180 / std::numbers::pi;
    return errorOf("emboss.lean",
                   phrase("Leaning so, sides of the drawing close up before they are %1 %2. Lean them less "
                          "than %3, or make it %4.",
                          formatAmount(std::fabs(shape.height) - shape.below, "mm", 2),
                          shape.height > 0 ? "high" : "deep",
                          formatNumber(std::floor(most * 100) / 100, 2) + "°",
                          shape.height > 0 ? "lower" : "less deep"));
}

} // namespace

Result<FarSides::End> FarSides::endOf(const SideLoops& loops, double by, const ReliefShape& shape) {
    End out;
    for (const auto& loop : loops) out.spans.emplace_back(loop.size());
    if (std::fabs(by) < kKernelPoint) return out;
    out.by = by;
    const Inset inset = insetOf(loops, by);
    if (inset.stop) return tooMuch(std::fabs(inset.stop->by), shape);
    double reached = std::fabs(by);
    for (const InsetLoop& loop : inset.loops)
        for (const auto& v : loop.vanished)
            if (v) reached = std::min(reached, std::fabs(*v));
    if (reached < std::fabs(by)) return tooMuch(reached, shape);
    for (std::size_t l = 0; l < inset.loops.size(); ++l)
        for (const InsetCorner& c : inset.loops[l].corners) {
            const InsetCorner::Place place = inset.loops[l].placeOf(c, by);
            out.spans[l][static_cast<std::size_t>(c.before)].to = place.onBefore;
            out.spans[l][static_cast<std::size_t>(c.after)].from = place.onAfter;
        }
    return out;
}

Result<FarSides> FarSides::of(const Region& area, const ReliefShape& shape) {
    FarSides out;
    out.m_loops = sidesOf(area);
    auto near = endOf(out.m_loops, -shape.below * std::tan(shape.lean), shape);
    if (!near) return near.error();
    const double above = std::fabs(shape.height) - shape.below;
    auto far = endOf(out.m_loops, above * std::tan(shape.lean), shape);
    if (!far) return far.error();
    out.m_near = std::move(*near), out.m_far = std::move(*far);
    return out;
}

Vec2 FarSides::End::at(const SideLoops& loops, std::size_t loop, std::size_t side, double t) const {
    const Span& s = spans[loop][side];
    const double on = s.from + (s.to - s.from) * t;
    return by == 0 ? loops[loop][side].at(on) : loops[loop][side].moved(on, by);
}

std::vector<double> FarSides::breaks(std::size_t loop, std::size_t side) const {
    constexpr double kApart = 1e-3;
    std::vector<double> all;
    for (const double b : m_loops[loop][side].breaks())
        for (const End* end : {&m_near, &m_far}) {
            const Span& s = end->spans[loop][side];
            const double at = (b - s.from) / (s.to - s.from);
            if (at > kApart && at < 1 - kApart) all.push_back(at);
        }
    std::sort(all.begin(), all.end());
    std::vector<double> out{0};
    for (const double b : all)
        if (b - out.back() > kApart) out.push_back(b);
    out.push_back(1);
    return out;
}

} // namespace gc
