// Drawing: a profile of lines and curves.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/planes.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "plane", Thing::Plane);
}

StepWords drawWords() {
    StepWords w{"draw",
                "Drawing",
                "A profile of lines and curves, related and dimensioned",
                "measure and draw",
                "Outline",
                {},
                {}};
    w.slots = {naming(Thing::Outline, "name", "profile"), slot("plane", "plane", SlotType::PlaneRef, "front"),
               choice("seen", "seen", choicesOf(seenChoices())),
               choice("up", "way up", choicesOf(upChoices())), slot("drawing", "drawing", SlotType::Drawing)};
    const auto behind = [](const Step& s) { return s.text("seen") != seenChoices()[0]; };
    const auto turned = [](const Step& s) { return s.text("up") != upChoices()[0]; };
    w.sentence = {{"Draw", ""},         {"", "name"},         {"on", ""},        {"", "plane"},
                  {"seen", "", behind}, {"", "seen", behind}, {",", "", turned}, {"", "up", turned},
                  {",", "", turned},    {"with", ""},         {"", "drawing"},   {".", ""}};
    return w;
}

} // namespace

StepKind drawKind() {
    StepKind k{drawWords()};
    k.filledIn = FilledIn::DrawingTable;
    k.defaults = fillIn;
    return k;
}

} // namespace gc
