// Plane: a plane to draw on.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

constexpr double kTurn = 2 * std::numbers::pi;

bool isWay(const Step& s, const char* way) {
    return s.text("way") == way;
}

StepWords planeWords() {
    StepWords w{
        "plane",   "Plane", "A plane to draw on: beside another, through points or edges, touching a face",
        "lean on", "Form",  {},
        {}};
    SlotWords distance = length("distance", "distance", "10 mm");
    distance.least = -2000;
    distance.leastAllowed = true;
    const SlotWords angle = turnEitherWay("angle", "angle", "45°", kTurn);
    SlotWords along = slot("along", "part of its length", SlotType::Quantity, "1/2");
    along.dimension = kNumber;
    along.leastAllowed = true;
    along.most = 1;
    w.slots = {naming(Thing::Plane, "name", "datum"),
               choice("way", "way",
                      {"away from", "through points", "through an edge", "across an edge", "touching",
                       "midway between"}),
               slot("from", "plane", SlotType::PlaneRef, "ground"),
               distance,
               slot("points", "points", SlotType::Points),
               slot("edge", "edge", SlotType::Edge),
               angle,
               along,
               slot("face", "face", SlotType::Face),
               slot("point", "spot", SlotType::Point),
               slot("to", "second plane", SlotType::PlaneRef)};
    constexpr auto away = [](const Step& s) { return isWay(s, "away from"); };
    constexpr auto points = [](const Step& s) { return isWay(s, "through points"); };
    constexpr auto edge = [](const Step& s) { return isWay(s, "through an edge"); };
    constexpr auto across = [](const Step& s) { return isWay(s, "across an edge"); };
    constexpr auto touches = [](const Step& s) { return isWay(s, "touching"); };
    constexpr auto midway = [](const Step& s) { return isWay(s, "midway between"); };
    constexpr auto onEdge = [](const Step& s) {
        return isWay(s, "through an edge") || isWay(s, "across an edge");
    };
    constexpr auto fromFirst = [](const Step& s) {
        return isWay(s, "away from") || isWay(s, "midway between");
    };
    w.sentence = {{"Plane", ""},
                  {"", "name"},
                  {",", ""},
                  {"", "distance", away},
                  {"", "way"},
                  {"", "points", points},
                  {"", "edge", onEdge},
                  {"at", "", edge},
                  {"", "angle", edge},
                  {"to", "", edge},
                  {"", "from", edge},
                  {"at", "", across},
                  {"", "along", across},
                  {"of its length", "", across},
                  {"", "face", touches},
                  {"at", "", touches},
                  {"", "point", touches},
                  {"", "from", fromFirst},
                  {"and", "", midway},
                  {"", "to", midway},
                  {".", ""}};
    return w;
}

} // namespace

StepKind planeKind() {
    return {planeWords()};
}

} // namespace gc
