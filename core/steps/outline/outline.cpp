#include "core/model/arguments.hpp"

#include <algorithm>

#include <optional>
#include <vector>

namespace gc {

namespace {

/// Where the curve meets itself; nothing when it does not. Its chords are tried pair by pair.
std::optional<Vec2> crossing(const BSpline2& curve) {
    constexpr int kChords = 300;
    std::vector<Vec2> p;
    for (int i = 0; i <= kChords; ++i) p.push_back(curve.at(static_cast<double>(i) / kChords));
    const auto side = [](Vec2 a, Vec2 b, Vec2 c) { return cross(b - a, c - a); };
    for (std::size_t i = 0; i + 1 < p.size(); ++i)
        for (std::size_t j = i + 2; j + 1 < p.size(); ++j) {
            const bool apart = std::max(p[i].y, p[i + 1].y) < std::min(p[j].y, p[j + 1].y) ||
                               std::min(p[i].y, p[i + 1].y) > std::max(p[j].y, p[j + 1].y);
            if (apart) continue;
            if (side(p[i], p[i + 1], p[j]) * side(p[i], p[i + 1], p[j + 1]) < 0 &&
                side(p[j], p[j + 1], p[i]) * side(p[j], p[j + 1], p[i + 1]) < 0)
                return p[i];
        }
    return std::nullopt;
}

} // namespace

Result<StepChange> runOutline(const Arguments& args, ModelReader&, const Progress& progress) {
    FairCurveRequest request;
    request.stop = progress.stop();
    for (const StationValues& s : args.stations())
        request.stations.push_back(
            {{s.diameter / 2, s.height}, s.tolerance, s.inside ? args.number("wall") : 0});
    auto curve = fitFairCurve(request);
    if (progress.stopped()) return stoppedError();
    if (!curve) return curve.error();
    for (int i = 0; i <= 200; ++i)
        if (curve->curve.at(i / 200.0).x <= 1e-6) {
            Error e;
            e.code = "outline.axis";
            e.sentence = phrase("The curve crosses the axis near height %1. Add a station there or make the "
                                "diameters larger.",
                                formatAmount(curve->curve.at(i / 200.0).y, "mm", 1));
            return e;
        }
    if (const auto at = crossing(curve->curve))
        return errorOf(
            "outline.crosses",
            phrase("The profile crosses itself near height %1. The rows may be out of order: sort them by "
                   "height, or check the one there.",
                   formatAmount(at->y, "mm", 1)));
    auto outline = std::make_shared<Outline>();
    outline->wall = std::move(*curve);
    outline->stations = args.stations();
    return StepChange(MadeOutline{std::move(outline)});
}

} // namespace gc
