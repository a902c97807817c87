#include "core/measures/measure.hpp"

#include "core/units/amount.hpp"

namespace gc {

Taken takeWall(const std::string& key, const MeasuredOn& on) {
    const bool thin = key.starts_with("thinnest"),
               rays = key == "thinnest wall" || key == "thickest wall, ray";
    const auto field = rays ? &BodyMeasures::ray : &BodyMeasures::ball;
    const auto extreme = thin ? &WallField::thinnest : &WallField::thickest;
    return bestOf(
        on.bodies,
        [&](const BodyMeasures& b) {
            const WallField& f = b.*field;
            return f.any ? std::optional((f.*extreme).value) : std::nullopt;
        },
        [thin](double a, double b) { return thin ? a < b : a > b; },
        [&](const BodyMeasures& b, Taken& t) {
            const WallExtreme& e = b.*field.*extreme;
            t.at = e.at;
            t.where = e.face;
            if (b.surface && b.surface->coarse)
                t.note =
                    phrase("The body is large: it was looked at every %1 and within %2. A thin place that "
                           "is smaller than that may be missed.",
                           formatAmount(b.surface->apart, "mm", 0),
                           formatAmount(std::max((b.*field).errorBound, b.mesh->deviation), "mm", 2));
        });
}

} // namespace gc
