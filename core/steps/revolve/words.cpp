// Revolve: an outline turned about its axis into a body.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

constexpr double kTurn = 2 * std::numbers::pi;

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
}

/// A face that a stroke of a drawing made is called by the stroke.
std::string strokeOf(const Step& step, const Part& part, const std::string& role) {
    return strokeInWords(part, step.text("outline"), role);
}

StepWords revolveWords() {
    StepWords w{"revolve", "Revolve", "Turn an outline about the axis into a body", "add material", "Form",
                {},        {}};
    SlotWords angle = slot("angle", "angle", SlotType::Quantity, "360°");
    angle.dimension = kAngle;
    angle.most = kTurn * (1 + 1e-12);
    w.slots = {slot("outline", "outline", SlotType::OutlineRef, "wall line"), angle,
               naming(Thing::Body, "body", "body"), slot("area", "area", SlotType::AreaRef)};
    const auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    w.sentence = {{"Revolve", ""},    {"", "outline"},
                  {",", "", oneArea}, {"", "area", oneArea},
                  {",", "", oneArea}, {"about the axis by", ""},
                  {"", "angle"},      {", new body", ""},
                  {"", "body"},       {".", ""}};
    return w;
}

} // namespace

StepKind revolveKind() {
    StepKind k{revolveWords()};
    k.roles = {{"floor"}, {"wall"}, {"top"}, {"side", true}, {"start"}, {"end"}};
    k.defaults = fillIn;
    k.roleInWords = strokeOf;
    return k;
}

} // namespace gc
