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

/// The sharpest of the bodies' edges, or points: pi where nothing stands out.
template <class Sharp>
Taken sharpest(const MeasuredOn& on, std::optional<Sharp> SeamField::*member, std::string Sharp::*named) {
    return bestOf(
        on.bodies,
        [&](const BodyMeasures& b) {
            const auto& found = b.seams.*member;
            return std::optional(found ? found->angle : std::numbers::pi);
        },
        [](double a, double b) { return a < b; },
        [&](const BodyMeasures& b, Taken& t) {
            const auto& found = b.seams.*member;
            if (!found) return;
            t.at = found->at;
            t.where = (*found).*named;
        });
}

} // namespace

Taken takeEdges(const std::string& key, const MeasuredOn& on) {
    if (key == "sharpest edge") return sharpest(on, &SeamField::sharpest, &SharpEdge::edge);
    if (key == "sharpest point") return sharpest(on, &SeamField::point, &SharpPoint::face);
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
