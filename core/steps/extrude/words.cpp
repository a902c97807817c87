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
bool byLength(const Step& s) {
    return s.text("end") == "by";
}
bool isBothWays(const Step& s) {
    return byLength(s) && s.text("way") == "forward, and back by";
}
bool isShortOrBeyond(const Step& s) {
    return s.text("end") == "short of" || s.text("end") == "beyond";
}
bool toFace(const Step& s) {
    return s.text("end") == "to" || isShortOrBeyond(s);
}
bool toPoint(const Step& s) {
    return s.text("end") == "to the level of";
}
bool hasSense(const Step& s) {
    return !byLength(s) && !toPoint(s);
}
bool isSlanted(const Step& s) {
    return s.text("sides") == "along";
}
bool isLifted(const Step& s) {
    return s.text("begin") != "the drawing";
}

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
    fillWithLatest(step, part, "target", Thing::Body);
    // With a body there, most extrudes add to it.
    if (!namesOf(part, Thing::Body).empty()) step.slots["does"] = std::string("adding to");
}

SlotWords level() {
    SlotWords s = length("level", "distance from the drawing", "5 mm", 5000);
    s.least = -5000;
    return s;
}

/// A face that a stroke of a drawing made is called by the stroke.
std::string strokeOf(const Step& step, const Part& part, const std::string& role) {
    return strokeInWords(part, step.text("outline"), role);
}

StepWords extrudeWords() {
    StepWords w{
        "extrude", "Extrude", "Move a drawn area along, to make, add or take a solid", "add material", "Form",
        {},        {}};
    w.slots = {
        slot("outline", "outline", SlotType::OutlineRef, "profile"),
        slot("area", "area", SlotType::AreaRef),
        choice("begin", "where it begins", {"the drawing", "a level at"}),
        level(),
        choice("end", "how far it goes",
               {"by", "to", "short of", "beyond", "to the next wall", "to the far side", "to the level of"}),
        length("length", "length", "10 mm", 5000),
        choice("way", "way", {"forward", "backward", "both ways together", "forward, and back by"}),
        length("second", "length back", "10 mm", 5000),
        slot("face", "face to end at", SlotType::Face),
        length("gap", "distance from the face", "1 mm", 1000),
        slot("point", "point to reach", SlotType::Point),
        choice("sense", "which way", {"forward", "backward"}),
        choice("sides", "how its sides run", {"straight", "along"}),
        slot("line", "line that its sides run along", SlotType::Edge),
        choice("does", "what it does", {"as new body", "adding to", "taking from", "common with"}),
        naming(Thing::Body, "body", "body"),
        slot("target", "body to work on", SlotType::BodyRef, "body")};
    const auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    const auto onBody = [](const Step& s) { return !isNew(s); };
    w.sentence = {{"Extrude", ""},
                  {"", "outline"},
                  {",", "", oneArea},
                  {"", "area", oneArea},
                  {",", "", oneArea},
                  {"from", ""},
                  {"", "begin"},
                  {"", "level", isLifted},
                  {"", "end"},
                  {"", "length", byLength},
                  {"", "way", byLength},
                  {"", "second", isBothWays},
                  {"", "face", toFace},
                  {"by", "", isShortOrBeyond},
                  {"", "gap", isShortOrBeyond},
                  {"", "point", toPoint},
                  {"", "sense", hasSense},
                  {",", ""},
                  {"", "sides"},
                  {"", "line", isSlanted},
                  {",", ""},
                  {"", "does"},
                  {"", "body", isNew},
                  {"", "target", onBody},
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
