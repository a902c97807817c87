#include "core/measures/measure.hpp"

namespace gc {

Taken takeExtent(const std::string& key, const MeasuredOn& on) {
    Box all;
    for (const BodyMeasures* b : on.bodies) {
        all.add(b->box.low);
        all.add(b->box.high);
    }
    Taken t;
    const auto axis = key == "width" ? &Vec3::x : key == "depth" ? &Vec3::y : &Vec3::z;
    if (!all.empty()) t.value = all.size().*axis;
    return t;
}

} // namespace gc
