// Extrude: the areas of a drawing moved along its normal.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

bool isNew(const Step& s) {
    return s.text("does") == "as new body";
}

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
    fillWithLatest(step, part, "target", Thing::Body);
    // With a body there, most extrudes add to it.
    if (!namesOf(part, Thing::Body).empty()) step.slots["does"] = std::string("adding to");
}

/// A face that a stroke of a drawing made is called by the stroke.
std::string strokeOf(const Step& step, const Part& part, const std::string& role) {
    return strokeInWords(part, step.text("outline"), role);
}

StepWords extrudeWords() {
    StepWords w{
        "extrude", "Extrude", "Move a drawn area along, to make, add or take a solid", "add material", "Form",
        {},        {}};
    w.slots = {slot("outline", "outline", SlotType::OutlineRef, "profile"),
               slot("area", "area", SlotType::AreaRef),
               length("length", "length", "10 mm", 5000),
               choice("way", "way", {"forward", "backward", "both ways together"}),
               choice("does", "what it does", {"as new body", "adding to", "taking from", "common with"}),
               naming(Thing::Body, "body", "body"),
               slot("target", "body to work on", SlotType::BodyRef, "body")};
    const auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    const auto onBody = [](const Step& s) { return !isNew(s); };
    w.sentence = {{"Extrude", ""},    {"", "outline"}, {",", "", oneArea},  {"", "area", oneArea},
                  {",", "", oneArea}, {"by", ""},      {"", "length"},      {"", "way"},
                  {",", ""},          {"", "does"},    {"", "body", isNew}, {"", "target", onBody},
                  {".", ""}};
    return w;
}

} // namespace

StepKind extrudeKind() {
    StepKind k{extrudeWords()};
    k.roles = {{"side", true}, {"start"}, {"end"}};
    k.tried = {{"length", {"mass", "volume", "width", "depth", "height", "fill brim", "fill line"}}};
    k.defaults = fillIn;
    k.roleInWords = strokeOf;
    return k;
}

} // namespace gc
