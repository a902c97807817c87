// Extrude: the areas of a drawing moved along its normal.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

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
bool leans(const Step& s) {
    return s.text("sides").starts_with("leaning");
}
bool leansBack(const Step& s) {
    return leans(s) && (isBothWays(s) || (byLength(s) && s.text("way") == "both ways together"));
}
bool leansBackOtherwise(const Step& s) {
    return leansBack(s) && s.text("back sides").ends_with("by");
}
bool isLifted(const Step& s) {
    return s.text("begin") == "a level at";
}
bool fromFace(const Step& s) {
    return s.text("begin") == "a face";
}

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
    fillTarget(step, part);
    // With a body there, most extrudes add to it.
    if (!namesOf(part, Thing::Body).empty()) step.slots["does"] = std::string("adding to");
}

SlotWords level() {
    SlotWords s = length("level", "distance from the drawing", "5 mm", 5000);
    s.least = -5000;
    return s;
}

/// Its end may be dragged to a face or a corner instead.
SlotWords reachingLength() {
    SlotWords s = length("length", "length", "10 mm", 5000);
    s.reaches = {"end", "by", "to", "face", "to the level of", "point"};
    return s;
}

/// From upright; beyond 80 degrees it would be a roof.
SlotWords angle(std::string key, std::string label, std::string fallback) {
    SlotWords s = slot(std::move(key), std::move(label), SlotType::Quantity, std::move(fallback));
    s.dimension = kAngle;
    s.leastAllowed = true;
    s.most = std::numbers::pi * 80 / 180;
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
        choice("begin", "where it begins", {"the drawing", "a level at", "a face"}),
        level(),
        slot("begin face", "face to begin at", SlotType::Face),
        choice("end", "how far it goes",
               {"by", "to", "short of", "beyond", "to the next wall", "to the far side", "to the level of"}),
        reachingLength(),
        choice("way", "way", {"forward", "backward", "both ways together", "forward, and back by"}),
        length("second", "length back", "10 mm", 5000),
        slot("face", "face to end at", SlotType::Face),
        length("gap", "distance from the face", "1 mm", 1000),
        slot("point", "point to reach", SlotType::Point),
        choice("sense", "which way", {"forward", "backward"}),
        choice("sides", "how its sides run",
               {"straight", "leaning inward by", "leaning outward by", "along"}),
        angle("lean", "lean of the sides", "3°"),
        choice("back sides", "how its sides lean behind the drawing",
               {"as much", "not at all", "inward by", "outward by"}),
        angle("back lean", "lean behind the drawing", "3°"),
        slot("line", "line that its sides run along", SlotType::Edge)};
    const auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    w.sentence = {{"Extrude", ""}, {"", "outline"}, {",", "", oneArea}, {"", "area", oneArea}};
    addFilling(w);
    const std::vector<SentencePiece> rest{{"from", ""},
                                          {"", "begin"},
                                          {"", "level", isLifted},
                                          {"", "begin face", fromFace},
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
                                          {"", "lean", leans},
                                          {", behind the drawing", "", leansBack},
                                          {"", "back sides", leansBack},
                                          {"", "back lean", leansBackOtherwise},
                                          {"", "line", isSlanted}};
    w.sentence.insert(w.sentence.end(), rest.begin(), rest.end());
    addBecoming(w);
    return w;
}

} // namespace

StepKind extrudeKind() {
    StepKind k{extrudeWords()};
    k.roles = {{"side", true},          {"far side", true}, {"cap", true}, {"back side", true},
               {"back far side", true}, {"back cap", true}, {"start"},     {"end"}};
    k.tried = {{"length", {"mass", "volume", "width", "depth", "height", "fill brim", "fill line"}}};
    k.defaults = fillIn;
    k.roleInWords = strokeOf;
    return k;
}

} // namespace gc
