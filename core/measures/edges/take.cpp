#include "core/measures/measure.hpp"

#include "core/units/amount.hpp"

#include <numbers>

namespace gc {

namespace {

Message saidOf(const Seam& s) {
    if (s.order == 0) return phrase("The faces meet at %1 here: a kink (G0).", formatAmount(s.kink, "°", 2));
    if (s.order == 1)
        return phrase(
            "Tangent, but the curvature jumps by %1 /mm here (G1). A blend instead of a fillet runs on.",
            formatNumber(s.jump, 4));
    return phrase("The curvature runs on everywhere, within %1 /mm (G2).", formatNumber(s.jump, 4));
}

} // namespace

Taken takeEdges(const std::string& key, const MeasuredOn& on) {
    if (key == "sharpest edge")
        return bestOf(
            on.bodies,
            [](const BodyMeasures& b) {
                return std::optional(b.seams.sharpest ? b.seams.sharpest->angle : std::numbers::pi);
            },
            [](double a, double b) { return a < b; },
            [](const BodyMeasures& b, Taken& t) {
                if (!b.seams.sharpest) return;
                t.at = b.seams.sharpest->at;
                t.where = b.seams.sharpest->edge;
            });
    return bestOf(
        on.bodies,
        [](const BodyMeasures& b) { return std::optional<double>(b.seams.worst ? b.seams.worst->order : 2); },
        [](double a, double b) { return a < b; },
        [](const BodyMeasures& b, Taken& t) {
            if (!b.seams.worst) return;
            t.at = b.seams.worst->at;
            t.where = b.seams.worst->edge;
            t.note = saidOf(*b.seams.worst);
        });
}

} // namespace gc
