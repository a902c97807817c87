// Loft: a solid through closed sections, one after the other.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/region.hpp"

#include <algorithm>
#include <set>
#include <string_view>

namespace gc {

namespace {

constexpr const char* kSmooth = "smoothly";
constexpr const char* kFree = "freely";

bool isSmooth(const Step& s) {
    return s.text("way") == kSmooth;
}
bool isOpen(const Step& s) {
    return isSmooth(s) && s.text("round") == "from the first to the last";
}
bool isGuided(const Step& s) {
    return isSmooth(s) && s.text("led") == "guided by";
}
bool hasSpine(const Step& s) {
    return isSmooth(s) && s.text("led") == "around the spine";
}
bool isWall(const Step& s) {
    return s.text("fill") == "as a wall of";
}
bool leavesSomehow(const Step& s) {
    return isOpen(s) && s.text("leave") != kFree;
}
bool arrivesSomehow(const Step& s) {
    return isOpen(s) && s.text("arrive") != kFree;
}

/// Steps that something was made of, or after, among the first of a part.
std::set<int> usedSteps(const Part& part, std::size_t shown) {
    std::set<int> used;
    for (std::size_t i = 0; i < shown; ++i)
        for (const auto& [key, value] : part.steps[i].slots) {
            const SlotWords* slot =
                findStepWords(part.steps[i].kind) ? findStepWords(part.steps[i].kind)->slot(key) : nullptr;
            if (!slot) continue;
            if (slot->type == SlotType::OutlineRef)
                for (const Step& other : part.steps)
                    if (nameGiven(other, Thing::Outline) == part.steps[i].text(key)) used.insert(other.id);
            if (holdsReferences(slot->type))
                for (const std::string& ref : part.steps[i].references(key))
                    for (const int id : stepsIn(ref)) used.insert(id);
        }
    return used;
}

/// The first stroke of each drawing before it that nothing has been made of yet. Most likely those that close
/// are its sections, in the order in which they were drawn, and the others guide its wall. Where all were
/// used, none.
void fillIn(Step& step, const Part& part) {
    fillTarget(step, part);
    if (!namesOf(part, Thing::Body).empty()) step.slots["does"] = std::string("adding to");
    const auto shown = static_cast<std::size_t>(part.shownSteps());
    const std::set<int> used = usedSteps(part, shown);
    References sections, guides;
    for (std::size_t i = 0; i < shown; ++i) {
        const Step& before = part.steps[i];
        const Drawing* drawn = used.count(before.id) ? nullptr : drawingOf(before);
        if (!drawn) continue;
        const auto line = std::find_if(drawn->strokes.begin(), drawn->strokes.end(), [](const Stroke& s) {
            return !s.helper && s.kind != StrokeKind::Point;
        });
        if (line == drawn->strokes.end()) continue;
        ClosednessOptions asDrawn;
        asDrawn.closeAlongAxis = false;
        References& list = findRegions(*drawn, asDrawn).regions.empty() ? guides : sections;
        list.push_back("chain of stroke " + std::to_string(line->id) + " of step " +
                       std::to_string(before.id));
    }
    if (sections.size() < 2) return;
    step.slots["sections"] = sections;
    if (guides.empty()) return;
    step.slots["led"] = std::string("guided by");
    step.slots["guides"] = guides;
}

SlotWords strength(const std::string& key, const std::string& label) {
    SlotWords s = slot(key, label, SlotType::Quantity, "1");
    s.dimension = kNumber;
    s.most = 10;
    return s;
}

/// "side 12 from 5": the stroke, and the drawing that it is in.
std::string strokeOf(const Step&, const Part& part, const std::string& role) {
    constexpr std::string_view kSide = "side ", kFrom = " from ", kFar = "far ";
    const auto side = role.find(kSide), from = role.find(kFrom);
    if (side == std::string::npos || from == std::string::npos) return {};
    const std::string far = role.starts_with(kFar) ? "far side of " : "";
    const int item = std::atoi(role.c_str() + side + kSide.size());
    const Step* maker = part.findStep(std::atoi(role.c_str() + from + kFrom.size()));
    const Drawing* drawing = maker ? drawingOf(*maker) : nullptr;
    if (!drawing || !drawing->findStroke(item)) return role.substr(0, from);
    return far + nameOf(*drawing, item) + " of " + nameGiven(*maker, Thing::Outline);
}

StepWords loftWords() {
    StepWords w{"loft",
                "Loft",
                "Lead one drawn section over into the next, to make, add or take a solid",
                "add material",
                "Form",
                {},
                {}};
    SlotWords matching = choice("matching", "how places of the sections are matched",
                                {"with least twist", "as its threads were pulled"});
    w.slots = {slot("sections", "sections", SlotType::Sections),
               choice("way", "how it goes from one to the next",
                      {kSmooth, Choice("straight", "straight from one to the next")}),
               choice("round", "where it ends",
                      {"from the first to the last", Choice("closed", "and on to the first again")}),
               choice("led", "what leads it", {"by itself", "guided by", "around the spine"}),
               slot("guides", "lines that guide its wall", SlotType::Curves),
               slot("spine", "line that it goes around", SlotType::Curves),
               choice("leave", "how it leaves its first section",
                      {kFree, "squarely", "on from the walls there",
                       Choice("on evenly curved", "on from the walls there, evenly curved")}),
               strength("leave strength", "strength at its first section"),
               choice("arrive", "how it arrives at its last section",
                      {kFree, "squarely", "on from the walls there",
                       Choice("on evenly curved", "on from the walls there, evenly curved")}),
               strength("arrive strength", "strength at its last section"),
               choice("fill", "what becomes solid", {"filled", "as a wall of"}),
               length("thickness", "thickness of the wall", "2 mm", 100),
               choice("wall side", "side of the wall", {"inside", "outside", "on both sides"}),
               matching,
               slot("threads", "threads that were pulled", SlotType::Threads)};
    w.sentence = {{"Loft through", ""},
                  {"", "sections"},
                  {",", ""},
                  {"", "way"},
                  {",", "", isSmooth},
                  {"", "round", isSmooth},
                  {",", "", isSmooth},
                  {"", "led", isSmooth},
                  {"", "guides", isGuided},
                  {"", "spine", hasSpine},
                  {", leaving", "", isOpen},
                  {"", "leave", isOpen},
                  {"with strength", "", leavesSomehow},
                  {"", "leave strength", leavesSomehow},
                  {", arriving", "", isOpen},
                  {"", "arrive", isOpen},
                  {"with strength", "", arrivesSomehow},
                  {"", "arrive strength", arrivesSomehow},
                  {",", ""},
                  {"", "fill"},
                  {"", "thickness", isWall},
                  {"", "wall side", isWall},
                  {", matched", ""},
                  {"", "matching"}};
    addBecoming(w);
    return w;
}

} // namespace

StepKind loftKind() {
    StepKind k{loftWords()};
    k.roles = {{"side", true}, {"far side", true}, {"start"}, {"end"}};
    k.defaults = fillIn;
    k.roleInWords = strokeOf;
    return k;
}

} // namespace gc
