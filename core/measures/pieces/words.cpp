#include "core/document/measure_words.hpp"

namespace gc {

std::vector<MeasureWords> piecesMeasures() {
    return {{"pieces", "Pieces", kNumber, "How many closed pieces there are", "1"},
            {"open edges", "Open edges", kNumber, "Edges that only one face meets: 0 in a closed body", "0"}};
}

} // namespace gc
