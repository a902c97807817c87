#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> deviationMeasures() {
    return {{"deviation", "Deviation from scan", kLength,
             "How far the body lies from an imported one at most, as from a scan of the made part",
             "≤ 0.3 mm", MeasureWords::Needs::Surface, MeasureWords::Shows::Deviation}};
}

} // namespace gc
