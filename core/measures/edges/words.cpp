#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> edgesMeasures() {
    using Needs = MeasureWords::Needs;
    using Shows = MeasureWords::Shows;
    return {
        {"sharpest edge", "Sharpest outside edge", kAngle,
         "The angle of the material at its sharpest outside edge: 90° on a block, 180° where all is rounded",
         "≥ 100°", Needs::Edges, Shows::Stripes},
        {"sharpest point", "Sharpest outside point", kAngle,
         "The angle of the round cone with as much material around its tip: 83° at a block's corner, 180° "
         "where "
         "nothing is pointed",
         "≥ 90°", Needs::Edges, Shows::Stripes},
        {"seams", "Least smooth seam", kNumber,
         "How faces run on into each other: 0 they only meet, 1 tangent, 2 with one curvature", "≥ 1",
         Needs::Edges, Shows::Stripes}};
}

} // namespace gc
