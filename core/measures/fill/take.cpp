#include "core/measures/measure.hpp"

namespace gc {

/// The most that one of the bodies holds.
Taken takeFill(const std::string& key, const MeasuredOn& on) {
    const auto result = key == "fill brim" ? &BodyMeasures::brim : &BodyMeasures::line;
    return bestOf(
        on.bodies, [result](const BodyMeasures& b) { return std::optional((b.*result).volume); },
        [](double a, double b) { return a > b; },
        [result](const BodyMeasures& b, Taken& t) {
            const FillResult& f = b.*result;
            t.where = f.holdsAnything ? "level at " + formatAmount(f.level, "mm", 1) : "";
            t.note = f.note;
            t.at = Vec3{b.box.centre().x, b.box.centre().y, f.level};
        });
}

} // namespace gc
