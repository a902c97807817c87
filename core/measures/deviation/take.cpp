#include "core/measures/measure.hpp"

#include <cmath>

namespace gc {

Taken takeDeviation(const std::string&, const MeasuredOn& on) {
    const auto worst = [](const DeviationField& f) -> const WallExtreme& {
        return std::fabs(f.inside.value) > f.outside.value ? f.inside : f.outside;
    };
    Taken out = bestOf(
        on.bodies,
        [&](const BodyMeasures& b) {
            return b.deviation ? std::optional(std::fabs(worst(*b.deviation).value)) : std::nullopt;
        },
        [](double a, double b) { return a > b; },
        [&](const BodyMeasures& b, Taken& t) {
            t.at = worst(*b.deviation).at;
            t.where = worst(*b.deviation).face;
        });
    if (!out.value) out.note = "There is no imported body to compare with: import a scan as STL, OBJ or 3MF.";
    return out;
}

} // namespace gc
