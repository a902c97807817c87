#include "core/measures/measure.hpp"

namespace gc {

Taken takeMass(const std::string& key, const MeasuredOn& on) {
    const auto of = key == "mass" ? &MassProperties::mass : &MassProperties::volume;
    return sumOf(on.bodies, [of](const BodyMeasures& b) { return b.mass.*of; });
}

} // namespace gc
