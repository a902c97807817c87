// Twist: a finished body turned on, narrowed or bent along an axis.

#include "core/steps/shared/words.hpp"
#include "core/document/axes.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <numbers>

namespace gc {

namespace {

bool is(const Step& s, const char* slot, const char* text) {
    return s.text(slot) == text;
}

StepWords twistWords() {
    StepWords w{
        "twist", "Twist", "Twist, taper or bend a finished body along an axis", "whole body", "Finish",
        {},      {}};
    SlotWords angle = slot("angle", "angle", SlotType::Quantity, "60°");
    angle.dimension = kAngle;
    angle.least = -20 * std::numbers::pi;
    angle.leastAllowed = true;
    angle.most = 20 * std::numbers::pi;
    SlotWords size = slot("size", "size at the far end", SlotType::Quantity, "0.8");
    size.dimension = kNumber;
    size.least = 0.05;
    size.most = 20;
    SlotWords bend = slot("bend", "angle of the bend", SlotType::Quantity, "45°");
    bend.dimension = kAngle;
    bend.most = 1.5 * std::numbers::pi;
    SlotWords toward = slot("toward", "to which side", SlotType::Quantity, "0°");
    toward.dimension = kAngle;
    toward.least = -2 * std::numbers::pi;
    toward.leastAllowed = true;
    toward.most = 2 * std::numbers::pi;
    const auto level = [](const char* key, const char* label, const char* fallback) {
        SlotWords s = length(key, label, fallback, 10000);
        s.least = -10000;
        s.leastAllowed = true;
        return s;
    };
    w.slots = {slot("body", "body", SlotType::BodyRef, "body"),
               choice("how", "how", {{"turn", "round by"}, {"taper", "narrowing to"}, {"bend", "bent by"}}),
               angle,
               size,
               bend,
               toward,
               slot("axis", "axis", SlotType::AxisRef, kFixedAxes[0]),
               choice("range", "range", {"from end to end", "from"}),
               level("low", "level where it begins", "10 mm"),
               level("high", "level where it ends", "40 mm")};
    constexpr auto turns = [](const Step& s) { return is(s, "how", "turn"); };
    constexpr auto tapers = [](const Step& s) { return is(s, "how", "taper"); };
    constexpr auto bends = [](const Step& s) { return is(s, "how", "bend"); };
    constexpr auto partly = [](const Step& s) { return is(s, "range", "from"); };
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
