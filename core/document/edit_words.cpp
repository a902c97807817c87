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

} // namespace

const std::vector<StepWords>& allEditWords() {
    static const std::vector<StepWords> all = [] {
        StepWords offset = edit("offset", "Offset", "The outline at an even distance: a wall, a band");
        offset.slots = {length("distance", "distance", "2 mm"),
                        choice("side", "side", {"inside", "outside", "on both sides"}),
                        choice("corners", "corners", {"sharp", "round"}),
                        choice("ends", "ends", {"open", "closed flat", "closed round"})};
        offset.sentence = {{"Offset by", ""},
                           {"", "distance"},
                           {"", "side"},
                           {", corners", ""},
                           {"", "corners"},
                           {", ends", "", [](const Step& s) { return s.text("side") == "on both sides"; }},
                           {"", "ends", [](const Step& s) { return s.text("side") == "on both sides"; }},
                           {".", ""}};

        StepWords mirror = edit("mirror", "Mirror", "A mirror image that follows");
        mirror.slots = {choice("line", "line", {"the axis", "the level line", "the line chosen last"})};
        mirror.sentence = {{"Mirror across", ""}, {"", "line"}, {".", ""}};

        StepWords round = edit("round", "Round", "Corners with one radius");
        round.slots = {length("radius", "radius", "3 mm")};
        round.sentence = {{"Round the corners by", ""}, {"", "radius"}, {".", ""}};

        StepWords chamfer = edit("chamfer", "Chamfer", "Corners cut off straight");
        chamfer.slots = {length("first", "first length", "2 mm"), length("second", "second length", "2 mm")};
        chamfer.sentence = {
            {"Chamfer the corners by", ""}, {"", "first"}, {"and", ""}, {"", "second"}, {".", ""}};

        StepWords rows = edit("rows", "Rows", "Copies in rows that follow the first");
        rows.slots = {count("columns", "number across", "3", 1),
                      signedLength("across", "pitch across", "10 mm"), count("rows", "number up", "1", 1),
                      signedLength("up", "pitch up", "10 mm")};
        rows.sentence = {{"Repeat", ""},    {"", "columns"}, {"across, every", ""},
                         {"", "across"},    {", and", ""},   {"", "rows"},
                         {"up, every", ""}, {"", "up"},      {".", ""}};

        StepWords around = edit("around", "Around", "Copies around a point that follow the first");
        around.slots = {count("count", "number", "6", 2), centre(),
                        choice("spread", "spread", {"all the way round", "every"}), angle("angle", "30°")};
        const auto every = [](const Step& s) { return s.text("spread") == "every"; };
        around.sentence = {{"Repeat", ""}, {"", "count"},  {"around", ""},       {"", "centre"},
                           {",", ""},      {"", "spread"}, {"", "angle", every}, {".", ""}};

        StepWords along = edit("along", "Along", "Copies evenly along the stroke chosen last");
        along.slots = {count("count", "number", "5", 2),
                       choice("turning", "turning", {"turning with it", "all upright"})};
        along.sentence = {
            {"Repeat", ""}, {"", "count"}, {"along the stroke chosen last,", ""}, {"", "turning"}, {".", ""}};

        StepWords move = edit("move", "Move", "By a distance across and up");
        move.slots = {whose(), signedLength("across", "way across", "10 mm"),
                      signedLength("up", "way up", "0 mm")};
        move.sentence = {{"Move", ""},       {"", "whose"}, {"by", ""}, {"", "across"},
                         {"across and", ""}, {"", "up"},    {"up.", ""}};

        StepWords turn = edit("turn", "Turn", "By an angle about a point");
        turn.slots = {whose(), angle("angle", "30°"), centre()};
        turn.sentence = {{"Turn", ""},  {"", "whose"},  {"by", ""}, {"", "angle"},
                         {"about", ""}, {"", "centre"}, {".", ""}};

        StepWords scale = edit("scale", "Scale", "Larger or smaller about a point");
        SlotWords factor = slot("factor", "factor", SlotType::Quantity, "2");
        factor.dimension = kNumber;
        factor.most = 1000;
        scale.slots = {whose(), factor, centre()};
        scale.sentence = {{"Scale", ""}, {"", "whose"},  {"by", ""}, {"", "factor"},
                          {"about", ""}, {"", "centre"}, {".", ""}};

        StepWords text = edit("text", "Text", "Letters as strokes that move as one");
        text.slots = {slot("text", "text", SlotType::NewName, "Label"),
                      length("height", "height of capitals", "8 mm"),
                      slot("font", "font", SlotType::NewName, "Manrope")};
        text.sentence = {{"Write", ""},    {"", "text"}, {", capitals", ""}, {"", "height"},
                         {"high, in", ""}, {"", "font"}, {".", ""}};

        StepWords join = edit("join", "Join", "Two strokes as one, or at their nearest ends");
        join.sentence = {{"Join the two.", ""}};
        return std::vector<StepWords>{offset, mirror, round, chamfer, rows, around,
                                      along,  move,   turn,  scale,   join, text};
    }();
    return all;
}

} // namespace gc
