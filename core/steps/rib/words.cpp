// Rib: an even wall along the strokes of a drawing that reaches on to the walls of the part.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

StepWords ribWords() {
    StepWords w{"rib",
                "Rib",
                "Even walls along drawn lines, on to the walls of the part; gussets, too",
                "stand on walls",
                "Finish",
                {},
                {}};
    SlotWords thickness = length("thickness", "thickness at its top", "1.2 mm", 100);
    thickness.usual = "0.5 to 0.7 of the wall that it stands on, so that no sink mark shows behind it (R. A. "
                      "Malloy, on injection-moulded parts, Hanser 1994)";
    w.slots = {
        slot("outline", "drawing with its lines", SlotType::OutlineRef, "profile"),
        choice("seen", "how it is drawn", {{"above", "seen from above"}, {"side", "seen from its side"}}),
        thickness, mouldLean("lean of its sides", "0.5°", "0.5 to 1 degree"),
        choice("ends", "where its ends are",
               {{"on", "its ends running on to the walls"}, {"drawn", "its ends as they are drawn"}})};
    constexpr auto fromAbove = [](const Step& step) { return step.text("seen") == "above"; };
    w.sentence = {{"Rib along", ""}, {"", "outline"}, {",", ""}, {"", "seen"}};
    addTop(w, fromAbove);
    w.sentence.insert(w.sentence.end(), {{",", ""},
                                         {"", "thickness"},
                                         {"thick", ""},
                                         {", leaning by", ""},
                                         {"", "lean"},
                                         {",", ""},
                                         {"", "ends"}});
    endStanding(w, "a quarter of the wall");
    return w;
}

void fillIn(Step& step, const Part& part) {
    fillStanding(step, part, false);
    step.slots["thickness"] = shareOfWall(part, "0.6", "1.2 mm");
}

std::string strokeOf(const Step& step, const Part& part, const std::string& role) {
    return strokeInWords(part, step.text("outline"), role);
}

} // namespace

StepKind ribKind() {
    StepKind k{ribWords()};
    k.roles = {{"side", true}, {"far side", true}, {"cap", true}, {"start"}, {"end"}};
    k.decidingSlot = "thickness";
    k.tried = {{"lean", {"lean"}}};
    k.defaults = fillIn;
    k.roleInWords = strokeOf;
    return k;
}

} // namespace gc
