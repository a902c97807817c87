#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> extentMeasures() {
    return {{"width", "Width", kLength, "The envelope from left to right", "≤ 100 mm"},
            {"depth", "Depth", kLength, "The envelope from front to back", "≤ 100 mm"},
            {"height", "Height", kLength, "The envelope from ground to top", "≤ 100 mm"}};
}

} // namespace gc
