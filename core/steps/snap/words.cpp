// Snap arm: a springy arm with a hook at each point of a drawing, on the wall behind it.

#include "core/steps/shared/words.hpp"
#include "core/base/angles.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

bool thins(const Step& s) {
    return s.text("along") == "thinning";
}

StepWords snapWords() {
    StepWords w{"snap",
                "Snap arm",
                "Springy arms with a hook at the points of a drawing, grown from the wall",
                "stand on walls",
                "Finish",
                {},
                {}};
    SlotWords catches = length("catch", "how far its hook reaches out", "0.8 mm", 100);
    catches.usual = "as far as the arm has to give way; half to one of its thickness";
    SlotWords lead = angle("lead", "slope on which it slides in, from the arm", "30°", kPi / 2 * 0.99);
    lead.usual = "25 to 35 degrees";
    SlotWords hold =
        angle("hold", "slope of its catching face, from square to the arm", "0°", kPi / 2 * 0.99);
    hold.leastAllowed = true;
    hold.usual = "0 for what stays shut, 45 degrees for what is opened often";
    SlotWords tip = length("tip", "thickness at its top", "0.8 mm", 100);
    tip.usual = "half to two thirds of what it is at its root";
    w.slots = {
        slot("outline", "drawing with its places", SlotType::OutlineRef, "profile"),
        length("width", "width", "6 mm", 1000),
        length("thickness", "thickness of the arm", "1.4 mm", 100),
        choice("along", "how its thickness goes on", {{"even", "all along"}, {"thinning", "thinning to"}}),
        tip,
        catches,
        choice("facing", "where its hook looks",
               {{"outward", "outward from their middle"},
                {"inward", "toward their middle"},
                {"right", "to the right of the drawing"},
                {"left", "to the left of the drawing"},
                {"up", "upward in the drawing"},
                {"down", "downward in the drawing"}}),
        lead,
        hold};
    w.sentence = {{"Snap arm at the points of", ""}, {"", "outline"}};
    addTop(w);
    w.sentence.insert(w.sentence.end(), {{",", ""},
                                         {"", "width"},
                                         {"wide,", ""},
                                         {"", "thickness"},
                                         {"thick", ""},
                                         {"", "along", nullptr, true},
                                         {"", "tip", thins},
                                         {", its hook reaching", ""},
                                         {"", "catch"},
                                         {"", "facing"},
                                         {", sliding in at", ""},
                                         {"", "lead"},
                                         {", holding at", ""},
                                         {"", "hold"}});
    endStanding(w, "half of the arm's thickness, so that it does not break there");
    return w;
}

void fillIn(Step& step, const Part& part) {
    fillStanding(step, part, true);
    step.slots["thickness"] = shareOfWall(part, "0.6", "1.4 mm");
}

std::string placeOf(const Step& step, const Part& part, const std::string& role) {
    return placeInWords(part, step.text("outline"), role,
                        {"top ", "slope ", "catch ", "front ", "back ", "flank ", "far flank "});
}

} // namespace

StepKind snapKind() {
    StepKind k{snapWords()};
    k.roles = {{"top", true},  {"slope", true}, {"catch", true},     {"front", true},
               {"back", true}, {"flank", true}, {"far flank", true}, {"end"}};
    k.decidingSlot = "thickness";
    k.defaults = fillIn;
    k.roleInWords = placeOf;
    return k;
}

} // namespace gc
