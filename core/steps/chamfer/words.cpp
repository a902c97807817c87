// Chamfer: edges cut off flat.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

constexpr const char* kLengths = "by two lengths,";
constexpr const char* kLengthAndAngle = "by a length and an angle,";

bool hasSides(const Step& s) {
    return s.text("how") != "by";
}
bool byLengths(const Step& s) {
    return s.text("how") == kLengths;
}
bool byAngle(const Step& s) {
    return s.text("how") == kLengthAndAngle;
}

StepWords chamferWords() {
    StepWords w{"chamfer", "Chamfer", "Cut edges off flat", "shape edges", "Finish", {}, {}};
    SlotWords side = choice("where", "where the first length is", {"on", "beside"});
    side.flips = {"on", "beside"};
    SlotWords angle = gc::angle("angle", "angle to that face", "45°", std::numbers::pi / 2 - 0.01);
    w.slots = {slot("edges", "edges", SlotType::Edges),
               choice("how", "how it is sized", {"by", kLengths, kLengthAndAngle}),
               length("size", "length", "1 mm", 1000),
               side,
               slot("face", "face beside the edges", SlotType::Faces),
               length("second", "length on the other side", "2 mm", 1000),
               angle};
    w.sentence = {{"Chamfer", ""},
                  {"", "edges"},
                  {"", "how"},
                  {"", "size"},
                  {"", "where", hasSides},
                  {"", "face", hasSides},
                  {"and", "", byLengths},
                  {"", "second", byLengths},
                  {"on the other side", "", byLengths},
                  {"at", "", byAngle},
                  {"", "angle", byAngle},
                  {".", ""}};
    return w;
}

} // namespace

StepKind chamferKind() {
    StepKind k{chamferWords()};
    k.decidingSlot = "size";
    return k;
}

} // namespace gc
