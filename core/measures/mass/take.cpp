#include "core/measures/measure.hpp"

namespace gc {

Taken takeMass(const std::string& key, const std::vector<const BodyMeasures*>& bodies) {
    const auto of = key == "mass" ? &MassProperties::mass : &MassProperties::volume;
    return sumOf(bodies, [of](const BodyMeasures& b) { return b.mass.*of; });
}

} // namespace gc
