// What is read off picked things: kept as targets from the measuring strip.

#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> betweenMeasures() {
    const auto of = [](int picked, const char* key, const char* label, Dimension d, const char* question) {
        MeasureWords m{key, label, d, question, d == kAngle ? "≥ 1°" : "≥ 1 mm"};
        m.ofPicked = picked;
        return m;
    };
    return {
        of(2, "distance", "Distance", kLength, "Between two planes, axes, centres or points, square to them"),
        of(2, "least distance", "Least distance", kLength, "Where two things are nearest to each other"),
        of(2, "angle", "Angle", kAngle, "Between two planes or axes, at most a right angle"),
        of(1, "diameter", "Diameter", kLength, "Of a round edge, line or face"),
        of(1, "radius", "Radius", kLength, "Of a round edge, line or face"),
        of(1, "length", "Length", kLength, "Of edges and drawn lines, along them")};
}

} // namespace gc
