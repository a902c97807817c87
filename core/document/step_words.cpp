#include "core/document/step_words.hpp"

#include "core/document/edit_words.hpp"
#include "core/document/part.hpp"
#include "core/document/planes.hpp"
#include "core/document/slot_words.hpp"

#include <algorithm>
#include <numbers>

namespace gc {

namespace {

constexpr double kTurn = 2 * std::numbers::pi;

bool hasInsideRows(const Step& step) {
    const auto& rows = step.stations("stations");
    return std::any_of(rows.begin(), rows.end(), [](const StationRow& r) { return r.inside; });
}

bool isRepeated(const Step& step) {
    return step.text("count") != "1";
}

StepWords outlineWords() {
    StepWords w{"outline",
                "Stations",
                "A fair profile through heights and diameters that you measured",
                "measure and draw",
                "Outline",
                {},
                {}};
    SlotWords tolerance = length("tolerance", "tolerance", "0.1 mm", 50);
    tolerance.leastAllowed = true;
    w.slots = {slot("name", "name", SlotType::NewName, "wall line"),
               slot("stations", "stations", SlotType::Stations), tolerance,
               length("wall", "wall of inside rows", "2 mm")};
    w.sentence = {{"Outline", ""},
                  {"", "name"},
                  {"from", ""},
                  {"", "stations"},
                  {", fair within", ""},
                  {"", "tolerance"},
                  {", inside rows plus", "", hasInsideRows},
                  {"", "wall", hasInsideRows},
                  {".", ""}};
    return w;
}

StepWords drawWords() {
    StepWords w{"draw",
                "Drawing",
                "A profile of lines and curves, related and dimensioned",
                "measure and draw",
                "Outline",
                {},
                {}};
    w.slots = {slot("name", "name", SlotType::NewName, "profile"),
               slot("plane", "plane", SlotType::PlaneRef, "front"), choice("seen", "seen", seenChoices()),
               choice("up", "way up", upChoices()), slot("drawing", "drawing", SlotType::Drawing)};
    const auto behind = [](const Step& s) { return s.text("seen") != seenChoices()[0]; };
    const auto turned = [](const Step& s) { return s.text("up") != upChoices()[0]; };
    w.sentence = {{"Draw", ""},         {"", "name"},         {"on", ""},        {"", "plane"},
                  {"seen", "", behind}, {"", "seen", behind}, {",", "", turned}, {"", "up", turned},
                  {",", "", turned},    {"with", ""},         {"", "drawing"},   {".", ""}};
    return w;
}

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
    SlotWords angle = slot("angle", "angle", SlotType::Quantity, "45°");
    angle.dimension = kAngle;
    angle.least = -kTurn;
    angle.leastAllowed = true;
    angle.most = kTurn;
    SlotWords along = slot("along", "part of its length", SlotType::Quantity, "1/2");
    along.dimension = kNumber;
    along.leastAllowed = true;
    along.most = 1;
    w.slots = {slot("name", "name", SlotType::NewName, "datum"),
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

StepWords revolveWords() {
    StepWords w{"revolve", "Revolve", "Turn an outline about the axis into a body", "add material", "Form",
                {},        {}};
    SlotWords angle = slot("angle", "angle", SlotType::Quantity, "360°");
    angle.dimension = kAngle;
    angle.most = kTurn * (1 + 1e-12);
    w.slots = {slot("outline", "outline", SlotType::OutlineRef, "wall line"), angle,
               slot("body", "body", SlotType::NewName, "body"), slot("area", "area", SlotType::AreaRef)};
    const auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    w.sentence = {{"Revolve", ""},    {"", "outline"},
                  {",", "", oneArea}, {"", "area", oneArea},
                  {",", "", oneArea}, {"about the axis by", ""},
                  {"", "angle"},      {", new body", ""},
                  {"", "body"},       {".", ""}};
    return w;
}

StepWords importWords() {
    StepWords w{"import", "Import", "Bring in a body from a STEP file", "add material", "Form", {}, {}};
    w.slots = {slot("file", "file", SlotType::File), slot("body", "body", SlotType::NewName, "imported")};
    w.sentence = {{"Import", ""}, {"", "file"}, {"as new body", ""}, {"", "body"}, {".", ""}};
    return w;
}

StepWords shellWords() {
    StepWords w{"shell", "Shell", "Hollow a body to an even wall", "hollow and lean", "Finish", {}, {}};
    w.slots = {slot("body", "body", SlotType::BodyRef, "body"), slot("open", "open faces", SlotType::Faces),
               length("wall", "wall", "2.4 mm", 200), choice("side", "side", {"inward", "outward"})};
    w.sentence = {{"Shell", ""},      {"", "body"}, {"leaving", ""}, {"", "open"},
                  {"open, wall", ""}, {"", "wall"}, {"", "side"},    {".", ""}};
    return w;
}

StepWords filletWords() {
    StepWords w{"fillet", "Fillet", "Round edges with one radius", "shape edges", "Finish", {}, {}};
    w.slots = {slot("edges", "edges", SlotType::Edges), length("radius", "radius", "1 mm", 1000)};
    w.sentence = {{"Fillet", ""}, {"", "edges"}, {"by", ""}, {"", "radius"}, {".", ""}};
    return w;
}

StepWords holeWords() {
    StepWords w{"hole", "Hole", "Drill through a wall, once or around the axis", "detail", "Finish", {}, {}};
    SlotWords diameter = length("diameter", "diameter", "6 mm", 1000);
    diameter.prefix = "⌀ ";
    SlotWords count = slot("count", "count", SlotType::Count, "1");
    count.least = 1;
    count.most = 500;
    SlotWords circle = length("circle", "circle", "40 mm");
    circle.prefix = "⌀ ";
    circle.leastAllowed = true;
    SlotWords lean = slot("lean", "lean", SlotType::Quantity, "0°");
    lean.dimension = kAngle;
    lean.leastAllowed = true;
    lean.most = kTurn / 8;
    w.slots = {diameter, slot("face", "face", SlotType::Face), count, circle, lean};
    w.sentence = {{"Hole", ""},
                  {"", "diameter"},
                  {"through", ""},
                  {"", "face"},
                  {",", ""},
                  {"", "count"},
                  {"around the axis on", "", isRepeated},
                  {"", "circle", isRepeated},
                  {"on the axis", "", [](const Step& s) { return !isRepeated(s); }},
                  {", leaning", ""},
                  {"", "lean"},
                  {".", ""}};
    return w;
}

} // namespace

bool holdsOne(SlotType type) {
    return type == SlotType::Face || type == SlotType::Edge || type == SlotType::Point;
}

bool holdsReferences(SlotType type) {
    return holdsOne(type) || type == SlotType::Faces || type == SlotType::Edges || type == SlotType::Points;
}

std::string whyNoReference(SlotType type, const std::string& text) {
    const bool edge = type == SlotType::Edge || type == SlotType::Edges;
    const bool point = type == SlotType::Point || type == SlotType::Points;
    const bool good = edge    ? parseEdgeRef(text).ok()
                      : point ? parsePointRef(text).ok()
                              : parseFaceRef(text).ok();
    return good ? std::string() : "The reference \"" + text + "\" is not understood.";
}

const SlotWords* StepWords::slot(const std::string& key) const {
    const auto it =
        std::find_if(slots.begin(), slots.end(), [&](const SlotWords& s) { return s.key == key; });
    return it == slots.end() ? nullptr : &*it;
}

const std::vector<StepWords>& allStepWords() {
    static const std::vector<StepWords> all{outlineWords(), drawWords(),  revolveWords(), importWords(),
                                            planeWords(),   shellWords(), filletWords(),  holeWords()};
    return all;
}

const StepWords* findWords(const std::string& kind) {
    if (const StepWords* step = findStepWords(kind)) return step;
    const auto& all = allEditWords();
    const auto it = std::find_if(all.begin(), all.end(), [&](const StepWords& w) { return w.kind == kind; });
    return it == all.end() ? nullptr : &*it;
}

const StepWords* findStepWords(const std::string& kind) {
    const auto& all = allStepWords();
    const auto it = std::find_if(all.begin(), all.end(), [&](const StepWords& w) { return w.kind == kind; });
    return it == all.end() ? nullptr : &*it;
}

} // namespace gc
