// Curve: a line in space: to sweep along, to guide, to follow.

#include "core/document/axes.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

constexpr const char* kHelix = "a helix about";
constexpr const char* kPoints = "through points";
constexpr const char* kOnFaces = "a line on faces";
constexpr const char* kBridge = "a bridge between";
constexpr const char* kMeeting = "where faces meet";

bool isHelix(const Step& s) {
    return s.text("way") == kHelix;
}
bool usesPitch(const Step& s) {
    return isHelix(s) && s.text("sized") != "by height and turns";
}
bool usesTurns(const Step& s) {
    return isHelix(s) && s.text("sized") != "by height and pitch";
}
bool usesHeight(const Step& s) {
    return isHelix(s) && s.text("sized") != "by pitch and turns";
}
bool tapers(const Step& s) {
    return isHelix(s) && s.text("shape") == "tapering to";
}
bool isThroughPoints(const Step& s) {
    return s.text("way") == kPoints;
}
bool isOnFaces(const Step& s) {
    return s.text("way") == kOnFaces;
}
bool isBridge(const Step& s) {
    return s.text("way") == kBridge;
}

SlotWords turns() {
    SlotWords s = slot("turns", "turns", SlotType::Quantity, "3");
    s.dimension = kNumber;
    s.most = 500;
    return s;
}

SlotWords hand() {
    SlotWords s = choice("hand", "hand", {"right-handed", "left-handed"});
    s.flips = {"right-handed", "left-handed"};
    return s;
}

SlotWords startAngle() {
    return turnEitherWay("start", "angle at its beginning", "0°", 2 * std::numbers::pi);
}

SlotWords level() {
    SlotWords s = length("level", "level of its beginning along the axis", "0 mm", 5000);
    s.least = -5000;
    return s;
}

bool isMeeting(const Step& s) {
    return s.text("way") == kMeeting;
}
bool meetsFaces(const Step& s) {
    return isMeeting(s) && s.text("meets") == "and the faces";
}
bool meetsPlane(const Step& s) {
    return isMeeting(s) && s.text("meets") == "and the plane";
}
bool isNearest(const Step& s) {
    return isMeeting(s) && s.text("which") == "the line nearest to";
}

std::vector<SentencePiece> sentence() {
    return {{"Curve", ""},
            {"", "name"},
            {",", ""},
            {"", "way"},
            {"", "about", isHelix},
            {", radius", "", isHelix},
            {"", "radius", isHelix},
            {"", "shape", isHelix},
            {"", "far radius", tapers},
            {",", "", isHelix},
            {"", "sized", isHelix},
            {"", "height", usesHeight},
            {"", "pitch", usesPitch},
            {"", "turns", usesTurns},
            {"turns", "", usesTurns},
            {",", "", isHelix},
            {"", "hand", isHelix},
            {"from", "", isHelix},
            {"", "start", isHelix},
            {"at", "", isHelix},
            {"", "level", isHelix},
            {"", "points", isThroughPoints},
            {":", "", isOnFaces},
            {"", "line", isOnFaces},
            {"onto", "", isOnFaces},
            {"", "faces", isOnFaces},
            {"", "towards", isOnFaces},
            {"", "from", isBridge},
            {"and", "", isBridge},
            {"", "to", isBridge},
            {",", "", isBridge},
            {"", "ends", isBridge},
            {":", "", isMeeting},
            {"", "meeting", isMeeting},
            {"", "meets", isMeeting},
            {"", "others", meetsFaces},
            {"", "plane", meetsPlane},
            {",", "", isMeeting},
            {"", "which", isMeeting},
            {"", "near", isNearest},
            {".", ""}};
}

SlotWords needed(SlotWords s) {
    s.needed = true;
    return s;
}

StepWords curveWords() {
    StepWords w{"curve",
                "Curve",
                "A line in space to sweep along: a helix, through points, on a wall, between two ends, where "
                "faces meet",
                "lean on",
                "Form",
                {},
                {}};
    w.slots = {naming(Thing::Curve, "name", "curve"),
               choice("way", "way", {kHelix, kPoints, kOnFaces, kBridge, kMeeting}),
               slot("about", "axis", SlotType::AxisRef, "upright axis"),
               length("radius", "radius", "12 mm", 5000),
               choice("shape", "shape", {"all along", "tapering to"}),
               length("far radius", "radius at its end", "6 mm", 5000),
               choice("sized", "how it is sized",
                      {"by pitch and turns", "by height and turns", "by height and pitch"}),
               length("height", "height", "18 mm", 5000),
               length("pitch", "pitch", "6 mm", 5000),
               turns(),
               hand(),
               startAngle(),
               level(),
               slot("points", "points", SlotType::Points),
               slot("line", "line", SlotType::Curves),
               needed(slot("faces", "faces", SlotType::Faces)),
               choice("towards", "how it comes onto them", {"straight ahead", "square to them"}),
               slot("from", "line that it leaves", SlotType::Curves),
               slot("to", "line that it reaches", SlotType::Curves),
               choice("ends", "how it meets them", {"tangent", "with even curvature"}),
               needed(slot("meeting", "faces that meet", SlotType::Faces)),
               choice("meets", "what they meet", {"and the faces", "and the plane"}),
               slot("others", "faces that they meet", SlotType::Faces),
               slot("plane", "plane that they meet", SlotType::PlaneRef, "front"),
               choice("which", "which line, where there are several",
                      {"the only line", "the longest line", "the line nearest to"}),
               slot("near", "point near it", SlotType::Points)};
    w.sentence = sentence();
    return w;
}

} // namespace

StepKind curveKind() {
    return {curveWords()};
}

} // namespace gc
