// Vent: an even field of slots or holes within an area of a drawing, through the wall.

#include "core/steps/shared/words.hpp"
#include "core/base/angles.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

StepWords ventWords() {
    StepWords w{"vent",   "Vent",   "An even field of slots or holes within an area, through the wall",
                "detail", "Finish", {},
                {}};
    SlotWords rim = length("rim", "what stays along the border", "2 mm", 1000);
    rim.leastAllowed = true;
    SlotWords width = length("width", "width of an opening", "2 mm", 1000);
    width.usual = "as small as keeps out fingers and drops, where that matters: local rules say how small";
    SlotWords bar = length("bar", "bar between them", "2 mm", 1000);
    bar.usual = "at least as wide as the wall is thick, so that the mould fills";
    w.slots = {
        slot("outline", "drawing", SlotType::OutlineRef, "profile"),
        slot("area", "area", SlotType::AreaRef),
        choice("shape", "what the openings are",
               {{"slots", "slots"}, {"rows", "round holes in rows"}, {"rings", "round holes in rings"}}),
        width,
        bar,
        turnEitherWay("turn", "turn of the rows", "0°", kPi),
        rim,
        choice("depth", "how far they go", {{"one", "through"}, {"every", "on through everything from"}})};
    constexpr auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    constexpr auto hasTurn = [](const Step& s) { return s.text("shape") != "rings"; };
    w.sentence = {{"Vent within", ""},
                  {"", "outline"},
                  {",", "", oneArea},
                  {"", "area", oneArea},
                  {":", ""},
                  {"", "shape"},
                  {"", "width"},
                  {"wide,", ""},
                  {"", "bar"},
                  {"between them", ""},
                  {", turned by", "", hasTurn},
                  {"", "turn", hasTurn},
                  {",", ""},
                  {"", "rim"},
                  {"from its border,", ""},
                  {"", "depth"}};
    addStanding(w, {"the nearer wall", "the wall on its other side"}, "");
    w.sentence.push_back({".", ""});
    return w;
}

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
    fillTarget(step, part);
}

} // namespace

StepKind ventKind() {
    StepKind k{ventWords()};
    k.roles = {{"opening", true}};
    k.decidingSlot = "width";
    k.defaults = fillIn;
    return k;
}

} // namespace gc
