// Thread: raised on a round wall or cut into it.

#include "core/steps/shared/words.hpp"
#include "core/base/angles.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

std::vector<SlotWords> threadSlots() {
    SlotWords hand = choice("hand", "hand", {"right-handed", "left-handed"});
    hand.flips = {"right-handed", "left-handed"};
    SlotWords turns = factor("turns", "turns", "2.5", 60);
    turns.least = 0.05;
    SlotWords runout = angle("run-out", "run-out", "90°", 4 * kPi),
              from = length("from", "from the wall's end", "3 mm"),
              clearance = length("clearance", "clearance", "0.3 mm", 20);
    for (SlotWords* s : {&runout, &from, &clearance}) s->leastAllowed = true;
    clearance.usual = "all else in the same words as the thread of its partner, on a wall as far from that";
    return {
        slot("wall", "wall", SlotType::Face),
        choice("does", "raised or cut", {"raised", "cut"}),
        hand,
        length("pitch", "pitch", "3 mm", 200),
        choice("extent", "how far", {"for", "over"}),
        turns,
        length("height", "height", "8 mm"),
        from,
        choice("end", "which end it begins at", {"lower end", "upper end"}),
        choice("profile", "profile", {"trapezoid", "triangular", "rounded", {"drawn", "as drawn by"}}),
        slot("outline", "drawing, its foot level, up the axis to the right", SlotType::OutlineRef, "profile"),
        length("depth", "depth", "1.2 mm", 100),
        length("base", "width at its foot", "2.2 mm", 200),
        length("crest", "width at its crest", "0.8 mm", 200),
        runout,
        choice("more", "starts", {{"one", "with one start"}, {"several", "with several starts:"}}),
        counted("starts", "starts", "1", 1, 12),
        turnEitherWay("angle", "where it begins", "0°", 2 * kPi),
        choice("fit", "fit", {{"none", "as it is"}, {"wider", "wider for its partner by"}}),
        clearance};
}

StepWords threadWords() {
    StepWords w{"thread", "Thread", "A thread around a round wall, raised on it or cut into it",
                "detail", "Finish", {},
                {}};
    w.slots = threadSlots();
    constexpr auto byTurns = [](const Step& s) { return s.text("extent") == "for"; };
    constexpr auto byHeight = [](const Step& s) { return s.text("extent") == "over"; };
    constexpr auto drawn = [](const Step& s) { return s.text("profile") == "drawn"; };
    constexpr auto sized = [](const Step& s) { return s.text("profile") != "drawn"; };
    constexpr auto flatCrest = [](const Step& s) { return s.text("profile") == "trapezoid"; };
    constexpr auto several = [](const Step& s) { return s.text("more") == "several"; };
    constexpr auto wider = [](const Step& s) { return s.text("fit") == "wider"; };
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
                  {"", "outline", drawn},
                  {"", "depth", sized},
                  {"deep,", "", sized},
                  {"", "base", sized},
                  {"wide at its foot", "", sized},
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
    k.roles = {{"crest"},     {"lower flank"}, {"upper flank"}, {"foot"},
               {"beginning"}, {"ending"},      {"side", true}};
    k.decidingSlot = "depth";
    k.defaults = [](Step& step, const Part& part) { fillWithLatest(step, part, "outline", Thing::Outline); };
    return k;
}

} // namespace gc
