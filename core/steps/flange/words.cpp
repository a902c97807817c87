// Flange: a flat border around a rim, outward or into the opening, its edge turned down where that is wanted.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

StepWords flangeWords() {
    StepWords w{"flange",
                "Flange",
                "A border around a rim, outward or into the opening, its edge turned down or not",
                "stand on walls",
                "Finish",
                {},
                {}};
    constexpr auto turned = [](const Step& s) { return s.text("edge") == "turned"; };
    SlotWords way =
        choice("way", "which way it reaches", {{"out", "outward by"}, {"in", "into the opening by"}});
    way.flips = {"out", "in"};
    SlotWords thickness = length("thickness", "thickness", "2 mm", 200);
    thickness.usual = "as the wall, so that it cools evenly";
    w.slots = {slot("rim", "rim", SlotType::Face),
               way,
               length("reach", "how far it reaches", "5 mm", 1000),
               thickness,
               choice("edge", "what its edge does",
                      {{"flat", "flat to its edge"}, {"turned", "its edge turned down by"}}),
               length("drop", "how far its edge is turned down", "4 mm", 1000)};
    w.sentence = {{"Flange around", ""}, {"", "rim"},    {"reaching", ""},
                  {"", "way"},           {"", "reach"},  {",", ""},
                  {"", "thickness"},     {"thick,", ""}, {"", "edge"},
                  {"", "drop", turned},  {".", ""}};
    return w;
}

void fillIn(Step& step, const Part& part) {
    step.slots["thickness"] = shareOfWall(part, "1", "2 mm");
}

} // namespace

StepKind flangeKind() {
    StepKind k{flangeWords()};
    k.decidingSlot = "reach";
    k.tried = {{"reach", {"mass", "volume", "width", "depth"}}};
    k.defaults = fillIn;
    return k;
}

} // namespace gc
