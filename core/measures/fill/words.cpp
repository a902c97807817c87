#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> fillMeasures() {
    using Needs = MeasureWords::Needs;
    return {{"fill brim", "Fill to brim", kVolume, "What it holds up to the lowest point of its rim",
             "≥ 500 ml", Needs::Fill},
            {"fill line", "Fill to line", kVolume, "What it holds up to the fill line of the brief",
             "≥ 500 ml", Needs::Fill}};
}

} // namespace gc
