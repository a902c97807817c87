#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> massMeasures() {
    MeasureWords mass{"mass", "Mass", kMass, "What all bodies weigh, each in its material", "≤ 100 g"};
    MeasureWords volume{"volume", "Volume", kVolume, "The material's volume", "≤ 100 cm³"};
    mass.ofVolume = volume.ofVolume = true;
    return {mass, volume};
}

} // namespace gc
