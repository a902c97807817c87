#include "core/steps/shared/far_sides.hpp"

#include "core/base/tolerance.hpp"
#include "core/units/amount.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

Error tooMuch(double reached, const ReliefShape& shape) {
    const double most = std::atan2(reached, std::fabs(shape.height)) * 180 / std::numbers::pi;
    return errorOf("emboss.lean",
                   phrase("Leaning so, sides of the drawing close up before they are %1 %2. Lean them less "
                          "than %3, or make it %4.",
                          formatAmount(std::fabs(shape.height), "mm", 2), shape.height > 0 ? "high" : "deep",
                          formatNumber(std::floor(most * 100) / 100, 2) + "°",
                          shape.height > 0 ? "lower" : "less deep"));
}

} // namespace

Result<FarSides> FarSides::of(const Region& area, const ReliefShape& shape) {
    FarSides out;
    out.m_loops = sidesOf(area);
    for (const auto& loop : out.m_loops) out.m_spans.emplace_back(loop.size());
    out.m_by = std::fabs(shape.height) * std::tan(shape.lean);
    if (out.m_by < kKernelPoint) {
        out.m_by = 0;
        return out;
    }
    const Inset inset = insetOf(out.m_loops, out.m_by);
    if (inset.stop) return tooMuch(std::fabs(inset.stop->by), shape);
    double reached = out.m_by;
    for (const InsetLoop& loop : inset.loops)
        for (const auto& v : loop.vanished)
            if (v) reached = std::min(reached, std::fabs(*v));
    if (reached < out.m_by) return tooMuch(reached, shape);
    for (std::size_t l = 0; l < inset.loops.size(); ++l)
        for (const InsetCorner& c : inset.loops[l].corners) {
            const InsetCorner::Place place = inset.loops[l].placeOf(c, out.m_by);
            out.m_spans[l][static_cast<std::size_t>(c.before)].to = place.onBefore;
            out.m_spans[l][static_cast<std::size_t>(c.after)].from = place.onAfter;
        }
    return out;
}

Vec2 FarSides::far(std::size_t loop, std::size_t side, double t) const {
    const Span& s = m_spans[loop][side];
    return m_by == 0 ? near(loop, side, t) : m_loops[loop][side].moved(s.from + (s.to - s.from) * t, m_by);
}

std::vector<double> FarSides::breaks(std::size_t loop, std::size_t side) const {
    constexpr double kApart = 1e-3;
    const Span& s = m_spans[loop][side];
    std::vector<double> all;
    for (const double b : m_loops[loop][side].breaks())
        for (const double at : {b, (b - s.from) / (s.to - s.from)})
            if (at > kApart && at < 1 - kApart) all.push_back(at);
    std::sort(all.begin(), all.end());
    std::vector<double> out{0};
    for (const double b : all)
        if (b - out.back() > kApart) out.push_back(b);
    out.push_back(1);
    return out;
}

} // namespace gc
