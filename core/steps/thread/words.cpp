// Thread: raised on a round wall or cut into it.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

bool is(const Step& s, const char* slot, const char* text) {
    return s.text(slot) == text;
}

StepWords threadWords() {
    StepWords w{"thread", "Thread", "A thread around a round wall, raised on it or cut into it",
                "detail", "Finish", {},
                {}};
    SlotWords hand = choice("hand", "hand", {"right-handed", "left-handed"});
    hand.flips = {"right-handed", "left-handed"};
    SlotWords turns = slot("turns", "turns", SlotType::Quantity, "2.5");
    turns.dimension = kNumber;
    turns.least = 0.05;
    turns.most = 60;
    SlotWords runout = slot("run-out", "run-out", SlotType::Quantity, "90°");
    runout.dimension = kAngle;
    runout.leastAllowed = true;
    runout.most = 4 * std::numbers::pi;
    SlotWords starts = slot("starts", "starts", SlotType::Count, "1");
    starts.least = 1;
    starts.most = 12;
    SlotWords from = length("from", "from the wall's end", "3 mm");
    from.leastAllowed = true;
    SlotWords clearance = length("clearance", "clearance", "0.3 mm", 20);
    clearance.leastAllowed = true;
    SlotWords at = slot("angle", "where it begins", SlotType::Quantity, "0°");
    at.dimension = kAngle;
    at.least = -2 * std::numbers::pi;
    at.leastAllowed = true;
    at.most = 2 * std::numbers::pi;
    w.slots = {slot("wall", "wall", SlotType::Face),
               choice("does", "raised or cut", {"raised", "cut"}),
               hand,
               length("pitch", "pitch", "3 mm", 200),
               choice("extent", "how far", {"for", "over"}),
               turns,
               length("height", "height", "8 mm"),
               from,
               choice("end", "which end it begins at", {"lower end", "upper end"}),
               choice("profile", "profile", {"trapezoid", "triangular", "rounded"}),
               length("depth", "depth", "1.2 mm", 100),
               length("base", "width at its foot", "2.2 mm", 200),
               length("crest", "width at its crest", "0.8 mm", 200),
               runout,
               choice("more", "starts", {{"one", "with one start"}, {"several", "with several starts:"}}),
               starts,
               at,
               choice("fit", "fit", {{"none", "as it is"}, {"wider", "wider for its partner by"}}),
               clearance};
    constexpr auto byTurns = [](const Step& s) { return is(s, "extent", "for"); };
    constexpr auto byHeight = [](const Step& s) { return is(s, "extent", "over"); };
    constexpr auto flatCrest = [](const Step& s) { return is(s, "profile", "trapezoid"); };
    constexpr auto several = [](const Step& s) { return is(s, "more", "several"); };
    constexpr auto wider = [](const Step& s) { return is(s, "fit", "wider"); };
    w.sentence = {{"Thread", ""},
                  {"", "does"},
                  {"on", ""},
                  {"", "wall"},
                  {",", ""},
                  {"", "hand"},
                  {", pitch", ""},
                  {"", "pitch"},
                  {"", "extent"},
                  {"", "turns", byTurns},
                  {"turns", "", byTurns},
                  {"", "height", byHeight},
                  {"from", ""},
                  {"", "from"},
                  {"from its", ""},
                  {"", "end"},
                  {"at", ""},
                  {"", "angle"},
                  {",", ""},
                  {"", "profile"},
                  {"", "depth"},
                  {"deep,", ""},
                  {"", "base"},
                  {"wide at its foot", ""},
                  {"and", "", flatCrest},
                  {"", "crest", flatCrest},
                  {"at its crest", "", flatCrest},
                  {", running out over", ""},
                  {"", "run-out"},
                  {"", "more", nullptr, true},
                  {"", "starts", several},
                  {"", "fit", nullptr, true},
                  {"", "clearance", wider},
                  {".", ""}};
    return w;
}

} // namespace

StepKind threadKind() {
    StepKind k{threadWords()};
    k.roles = {{"crest"}, {"lower flank"}, {"upper flank"}, {"foot"}, {"beginning"}, {"ending"}};
    k.decidingSlot = "depth";
    return k;
}

} // namespace gc
