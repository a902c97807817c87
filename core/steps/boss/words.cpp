// Boss: a round post at each point of a drawing, on the wall behind it, with a hole for a screw.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

bool isBored(const Step& s) {
    return s.text("hole") != "none";
}
bool isBlind(const Step& s) {
    return s.text("hole") == "blind";
}

StepWords bossWords() {
    StepWords w{"boss",
                "Boss",
                "Round posts for screws and pins at the points of a drawing, grown from the wall",
                "stand on walls",
                "Finish",
                {},
                {}};
    SlotWords diameter = length("diameter", "diameter at its top", "6 mm", 1000);
    diameter.prefix = "⌀ ";
    diameter.usual = "usually twice the screw's diameter (R. A. Malloy, on injection-moulded parts, "
                     "Hanser 1994); ask the maker of the screw";
    SlotWords bore = length("bore", "diameter of its hole", "2.5 mm", 1000);
    bore.prefix = "⌀ ";
    bore.usual = "for screws that cut their thread about 0.8 of the screw's diameter; the maker of the screw "
                 "says what holds";
    w.slots = {
        slot("outline", "drawing with its places", SlotType::OutlineRef, "profile"),
        diameter,
        choice("hole", "hole",
               {{"blind", "with a hole of"}, {"through", "with a hole right through of"}, {"none", "solid"}}),
        bore,
        length("depth", "depth of its hole", "8 mm", 1000),
        mouldLean("lean of its wall", "0.5°", "0.5 to 1 degree")};
    w.sentence = {{"Boss at the points of", ""}, {"", "outline"}};
    addTop(w);
    w.sentence.insert(w.sentence.end(), {{",", ""},
                                         {"", "diameter"},
                                         {"wide", ""},
                                         {"", "hole"},
                                         {"", "bore", isBored},
                                         {",", "", isBlind},
                                         {"", "depth", isBlind},
                                         {"deep", "", isBlind},
                                         {", leaning by", ""},
                                         {"", "lean"}});
    endStanding(w, "a quarter of the wall");
    return w;
}

std::string pointOf(const Step& step, const Part& part, const std::string& role) {
    return placeInWords(part, step.text("outline"), role, {"wall ", "bore ", "floor ", "top "});
}

} // namespace

StepKind bossKind() {
    StepKind k{bossWords()};
    k.roles = {{"wall", true}, {"bore", true}, {"floor", true}, {"top", true}, {"start"}, {"end"}};
    k.decidingSlot = "diameter";
    k.tried = {{"lean", {"lean"}}};
    k.defaults = [](Step& step, const Part& part) { fillStanding(step, part, true); };
    k.roleInWords = pointOf;
    return k;
}

} // namespace gc
