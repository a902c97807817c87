#include "core/measures/measure.hpp"

namespace gc {

Taken takePieces(const std::string& key, const MeasuredOn& on) {
    const auto of = key == "pieces" ? &BodyCheck::solids : &BodyCheck::openEdges;
    return sumOf(on.bodies, [of](const BodyMeasures& b) { return static_cast<double>(b.check.*of); });
}

} // namespace gc
