// Move: a body, or a copy of it, shifted or turned.

#include "core/steps/shared/words.hpp"
#include "core/document/axes.hpp"
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

SlotWords shift(const char* key, const char* label, const char* fallback) {
    SlotWords s = length(key, label, fallback, 5000);
    s.least = -5000;
    s.leastAllowed = true;
    return s;
}

StepWords moveWords() {
    StepWords w{"move", "Move", "Shift or turn a body, or a copy of it", "bodies", "Form", {}, {}};
    const SlotWords angle = turnEitherWay("angle", "angle", "90°", kTurn);
    w.slots = {choice("what", "what is moved", {{"itself", "the body"}, "a copy of"}),
               slot("body", "body", SlotType::BodyRef, "body"),
               choice("way", "way", {"by", "along", "about"}),
               shift("right", "way to the right", "10 mm"),
               shift("back", "way to the back", "0 mm"),
               shift("up", "way up", "0 mm"),
               slot("line", "direction", SlotType::AxisRef, kFixedAxes[0]),
               shift("distance", "distance", "10 mm"),
               angle,
               naming(Thing::Body, "name", "copy")};
    constexpr auto by = [](const Step& s) { return isWay(s, "by"); };
    constexpr auto along = [](const Step& s) { return isWay(s, "along"); };
    constexpr auto about = [](const Step& s) { return isWay(s, "about"); };
    constexpr auto aLine = [](const Step& s) { return !isWay(s, "by"); };
    constexpr auto copies = [](const Step& s) { return s.text("what") == "a copy of"; };
    w.sentence = {{"Move", ""},
                  {"", "what"},
                  {"", "body"},
                  {"", "way"},
                  {"", "right", by},
                  {"to the right,", "", by},
                  {"", "back", by},
                  {"to the back,", "", by},
                  {"", "up", by},
                  {"up", "", by},
                  {"", "line", aLine},
                  {"by", "", aLine},
                  {"", "distance", along},
                  {"", "angle", about},
                  {", called", "", copies},
                  {"", "name", copies},
                  {".", ""}};
    return w;
}

} // namespace

StepKind moveKind() {
    StepKind k{moveWords()};
    k.defaults = fillWithLatestBody;
    return k;
}

} // namespace gc
