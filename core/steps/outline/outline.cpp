#include "core/model/arguments.hpp"

namespace gc {

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
    auto outline = std::make_shared<Outline>();
    outline->wall = std::move(*curve);
    outline->stations = args.stations();
    return StepChange(MadeOutline{std::move(outline)});
}

} // namespace gc
