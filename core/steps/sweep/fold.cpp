#include "core/steps/sweep/fold.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

struct Look {
    gp_Pnt at;
    double along = 0, reach = 0; ///< mm of path before it; how far the section reaches there
};

/// Its points, as the start has them.
std::vector<gp_Vec> pointsOf(const Section& section, const Frames& frames) {
    std::vector<gp_Vec> out;
    for (const gp_Pnt& p : section.border(12)) out.push_back(frames.local(p));
    return out;
}

std::optional<Fold> foldAmongTurns(const std::vector<Look>& looks, double length, bool closed) {
    std::optional<Fold> worst;
    for (std::size_t i = 0; i < looks.size(); i += 2)
        for (std::size_t j = i + 2; j < looks.size(); j += 2) {
            const Look &a = looks[i], &b = looks[j];
            double apart = b.along - a.along;
            if (closed) apart = std::min(apart, length - apart);
            const double reach = a.reach + b.reach;
            if (apart < std::numbers::pi / 2 * reach) continue;
            const double fits = a.at.Distance(b.at) / reach;
            if (fits < 1 && (!worst || fits < worst->fits)) worst = Fold{a.at, fits, 0};
        }
    return worst;
}

} // namespace

std::optional<Fold> foldOf(const Section& section, const std::vector<PathPiece>& pieces, bool closed,
                           const Frames& frames) {
    constexpr int kPerSpan = 40;
    const auto points = pointsOf(section, frames);
    std::optional<Fold> worst;
    std::vector<Look> looks;
    double before = 0;
    for (std::size_t k = 0; k < pieces.size(); ++k) {
        const LengthCurve& curve = pieces[k].curve;
        const auto breaks = curve.breaks();
        for (std::size_t i = 0; i + 1 < breaks.size(); ++i)
            for (int step = 0; step <= kPerSpan; ++step) {
                // At a joint the bend of either side counts.
                const double share = std::clamp(static_cast<double>(step) / kPerSpan, 1e-6, 1 - 1e-6);
                const double s = breaks[i] + (breaks[i + 1] - breaks[i]) * share;
                const Frame f = frames.at(k, s);
                const gp_Vec bend = curve.bend(s);
                double reach = 0;
                for (const gp_Vec& p : points) {
                    const gp_Vec arm = f.across * p.X() + f.up * p.Y();
                    reach = std::max(reach, arm.Magnitude());
                    const double inward = bend.Dot(arm);
                    if (inward < 1) continue;
                    if (!worst || 1 / inward < worst->fits)
                        worst = Fold{f.at, 1 / inward, 1 / bend.Magnitude()};
                }
                looks.push_back({f.at, before + s, reach});
            }
        before += curve.length();
    }
    if (!worst) worst = foldAmongTurns(looks, before, closed);
    return worst;
}

} // namespace gc
