// Shell: a body hollowed to an even wall.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "body", Thing::Body);
}

StepWords shellWords() {
    StepWords w{"shell", "Shell", "Hollow a body to an even wall", "hollow and lean", "Finish", {}, {}};
    w.slots = {slot("body", "body", SlotType::BodyRef, "body"), slot("open", "open faces", SlotType::Faces),
               length("wall", "wall", "2.4 mm", 200), choice("side", "side", {"inward", "outward"})};
    w.sentence = {{"Shell", ""},      {"", "body"}, {"leaving", ""}, {"", "open"},
                  {"open, wall", ""}, {"", "wall"}, {"", "side"},    {".", ""}};
    return w;
}

} // namespace

StepKind shellKind() {
    StepKind k{shellWords()};
    k.decidingSlot = "wall";
    // What decides wall, mass and fill of a hollow part.
    k.tried = {{"wall",
                {"mass", "volume", "thinnest wall", "thickest wall", "thinnest wall, ball",
                 "thickest wall, ray", "fill brim", "fill line"}}};
    k.defaults = fillIn;
    return k;
}

} // namespace gc
