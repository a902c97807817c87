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

bool hasOthers(const Step& s) {
    return s.text("rest") == "but";
}
bool isNew(const Step& s) {
    return s.text("becomes") == "as new body";
}

StepWords shellWords() {
    StepWords w{"shell", "Shell", "Hollow a body to an even wall", "hollow and lean", "Finish", {}, {}};
    SlotWords side = choice("side", "side", {"inward", "outward", "half each way"});
    side.flips = {"inward", "outward", "half each way"};
    w.slots = {slot("body", "body", SlotType::BodyRef, "body"),
               slot("open", "open faces", SlotType::Faces),
               length("wall", "wall", "2.4 mm", 200),
               side,
               choice("rest", "wall elsewhere", {{"everywhere", "everywhere"}, {"but", "but"}}),
               length("other wall", "wall at some faces", "3 mm", 200),
               slot("others", "faces with another wall", SlotType::Faces),
               choice("becomes", "what it becomes", {"in its place", "as new body"}),
               naming(Thing::Body, "name", "skin")};
    w.sentence = {{"Shell", ""},
                  {"", "body"},
                  {"leaving", ""},
                  {"", "open"},
                  {"open, wall", ""},
                  {"", "wall"},
                  {"", "side"},
                  {"", "rest", nullptr, true},
                  {"", "other wall", hasOthers},
                  {"at", "", hasOthers},
                  {"", "others", hasOthers},
                  {"", "becomes", nullptr, true},
                  {"called", "", isNew},
                  {"", "name", isNew},
                  {".", ""}};
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
