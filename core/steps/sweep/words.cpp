// Sweep: the areas of a drawing carried along a path.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"
#include "core/sketch/drawing_words.hpp"

#include <numbers>
#include <string_view>

namespace gc {

namespace {

bool isLed(const Step& s) {
    return s.text("stand") == "led by";
}
bool isLedByFace(const Step& s) {
    return s.text("stand") == "led by the face";
}
bool goesOn(const Step& s) {
    return s.text("end") == "on to";
}
bool endsFreely(const Step& s) {
    return !goesOn(s);
}
bool turns(const Step& s) {
    return s.text("change").starts_with("turning");
}
bool grows(const Step& s) {
    return s.text("change").ends_with("growing to");
}
bool growsAs(const Step& s) {
    return s.text("change").ends_with("growing as");
}

/// Only then it is a matter how it goes round corners.
bool isSquare(const Step& s) {
    return s.text("stand") == "square to it";
}

/// The stations made last: the only outlines that say a size along a way.
void fillShape(Step& step, const Part& part) {
    for (int i = part.shownSteps(); i-- > 0;) {
        const Step& before = part.steps[static_cast<std::size_t>(i)];
        const std::string name = nameGiven(before, Thing::Outline);
        if (name.empty() || drawingOf(before)) continue;
        step.slots["shape"] = name;
        return;
    }
}

/// The drawing before the section is most likely the path.
void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
    fillTarget(step, part);
    fillShape(step, part);
    if (!namesOf(part, Thing::Body).empty()) step.slots["does"] = std::string("adding to");
    if (auto line = latestLine(part, step.text("outline")); !line.empty())
        step.slots["path"] = std::move(line);
}

SlotWords turn() {
    SlotWords s = slot("turn", "turn along the path", SlotType::Quantity, "90°");
    s.dimension = kAngle;
    s.least = -200 * std::numbers::pi;
    s.most = 200 * std::numbers::pi;
    return s;
}

SlotWords size() {
    SlotWords s = slot("size", "size at the end", SlotType::Quantity, "0.5");
    s.dimension = kNumber;
    s.most = 100;
    return s;
}

/// "side 12 along 3": the stroke of the section, and that of the path where it has one.
std::string strokesOf(const Step& step, const Part& part, const std::string& role) {
    constexpr std::string_view kAlong = " along ";
    const auto at = role.find(kAlong);
    if (at == std::string::npos) return {};
    const std::string side = strokeInWords(part, step.text("outline"), role.substr(0, at));
    if (side.empty()) return {};
    const References& path = step.references("path");
    const int item = std::atoi(role.c_str() + at + kAlong.size());
    const auto ref = path.empty() ? Result<EdgeRef>(Error{}) : parseEdgeRef(path.front());
    const Step* drawn = ref && ref->item ? part.findStep(ref->step) : nullptr;
    const Drawing* drawing = drawn ? drawingOf(*drawn) : nullptr;
    if (drawing && drawing->findStroke(item)) return side + " along " + nameOf(*drawing, item);
    return side + " along piece " + std::to_string(item);
}

StepWords sweepWords() {
    StepWords w{"sweep",
                "Sweep",
                "Carry a drawn section along a path, to make, add or take a solid",
                "add material",
                "Form",
                {},
                {}};
    w.slots = {slot("outline", "section", SlotType::OutlineRef, "profile"),
               slot("area", "area", SlotType::AreaRef),
               slot("path", "path", SlotType::Curves),
               choice("begin", "where it begins", {"from its beginning", "from its end"}),
               choice("end", "where it ends", {"to where it ends", "on to"}),
               slot("end face", "face to end at", SlotType::Face),
               choice("caps", "what its ends are",
                      {Choice("flat", "flat ends"), Choice("round", "round ends"),
                       Choice("round at its end", "a round far end")}),
               choice("placing", "where the section stands", {"brought onto it", "where it is drawn"}),
               choice("stand", "how the section stands",
                      {"square to it", "kept parallel", "led by", "led by the face"}),
               slot("lead", "line that leads it", SlotType::Curves),
               slot("lead face", "face that leads it", SlotType::Face),
               choice("change", "how the section changes",
                      {"unchanged", "turning by", "growing to", "turning by and growing to", "growing as",
                       "turning by and growing as"}),
               turn(),
               size(),
               slot("shape", "stations of its size", SlotType::OutlineRef),
               choice("corners", "how it goes round corners", {"mitred", "rounded"})};
    const auto oneArea = [](const Step& s) { return !s.text("area").empty(); };
    w.sentence = {{"Sweep", ""}, {"", "outline"}, {",", "", oneArea}, {"", "area", oneArea}};
    addFilling(w);
    const std::vector<SentencePiece> rest{{"along", ""},
                                          {"", "path"},
                                          {"", "begin"},
                                          {"", "end"},
                                          {"", "end face", goesOn},
                                          {", with", "", endsFreely},
                                          {"", "caps", endsFreely},
                                          {",", ""},
                                          {"", "placing"},
                                          {",", ""},
                                          {"", "stand"},
                                          {"", "lead", isLed},
                                          {"", "lead face", isLedByFace},
                                          {",", ""},
                                          {"", "change"},
                                          {"", "turn", turns},
                                          {"", "size", grows},
                                          {"of its size", "", grows},
                                          {"", "shape", growsAs},
                                          {", its corners", "", isSquare},
                                          {"", "corners", isSquare}};
    w.sentence.insert(w.sentence.end(), rest.begin(), rest.end());
    addBecoming(w);
    return w;
}

} // namespace

StepKind sweepKind() {
    StepKind k{sweepWords()};
    k.roles = {{"side", true}, {"far side", true}, {"cap", true}, {"start"},
               {"end"},        {"round start"},    {"round end"}};
    k.defaults = fillIn;
    k.roleInWords = strokesOf;
    return k;
}

} // namespace gc
