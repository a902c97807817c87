#include "core/document/edit_words.hpp"

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"

#include <numbers>

namespace gc {

namespace {

SlotWords signedLength(std::string key, std::string label, std::string fallback) {
    SlotWords s = length(std::move(key), std::move(label), std::move(fallback), 1e6);
    s.least = -1e6;
    return s;
}

SlotWords angle(std::string key, std::string fallback) {
    SlotWords s = slot(std::move(key), "angle", SlotType::Quantity, std::move(fallback));
    s.dimension = kAngle;
    s.least = -2 * std::numbers::pi;
    s.most = 2 * std::numbers::pi;
    s.leastAllowed = true;
    return s;
}

SlotWords count(std::string key, std::string label, std::string fallback, double least) {
    SlotWords s = slot(std::move(key), std::move(label), SlotType::Count, std::move(fallback));
    s.least = least;
    s.most = 400;
    return s;
}

/// A point to turn about.
SlotWords centre() {
    return choice("centre", "centre", {"the origin", "the point chosen last", "their middle"});
}

SlotWords whose() {
    return choice("whose", "them or a copy", {"them", "a copy"});
}

StepWords edit(std::string kind, std::string verb, std::string purpose) {
    return {"edit:" + std::move(kind),
            std::move(verb),
            std::move(purpose),
            "change what is chosen",
            "Outline",
            {},
            {}};
}

StepWords offsetWords() {
    StepWords w = edit("offset", "Offset", "The outline at an even distance: a wall, a band");
    w.slots = {length("distance", "distance", "2 mm"),
               choice("side", "side", {"inside", "outside", "on both sides"}),
               choice("corners", "corners", {"sharp", "round"}),
               choice("ends", "ends", {"open", "closed flat", "closed round"})};
    w.sentence = {{"Offset by", ""}, {"", "distance"}, {"", "side"}, {", corners", ""},
                  {"", "corners"},   {", ends", ""},   {"", "ends"}, {".", ""}};
    return w;
}

StepWords mirrorWords() {
    StepWords w = edit("mirror", "Mirror", "A mirror image that follows");
    w.slots = {choice("line", "line", {"the axis", "the level line", "the line chosen last"})};
    w.sentence = {{"Mirror across", ""}, {"", "line"}, {".", ""}};
    return w;
}

StepWords roundWords() {
    StepWords w = edit("round", "Round", "Corners with one radius");
    w.slots = {length("radius", "radius", "3 mm")};
    w.sentence = {{"Round the corners by", ""}, {"", "radius"}, {".", ""}};
    return w;
}

StepWords chamferWords() {
    StepWords w = edit("chamfer", "Chamfer", "Corners cut off straight");
    w.slots = {length("first", "first length", "2 mm"), length("second", "second length", "2 mm")};
    w.sentence = {{"Chamfer the corners by", ""}, {"", "first"}, {"and", ""}, {"", "second"}, {".", ""}};
    return w;
}

/// A repeat that is changed keeps what it is about.
bool isNew(const Step& s) {
    return s.text("repeat").empty();
}
bool isChange(const Step& s) {
    return !isNew(s);
}

StepWords rowsWords() {
    StepWords w = edit("rows", "Rows", "Copies in rows that follow the first");
    w.slots = {count("columns", "number across", "3", 1), signedLength("across", "pitch across", "10 mm"),
               count("rows", "number up", "1", 1), signedLength("up", "pitch up", "10 mm")};
    w.sentence = {{"Repeat", ""},    {"", "columns"}, {"across, every", ""},
                  {"", "across"},    {", and", ""},   {"", "rows"},
                  {"up, every", ""}, {"", "up"},      {".", ""}};
    return w;
}

StepWords aroundWords() {
    StepWords w = edit("around", "Around", "Copies around a point that follow the first");
    w.slots = {count("count", "number", "6", 2),
               choice("centre", "centre", {"the origin", "the point chosen last"}),
               choice("spread", "spread", {"all the way round", "every"}), angle("angle", "30°")};
    const auto every = [](const Step& s) { return s.text("spread") == "every"; };
    w.sentence = {{"Repeat", ""},
                  {"", "count"},
                  {"around", "", isNew},
                  {"", "centre", isNew},
                  {"around their point", "", isChange},
                  {",", ""},
                  {"", "spread"},
                  {"", "angle", every},
                  {".", ""}};
    return w;
}

StepWords alongWords() {
    StepWords w = edit("along", "Along", "Copies evenly along the stroke chosen last");
    w.slots = {count("count", "number", "5", 2),
               choice("turning", "turning", {"turning with it", "all upright"})};
    w.sentence = {{"Repeat", ""},
                  {"", "count"},
                  {"along the stroke chosen last,", "", isNew},
                  {"along their stroke,", "", isChange},
                  {"", "turning"},
                  {".", ""}};
    return w;
}

StepWords moveWords() {
    StepWords w = edit("move", "Move", "By a distance across and up");
    w.slots = {whose(), signedLength("across", "way across", "10 mm"), signedLength("up", "way up", "0 mm")};
    w.sentence = {{"Move", ""},       {"", "whose"}, {"by", ""}, {"", "across"},
                  {"across and", ""}, {"", "up"},    {"up.", ""}};
    return w;
}

StepWords turnWords() {
    StepWords w = edit("turn", "Turn", "By an angle about a point");
    w.slots = {whose(), angle("angle", "30°"), centre()};
    w.sentence = {{"Turn", ""},  {"", "whose"},  {"by", ""}, {"", "angle"},
                  {"about", ""}, {"", "centre"}, {".", ""}};
    return w;
}

StepWords scaleWords() {
    StepWords w = edit("scale", "Scale", "Larger or smaller about a point");
    SlotWords factor = slot("factor", "factor", SlotType::Quantity, "2");
    factor.dimension = kNumber;
    factor.most = 1000;
    w.slots = {whose(), factor, centre()};
    w.sentence = {{"Scale", ""}, {"", "whose"},  {"by", ""}, {"", "factor"},
                  {"about", ""}, {"", "centre"}, {".", ""}};
    return w;
}

StepWords textWords() {
    StepWords w = edit("text", "Text", "Letters as strokes that move as one and stay a text");
    SlotWords spacing = length("spacing", "more between letters", "0 mm");
    spacing.least = -1000;
    w.slots = {slot("text", "text", SlotType::NewName, "Label"),
               length("height", "height of capitals", "8 mm"),
               slot("font", "font", SlotType::NewName, "Manrope"), spacing,
               choice("line", "what they stand on", {"on a straight line", "along the stroke chosen last"})};
    w.sentence = {{"Write", ""},  {"", "text"},     {", capitals", ""},
                  {"", "height"}, {"high, in", ""}, {"", "font"},
                  {",", ""},      {"", "spacing"},  {"more between letters,", ""},
                  {"", "line"},   {".", ""}};
    return w;
}

StepWords fairnessWords() {
    StepWords w = edit("fairness", "Fairness", "How near a fair curve keeps to its stations");
    w.slots = {length("within", "tolerance", "0.1 mm", 100)};
    w.sentence = {{"Keep the fair curve within", ""}, {"", "within"}, {"of its stations.", ""}};
    return w;
}

StepWords joinWords() {
    StepWords w = edit("join", "Join", "Two strokes as one, or at their nearest ends");
    w.sentence = {{"Join the two.", ""}};
    return w;
}

} // namespace

const std::vector<StepWords>& allEditWords() {
    static const std::vector<StepWords> all{
        offsetWords(), mirrorWords(), roundWords(), chamferWords(), rowsWords(), aroundWords(),  alongWords(),
        moveWords(),   turnWords(),   scaleWords(), textWords(),    joinWords(), fairnessWords()};
    return all;
}

} // namespace gc
