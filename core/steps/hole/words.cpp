// Hole: drilled through a wall, once or around the axis.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

constexpr double kTurn = 2 * std::numbers::pi;

bool isRepeated(const Step& step) {
    return step.text("count") != "1";
}

StepWords holeWords() {
    StepWords w{"hole", "Hole", "Drill through a wall, once or around the axis", "detail", "Finish", {}, {}};
    SlotWords diameter = length("diameter", "diameter", "6 mm", 1000);
    diameter.prefix = "⌀ ";
    const SlotWords count = counted("count", "count", "1", 1, 500);
    SlotWords circle = length("circle", "circle", "40 mm");
    circle.prefix = "⌀ ";
    circle.leastAllowed = true;
    SlotWords lean = angle("lean", "lean", "0°", kTurn / 8);
    lean.leastAllowed = true;
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

StepKind holeKind() {
    StepKind k{holeWords()};
    k.roles = {{"bore"}};
    k.tried = {{"lean", {"lean"}}};
    return k;
}

} // namespace gc
