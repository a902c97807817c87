#include "core/measures/measure.hpp"

namespace gc {

Taken takePieces(const std::string& key, const std::vector<const BodyMeasures*>& bodies) {
    const auto of = key == "pieces" ? &BodyCheck::solids : &BodyCheck::openEdges;
    return sumOf(bodies, [of](const BodyMeasures& b) { return static_cast<double>(b.check.*of); });
}

} // namespace gc
