#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> leanMeasures() {
    return {{"lean", "Least lean", kAngle,
             "How far walls lean from the pull, so that the part comes off the tool", "≥ 1°",
             MeasureWords::Needs::Surface, MeasureWords::Shows::Lean}};
}

} // namespace gc
