#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> wallMeasures() {
    using Needs = MeasureWords::Needs;
    using Shows = MeasureWords::Shows;
    return {{"thinnest wall", "Thinnest wall", kLength, "Straight through the wall: the ray school", "≥ 2 mm",
             Needs::Surface, Shows::WallByRay},
            {"thickest wall", "Thickest wall", kLength, "The largest ball that fits: the ball school",
             "≤ 4 mm", Needs::Surface, Shows::WallByBall},
            {"thinnest wall, ball", "Thinnest, ball", kLength,
             "The smallest ball between two sides of a wall", "≥ 2 mm", Needs::Surface, Shows::WallByBall},
            {"thickest wall, ray", "Thickest, ray", kLength, "Straight through the wall: the ray school",
             "≤ 4 mm", Needs::Surface, Shows::WallByRay}};
}

} // namespace gc
