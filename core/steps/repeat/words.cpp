// Repeat: a detail again and again, in rows, around an axis, at drawn points, along a curve.

#include "core/steps/shared/words.hpp"
#include "core/base/angles.hpp"
#include "core/document/axes.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

bool isBody(const Step& s) {
    return s.text("subject") == "the body";
}
bool isDetail(const Step& s) {
    return !isBody(s);
}
bool isRow(const Step& s) {
    return s.text("way") == "in a row along" || s.text("way") == "in rows along";
}
bool isRows(const Step& s) {
    return s.text("way") == "in rows along";
}
bool isAround(const Step& s) {
    return s.text("way") == "around";
}
bool isAlong(const Step& s) {
    return s.text("way") == "along";
}
bool isAtPoints(const Step& s) {
    return s.text("way") == "at the points of";
}

/// Of the first and the second direction.
struct First {
    static constexpr const char* kAfter = "";
    static bool isShown(const Step& s) { return isRow(s); }
};
struct Second {
    static constexpr const char* kAfter = " 2";
    static bool isShown(const Step& s) { return isRows(s); }
};
enum How { Every, Over, Leaving, Filling };
constexpr const char* kHow[] = {"every", "over", "leaving", "filling"};
template <class Of, How... kAny>
bool isSpaced(const Step& s) {
    const std::string how = s.text(std::string("spacing") + Of::kAfter);
    return Of::isShown(s) && ((how == kHow[kAny]) || ...);
}

/// Pitch, span and gap of one direction, and how it is said.
void addSpacing(std::vector<SlotWords>& slots, const std::string& after, const char* pitch) {
    slots.push_back(choice("spacing" + after, "how they are spaced",
                           {kHow[Every], kHow[Over], kHow[Leaving], kHow[Filling]}));
    slots.push_back(length("pitch" + after, "from one to the next", pitch, 5000));
    slots.push_back(length("span" + after, "over which they are spread", "100 mm", 5000));
    SlotWords gap = length("gap" + after, "gap between them", "3 mm", 5000);
    gap.leastAllowed = true;
    slots.push_back(gap);
}
template <class Of>
void saySpacing(std::vector<SentencePiece>& out) {
    const std::string after = Of::kAfter;
    out.insert(out.end(), {{"", "count" + after, isSpaced<Of, Every, Over, Leaving>},
                           {"times", "", isSpaced<Of, Every, Over, Leaving>},
                           {"", "spacing" + after, Of::isShown},
                           {"", "pitch" + after, isSpaced<Of, Every>},
                           {"", "span" + after, isSpaced<Of, Over, Filling>},
                           {"with at least", "", isSpaced<Of, Filling>},
                           {"", "gap" + after, isSpaced<Of, Leaving, Filling>},
                           {"between", "", isSpaced<Of, Leaving, Filling>}});
}

std::vector<SlotWords> repeatSlots() {
    SlotWords sense = choice("sense", "to which side", {"onward", "backward"});
    sense.flips = {"onward", "backward"};
    std::vector<SlotWords> slots{
        choice("subject", "what is repeated", {"the detail", "the body"}),
        slot("what", "detail", SlotType::Faces),
        slot("body", "body", SlotType::BodyRef, "body"),
        choice("becomes", "what becomes of the copies", {"joined with it", "as bodies of their own"}),
        choice(
            "way", "how it is repeated",
            {"in a row along", "in rows along", "around", "at the points of", {"along", "along the curve"}}),
        slot("line", "direction", SlotType::AxisRef, kFixedAxes[1]),
        sense,
        counted("count", "count", "4", 2, 1000)};
    addSpacing(slots, "", "20 mm");
    slots.push_back(slot("line 2", "second direction", SlotType::AxisRef, kFixedAxes[2]));
    slots.push_back(choice("sense 2", "to which side", {"onward", "backward"}));
    slots.push_back(counted("count 2", "rows", "3", 2, 1000));
    addSpacing(slots, " 2", "20 mm");
    slots.push_back(choice("stagger", "rows beside one another", {"in line", "staggered"}));
    slots.push_back(slot("axis", "axis", SlotType::AxisRef, kFixedAxes[0]));
    slots.push_back(choice("turn", "how far round",
                           {"all the way round", "over", "every", {"arc", "spaced along the round by"}}));
    slots.push_back(angle("angle", "angle", "180°", 2 * kPi));
    slots.push_back(length("arc", "way round from one to the next", "20 mm", 10000));
    slots.push_back(slot("points", "drawing", SlotType::OutlineRef, ""));
    slots.push_back(slot("curve", "curve", SlotType::Curves));
    slots.push_back(choice("spread", "how they are spread", {"evenly to its end", "every", "filling"}));
    slots.push_back(choice("turning", "whether they turn", {"turning with it", "all the same way"}));
    slots.push_back(
        choice("some", "whether some are left out", {{"all", "all of them"}, {"but", "but without"}}));
    slots.push_back(slot("without", "places left out", SlotType::Words, "2"));
    slots.push_back(choice("stand", "how they stand on a bent wall",
                           {{"square", "turned with the wall"}, {"parallel", "not turned with the wall"}}));
    slots.push_back(choice("alike", "whether they change from place to place",
                           {{"alike", "all alike"}, {"changing", "changing: place n is"}}));
    SlotWords size = factor("size", "size of place n", "1 - 0.1 * (n - 1)", 100);
    size.eachPlace = true;
    size.usual = "n is the number of the place: 1 is what is repeated, 2 the first copy";
    slots.push_back(size);
    SlotWords turned = turnEitherWay("turned", "turn of place n", "0°", 200 * kPi);
    turned.eachPlace = true;
    turned.usual = size.usual;
    slots.push_back(turned);
    return slots;
}

