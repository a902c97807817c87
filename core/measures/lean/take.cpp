#include "core/measures/measure.hpp"

#include <numbers>

namespace gc {

Taken takeLean(const std::string&, const MeasuredOn& on) {
    return bestOf(
        on.bodies,
        [](const BodyMeasures& b) {
            return b.lean.any ? std::optional(b.lean.least.value * std::numbers::pi / 180) : std::nullopt;
        },
        [](double a, double b) { return a < b; },
        [](const BodyMeasures& b, Taken& t) {
            t.at = b.lean.least.at;
            t.where = b.lean.least.face;
            if (b.lean.undercutArea > 0) t.note = "Undercut: the tool cannot leave here.";
        });
}

} // namespace gc
