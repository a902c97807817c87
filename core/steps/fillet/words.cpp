// Fillet: edges rounded with one radius.

#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

StepWords filletWords() {
    StepWords w{"fillet", "Fillet", "Round edges with one radius", "shape edges", "Finish", {}, {}};
    w.slots = {slot("edges", "edges", SlotType::Edges), length("radius", "radius", "1 mm", 1000)};
    w.sentence = {{"Fillet", ""}, {"", "edges"}, {"by", ""}, {"", "radius"}, {".", ""}};
    return w;
}

} // namespace

StepKind filletKind() {
    StepKind k{filletWords()};
    k.decidingSlot = "radius";
    return k;
}

} // namespace gc
