// Axis: a line to turn about, to run along, to lay things out around.

#include "core/document/axes.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

constexpr const char* kMeet = "where planes meet";
constexpr const char* kAlong = "along";
constexpr const char* kPoints = "through points";
constexpr const char* kSquare = "square to a face";
constexpr const char* kArea = "through the middle of";

bool isWay(const Step& s, const char* way) {
    return s.text("way") == way;
}

StepWords axisWords() {
    StepWords w{"axis",    "Axis", "A line to turn about: of an edge, a round face, two planes, points",
                "lean on", "Form", {},
                {}};
    w.slots = {naming(Thing::Axis, "name", "axis"),
               choice("way", "way", {kAlong, kMeet, kPoints, kSquare, kArea}),
               slot("line", "edge, line or round face", SlotType::AxisRef),
               slot("from", "plane", SlotType::PlaneRef, "front"),
               slot("to", "second plane", SlotType::PlaneRef, "side"),
               slot("points", "points", SlotType::Points),
               slot("face", "face", SlotType::Face),
               slot("point", "spot", SlotType::Point),
               slot("outline", "drawing", SlotType::OutlineRef),
               slot("area", "area", SlotType::AreaRef)};
    constexpr auto meet = [](const Step& s) { return isWay(s, kMeet); };
    constexpr auto along = [](const Step& s) { return isWay(s, kAlong); };
    constexpr auto points = [](const Step& s) { return isWay(s, kPoints); };
    constexpr auto square = [](const Step& s) { return isWay(s, kSquare); };
    constexpr auto area = [](const Step& s) { return isWay(s, kArea); };
    w.sentence = {{"Axis", ""},           {"", "name"},         {",", ""},          {"", "way"},
                  {"", "line", along},    {"", "from", meet},   {"and", "", meet},  {"", "to", meet},
                  {"", "points", points}, {"", "face", square}, {"at", "", square}, {"", "point", square},
                  {"", "outline", area},  {",", "", area},      {"", "area", area}, {".", ""}};
    return w;
}

} // namespace

StepKind axisKind() {
    return {axisWords()};
}

} // namespace gc