StepWords repeatWords() {
    StepWords w{"repeat", "Repeat", "Make a detail again and again: in rows, around an axis, along a curve",
                "repeat", "Finish", {},
                {}};
    w.slots = repeatSlots();
    w.sentence = {{"Repeat", ""},
                  {"", "subject", nullptr, true},
                  {"", "what", isDetail},
                  {"", "body", isBody},
                  {"", "way"},
                  {"", "line", isRow},
                  {"", "sense", isRow},
                  {",", "", isRow}};
    saySpacing<First>(w.sentence);
    w.sentence.insert(
        w.sentence.end(),
        {{", and along", "", isRows}, {"", "line 2", isRows}, {"", "sense 2", isRows}, {",", "", isRows}});
    saySpacing<Second>(w.sentence);
    constexpr auto leavesOut = [](const Step& s) { return s.text("some") == "but"; };
    constexpr auto countsAlong = [](const Step& s) { return isAlong(s) && s.text("spread") != "filling"; };
    constexpr auto everyAlong = [](const Step& s) { return isAlong(s) && s.text("spread") == "every"; };
    constexpr auto fillsAlong = [](const Step& s) { return isAlong(s) && s.text("spread") == "filling"; };
    constexpr auto changes = [](const Step& s) { return s.text("alike") == "changing"; };
    constexpr auto partly = [](const Step& s) {
        return isAround(s) && (s.text("turn") == "over" || s.text("turn") == "every");
    };
    constexpr auto byLength = [](const Step& s) { return isAround(s) && s.text("turn") == "arc"; };
    w.sentence.insert(w.sentence.end(), {{",", "", isRows},
                                         {"", "stagger", isRows},
                                         {"", "axis", isAround},
                                         {",", "", isAround},
                                         {"", "count", isAround},
                                         {"times", "", isAround},
                                         {"", "turn", isAround},
                                         {"", "angle", partly},
                                         {"", "arc", byLength},
                                         {"", "points", isAtPoints},
                                         {"", "curve", isAlong},
                                         {"", "sense", isAlong},
                                         {",", "", isAlong},
                                         {"", "count", countsAlong},
                                         {"times", "", countsAlong},
                                         {"", "spread", isAlong},
                                         {"", "pitch", everyAlong},
                                         {"with at least", "", fillsAlong},
                                         {"", "gap", fillsAlong},
                                         {"between", "", fillsAlong},
                                         {",", "", isAlong},
                                         {"", "turning", isAlong},
                                         {",", "", isBody},
                                         {"", "becomes", isBody},
                                         {"", "some", nullptr, true},
                                         {"", "without", leavesOut},
                                         {"", "stand", isDetail, true},
                                         {",", "", changes},
                                         {"", "alike", nullptr, true},
                                         {"", "size", changes},
                                         {"times as large, turned by", "", changes},
                                         {"", "turned", changes},
                                         {".", ""}});
    return w;
}

void fillIn(Step& step, const Part& part) {
    fillWithLatestDetail(step, part, "what");
    fillWithLatestBody(step, part);
}

} // namespace

StepKind repeatKind() {
    StepKind k{repeatWords()};
    k.defaults = fillIn;
    return k;
}

} // namespace gc
