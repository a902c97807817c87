// Draft: walls that lean, so that the part comes out of its mould.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

bool byFaces(const Step& s) {
    return s.text("which") == "the walls";
}
bool byBody(const Step& s) {
    return !byFaces(s);
}

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "body", Thing::Body);
}

StepWords draftWords() {
    StepWords w{
        "draft", "Draft", "Lean walls so that the part comes out of its mould", "hollow and lean", "Finish",
        {},      {}};
    SlotWords angle = gc::angle("angle", "lean", "2°", 60 * std::numbers::pi / 180);
    SlotWords sense = choice("sense", "how they lean", {"narrowing", "widening"});
    sense.flips = {"narrowing", "widening"};
    w.slots = {choice("which", "which walls", {"the walls", "all walls of"}),
               slot("faces", "walls", SlotType::Faces),
               slot("body", "body", SlotType::BodyRef, "body"),
               angle,
               sense,
               choice("ways", "which way", {"from", "both ways from"}),
               slot("plane", "level that keeps its size", SlotType::PlaneRef, "ground")};
    w.sentence = {{"Draft", ""}, {"", "which"}, {"", "faces", byFaces}, {"", "body", byBody}, {"by", ""},
                  {"", "angle"}, {",", ""},     {"", "sense"},          {"", "ways"},         {"", "plane"},
                  {".", ""}};
    return w;
}

} // namespace

StepKind draftKind() {
    StepKind k{draftWords()};
    k.decidingSlot = "angle";
    k.defaults = fillIn;
    return k;
}

} // namespace gc
