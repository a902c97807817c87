// Twist: a finished body turned on, narrowed or bent along an axis.

#include "core/steps/shared/words.hpp"
#include "core/base/angles.hpp"
#include "core/document/axes.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

StepWords twistWords() {
    StepWords w{"twist",
                "Twist",
                "Twist, taper or bend a finished body along an axis, exact to 0.0001 mm",
                "whole body",
                "Finish",
                {},
                {}};
    SlotWords size = factor("size", "size at the far end", "0.8", 20);
    size.least = 0.05;
    const auto level = [](const char* key, const char* label, const char* fallback) {
        SlotWords s = length(key, label, fallback, 10000);
        s.least = -10000;
        s.leastAllowed = true;
        return s;
    };
    w.slots = {slot("body", "body", SlotType::BodyRef, "body"),
               choice("how", "how", {{"turn", "round by"}, {"taper", "narrowing to"}, {"bend", "bent by"}}),
               turnEitherWay("angle", "angle", "60°", 20 * kPi),
               size,
               angle("bend", "angle of the bend", "45°", 1.5 * kPi),
               turnEitherWay("toward", "to which side", "0°", 2 * kPi),
               slot("axis", "axis", SlotType::AxisRef, kFixedAxes[0]),
               choice("range", "range", {"from end to end", "from"}),
               level("low", "level where it begins", "10 mm"),
               level("high", "level where it ends", "40 mm")};
    constexpr auto turns = [](const Step& s) { return s.text("how") == "turn"; };
    constexpr auto tapers = [](const Step& s) { return s.text("how") == "taper"; };
    constexpr auto bends = [](const Step& s) { return s.text("how") == "bend"; };
    constexpr auto partly = [](const Step& s) { return s.text("range") == "from"; };
    w.sentence = {{"Twist", ""},         {"", "body"},
                  {"", "how"},           {"", "angle", turns},
                  {"", "size", tapers},  {"of its width", "", tapers},
                  {"", "bend", bends},   {"towards", "", bends},
                  {"", "toward", bends}, {"along", ""},
                  {"", "axis"},          {"", "range"},
                  {"", "low", partly},   {"to", "", partly},
                  {"", "high", partly},  {".", ""}};
    return w;
}

} // namespace

StepKind twistKind() {
    StepKind k{twistWords()};
    k.defaults = fillWithLatestBody;
    return k;
}

} // namespace gc
