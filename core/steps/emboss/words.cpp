// Emboss: areas of a drawing raised on a wall or sunk into it.

#include "core/steps/shared/words.hpp"
#include "core/base/angles.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

constexpr const char* kOwnBodies = "as bodies of their own";

StepWords embossWords() {
    StepWords w{"emboss", "Emboss", "Letters and shapes of a drawing, raised on a wall or sunk into it",
                "detail", "Finish", {},
                {}};
    SlotWords does = choice("does", "raised or sunk", {{"raised", "raised by"}, {"sunk", "sunk by"}});
    does.flips = {"raised", "sunk"};
    SlotWords wall = slot("wall", "wall", SlotType::Faces);
    wall.needed = true;
    w.slots = {slot("outline", "drawing", SlotType::OutlineRef, "profile"),
               slot("area", "area", SlotType::AreaRef),
               choice("lay", "how it is laid",
                      {{"straight", "laid straight"}, {"wrapped", "wrapped in true length"}}),
               choice("way", "which way", {"ahead", "back"}),
               wall,
               does,
               length("height", "height", "0.8 mm", 200),
               choice("grows", "how it rises", {{"square", "square to the wall"}, "along the drawing"}),
               choice("sides", "how its sides run",
                      {{"straight", "with straight sides"}, {"leaning", "with sides leaning by"}}),
               angle("lean", "lean of the sides", "10°", kPi * 80 / 180),
               choice("rims", "which of its edges are rounded",
                      {{"sharp", "its edges sharp"},
                       {"wall", "rounded at the wall by"},
                       {"far", "rounded at its far end by"},
                       {"all", "rounded at the wall and at its far end by"}}),
               length("rim round", "radius of its edges", "0.5 mm", 100),
               choice("becomes", "what becomes of it", {"as part of the body", kOwnBodies}),
               naming(Thing::Body, "name", "letters")};
    constexpr auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    constexpr auto straight = [](const Step& s) { return s.text("lay") == "straight"; };
    constexpr auto own = [](const Step& s) { return s.text("becomes") == kOwnBodies; };
    constexpr auto joined = [](const Step& s) { return s.text("becomes") != kOwnBodies; };
    constexpr auto rounds = [](const Step& s) {
        return s.text("becomes") != kOwnBodies && s.text("rims") != "sharp";
    };
    constexpr auto leans = [](const Step& s) { return s.text("sides") == "leaning"; };
    w.sentence = {{"Emboss", ""}, {"", "outline"}, {",", "", oneArea}, {"", "area", oneArea}};
    addFilling(w);
    for (const SentencePiece& p : std::vector<SentencePiece>{{"", "lay"},
                                                             {"", "way"},
                                                             {"onto", ""},
                                                             {"", "wall"},
                                                             {",", ""},
                                                             {"", "does"},
                                                             {"", "height"},
                                                             {"", "grows", straight},
                                                             {",", ""},
                                                             {"", "sides"},
                                                             {"", "lean", leans},
                                                             {",", "", rounds},
                                                             {"", "rims", joined, true},
                                                             {"", "rim round", rounds},
                                                             {",", "", own},
                                                             {"", "becomes", nullptr, true},
                                                             {"called", "", own},
                                                             {"", "name", own},
                                                             {".", ""}})
        w.sentence.push_back(p);
    return w;
}

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
}

std::string strokeOf(const Step& step, const Part& part, const std::string& role) {
    for (const std::string far : {"top ", "floor "})
        if (role.starts_with(far)) {
            const std::string stroke =
                strokeInWords(part, step.text("outline"), "side " + role.substr(far.size()));
            return stroke.empty() ? stroke : far + "at " + stroke;
        }
    return strokeInWords(part, step.text("outline"), role);
}

} // namespace

StepKind embossKind() {
    StepKind k{embossWords()};
    k.roles = {{"side", true}, {"far side", true}, {"cap", true}, {"top", true}, {"floor", true}, {"foot"}};
    k.decidingSlot = "height";
    k.defaults = fillIn;
    k.roleInWords = strokeOf;
    return k;
}

} // namespace gc
