// Blend: edges made smooth without a jump in curvature.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

StepWords blendWords() {
    StepWords w{"blend", "Blend", "Make edges smooth, without a jump in curvature", "shape edges", "Finish",
                {},      {}};
    SlotWords tension = slot("tension", "tension: more keeps nearer to the edge", SlotType::Quantity, "1.1");
    tension.dimension = kNumber;
    tension.least = 0.5;
    tension.most = 2;
    w.slots = {slot("edges", "edges", SlotType::Edges),
               length("radius", "radius of the fillet that reaches as far", "4 mm", 1000), tension};
    w.sentence = {{"Blend", ""},   {"", "edges"}, {"as far as a fillet of", ""},
                  {"", "radius"},  {"would", ""}, {"with tension", ""},
                  {"", "tension"}, {".", ""}};
    return w;
}

} // namespace

StepKind blendKind() {
    StepKind k{blendWords()};
    k.decidingSlot = "radius";
    return k;
}

} // namespace gc
