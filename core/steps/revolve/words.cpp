// Revolve: an outline turned about its axis into a body.

#include "core/steps/shared/words.hpp"
#include "core/document/axes.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

constexpr double kTurn = 2 * std::numbers::pi;

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
    fillTarget(step, part);
}

/// A face that a stroke of a drawing made is called by the stroke.
std::string strokeOf(const Step& step, const Part& part, const std::string& role) {
    return strokeInWords(part, step.text("outline"), role);
}

bool byAngle(const Step& s) {
    return s.text("end") == "by";
}
bool toFace(const Step& s) {
    return !byAngle(s);
}
/// A whole turn has no way.
bool hasWay(const Step& s) {
    return byAngle(s) && s.text("angle") != "360°";
}
bool isBothWays(const Step& s) {
    return hasWay(s) && s.text("way") == "forward, and back by";
}

SlotWords turn(std::string key, std::string label, std::string fallback) {
    SlotWords s = slot(std::move(key), std::move(label), SlotType::Quantity, std::move(fallback));
    s.dimension = kAngle;
    s.most = kTurn * (1 + 1e-12);
    return s;
}

StepWords revolveWords() {
    StepWords w{"revolve",
                "Revolve",
                "Turn an outline about an axis, to make, add or take a solid",
                "add material",
                "Form",
                {},
                {}};
    w.slots = {slot("outline", "outline", SlotType::OutlineRef, "wall line"),
               slot("area", "area", SlotType::AreaRef),
               slot("about", "axis", SlotType::AxisRef, kOwnAxis),
               choice("end", "how far it goes", {"by", "to"}),
               turn("angle", "angle", "360°"),
               choice("way", "way", {"forward", "backward", "both ways together", "forward, and back by"}),
               turn("second", "angle back", "30°"),
               slot("face", "face to end at", SlotType::Face),
               choice("sense", "which way", {"forward", "backward"})};
    const auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    w.sentence = {{"Revolve", ""}, {"", "outline"}, {",", "", oneArea}, {"", "area", oneArea}};
    addFilling(w);
    const std::vector<SentencePiece> rest{{"about", ""},        {"", "about"},
                                          {"", "end"},          {"", "angle", byAngle},
                                          {"", "way", hasWay},  {"", "second", isBothWays},
                                          {"", "face", toFace}, {"", "sense", toFace}};
    w.sentence.insert(w.sentence.end(), rest.begin(), rest.end());
    addBecoming(w);
    return w;
}

} // namespace

StepKind revolveKind() {
    StepKind k{revolveWords()};
    k.roles = {{"floor"},          {"wall"},      {"top"},   {"side", true},
               {"far side", true}, {"cap", true}, {"start"}, {"end"}};
    k.defaults = fillIn;
    k.roleInWords = strokeOf;
    return k;
}

} // namespace gc
