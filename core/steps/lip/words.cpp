// Lip: a step around a flat rim, raised on one half and sunk into the other, so that it finds its place.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

bool isSunk(const Step& s) {
    return s.text("does") == "sunk";
}

StepWords lipWords() {
    StepWords w{
        "lip",
        "Lip",
        "A step around a rim, raised on one part and sunk into the other, so that they find their place",
        "stand on walls",
        "Finish",
        {},
        {}};
    SlotWords width = length("width", "width", "1 mm", 500);
    width.usual = "half of the wall";
    SlotWords height = length("height", "height", "1.5 mm", 500);
    height.usual = "0.7 to one wall";
    SlotWords play = length("play", "play to its partner", "0.1 mm", 50);
    play.leastAllowed = true;
    play.usual = "0.05 to 0.2 mm, by how exactly the parts come out of their moulds";
    SlotWords does = choice("does", "raised or sunk", {{"raised", "raised by"}, {"sunk", "sunk by"}});
    does.flips = {"raised", "sunk"};
    w.slots = {slot("rim", "rim", SlotType::Face),
               choice("where", "where on the rim",
                      {{"inner", "along its inner border"}, {"outer", "along its outer border"}}),
               does,
               width,
               height,
               play,
               mouldLean("lean of its side", "1°", "1 to 2 degrees")};
    w.sentence = {{"Lip on", ""},       {"", "rim"},
                  {"", "where"},        {",", ""},
                  {"", "width"},        {"wide,", ""},
                  {"", "does"},         {"", "height"},
                  {"with", "", isSunk}, {"", "play", isSunk},
                  {"play", "", isSunk}, {", leaning by", ""},
                  {"", "lean"},         {".", ""}};
    return w;
}

void fillIn(Step& step, const Part& part) {
    step.slots["width"] = shareOfWall(part, "0.5", "1 mm");
    step.slots["height"] = shareOfWall(part, "0.75", "1.5 mm");
}

} // namespace

StepKind lipKind() {
    StepKind k{lipWords()};
    k.decidingSlot = "width";
    k.tried = {{"lean", {"lean"}}};
    k.defaults = fillIn;
    return k;
}

} // namespace gc
