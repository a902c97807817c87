// Fillet: edges rounded, in up to three groups of one radius each, or faces that give way to a round.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

bool grows(const Step& s) {
    return s.text("how") == "growing from";
}
bool isFull(const Step& s) {
    return s.text("how") == "fully over";
}
bool isAcross(const Step& s) {
    return s.text("how") == "from face to face";
}
bool isHeld(const Step& s) {
    return s.text("how") == "up to";
}
bool isRolled(const Step& s) {
    return !isFull(s) && !isAcross(s) && !isHeld(s);
}
bool hasEdges(const Step& s) {
    return isRolled(s) || isHeld(s);
}
bool hasRadius(const Step& s) {
    return !isFull(s) && !isHeld(s);
}
bool hasPlace(const Step& s) {
    return grows(s) && s.text("change") == "by way of";
}
bool hasSecondPlace(const Step& s) {
    return hasPlace(s) && s.text("change 2") == "then by way of";
}
bool isSetBack(const Step& s) {
    return isRolled(s) && s.text("corners") == "with corners set back by";
}
bool hasSecond(const Step& s) {
    return isRolled(s) && s.text("rest") == "and";
}
bool hasThird(const Step& s) {
    return hasSecond(s) && s.text("rest 2") == "and";
}

StepWords filletWords() {
    StepWords w{"fillet", "Fillet", "Round edges, with one radius or several", "shape edges", "Finish",
                {},       {}};
    SlotWords way = choice("way", "which end it grows from", {"one way", "the other way"});
    way.flips = {"one way", "the other way"};
    SlotWords far = length("far radius", "radius at the other end", "3 mm", 1000);
    far.leastAllowed = true; // to a sharp edge
    w.slots = {
        slot("edges", "edges", SlotType::Edges),
        choice("how", "how it is sized", {"by", "growing from", "fully over", "from face to face", "up to"}),
        slot("over", "faces that give way", SlotType::Faces),
        slot("between", "the two faces", SlotType::Faces),
        slot("line", "line up to which it goes", SlotType::Edges),
        length("radius", "radius", "1 mm", 1000),
        choice("change", "how it changes on the way", {"evenly", "by way of"}),
        length("mid radius", "radius on the way", "2 mm", 1000),
        factor("mid place", "at this share of the way", "0.5", 0.99),
        choice("change 2", "how it changes then", {"on", "then by way of"}),
        length("mid radius 2", "second radius on the way", "2 mm", 1000),
        factor("mid place 2", "at this share of the way", "0.75", 0.99),
        far,
        way,
        choice("rest", "more edges", {"only", "and"}),
        slot("edges 2", "more edges", SlotType::Edges),
        length("radius 2", "their radius", "2 mm", 1000),
        choice("rest 2", "more edges", {"only", "and"}),
        slot("edges 3", "more edges", SlotType::Edges),
        length("radius 3", "their radius", "3 mm", 1000),
        choice("corners", "how corners are", {"rolling over corners", "with corners set back by"}),
        length("set back", "how far before a corner rounds end", "6 mm", 1000)};
    w.sentence = {{"Fillet", ""},
                  {"", "edges", hasEdges},
                  {"", "how"},
                  {"", "over", isFull},
                  {"", "between", isAcross},
                  {"by", "", isAcross},
                  {"", "line", isHeld},
                  {"", "radius", hasRadius},
                  {"", "change", grows},
                  {"", "mid radius", hasPlace},
                  {"at", "", hasPlace},
                  {"", "mid place", hasPlace},
                  {"of the way", "", hasPlace},
                  {"", "change 2", hasPlace},
                  {"", "mid radius 2", hasSecondPlace},
                  {"at", "", hasSecondPlace},
                  {"", "mid place 2", hasSecondPlace},
                  {"of the way", "", hasSecondPlace},
                  {"to", "", grows},
                  {"", "far radius", grows},
                  {"", "way", grows},
                  {"", "rest", isRolled, true},
                  {"", "edges 2", hasSecond},
                  {"by", "", hasSecond},
                  {"", "radius 2", hasSecond},
                  {"", "rest 2", hasSecond, true},
                  {"", "edges 3", hasThird},
                  {"by", "", hasThird},
                  {"", "radius 3", hasThird},
                  {"", "corners", isRolled, true},
                  {"", "set back", isSetBack},
                  {".", ""}};
    return w;
}

} // namespace

StepKind filletKind() {
    StepKind k{filletWords()};
    k.decidingSlot = "radius";
    return k;
}

} // namespace gc
