// Groove: along a line that is laid on walls, cut into them or raised on them.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <string_view>

namespace gc {

namespace {

bool isCut(const Step& s) {
    return s.text("does") == "cut";
}
bool isRaised(const Step& s) {
    return !isCut(s);
}
bool isDrawn(const Step& s) {
    return s.text("profile") == "drawn";
}
bool isSimple(const Step& s) {
    return !isDrawn(s);
}
bool runsOut(const Step& s) {
    return s.text("ends") == "running out over";
}

/// A profile is another drawing than the line's.
void fillLine(Step& step, const Part& part) {
    const References line = latestLine(part);
    if (line.empty()) return;
    step.slots["line"] = line;
    fillWithLatest(
        step, part, "outline", Thing::Outline,
        std::atoi(line.front().c_str() + line.front().rfind(' '))); // "chain of stroke 3 of step 5"
}

/// "side 2 along 1": the second side of the section, the first piece of the line.
std::string sideInWords(const Step& step, const Part&, const std::string& role) {
    const std::string flat = isCut(step) ? "bottom" : "top";
    constexpr std::string_view kAlong = " along ";
    const auto at = role.find(kAlong);
    if (at == std::string::npos) return {};
    const std::string side = role.substr(0, at);
    const std::string words = side == "side 2"   ? flat
                              : side == "side 1" ? "left side"
                              : side == "side 3" ? "right side"
                                                 : std::string();
    return words.empty() ? words : words + " along piece " + role.substr(at + kAlong.size());
}

StepWords grooveWords() {
    StepWords w{"groove", "Groove", "A groove along a line on walls, cut into them, or a bead raised on them",
                "detail", "Finish", {},
                {}};
    SlotWords does = choice("does", "cut or raised", {"cut", "raised"});
    does.flips = {"cut", "raised"};
    SlotWords faces = slot("faces", "walls", SlotType::Faces);
    faces.needed = true;
    w.slots = {does,
               slot("line", "line", SlotType::Curves),
               faces,
               choice("towards", "how it comes onto them", {"straight ahead", "square to them"}),
               choice("profile", "profile", {"round", "flat", "V-shaped", {"drawn", "as drawn by"}}),
               slot("outline", "drawing, both its ends on the wall", SlotType::OutlineRef, "profile"),
               length("width", "width", "4 mm", 500),
               length("depth", "depth", "2 mm", 200),
               choice("ends", "ends", {"round", "square", "running out over"}),
               length("run-out", "length of the run-out", "12 mm", 2000)};
    w.sentence = {{"Groove", ""},
                  {"", "does"},
                  {"along", ""},
                  {"", "line"},
                  {"on", ""},
                  {"", "faces"},
                  {",", ""},
                  {"", "towards"},
                  {",", ""},
                  {"", "profile"},
                  {"", "outline", isDrawn},
                  {",", ""},
                  {"", "width", isSimple},
                  {"wide and", "", isSimple},
                  {"", "depth", isSimple},
                  {"deep,", "", [](const Step& s) { return isCut(s) && isSimple(s); }},
                  {"high,", "", [](const Step& s) { return isRaised(s) && isSimple(s); }},
                  {"its ends", ""},
                  {"", "ends"},
                  {"", "run-out", runsOut},
                  {".", ""}};
    return w;
}

} // namespace

StepKind grooveKind() {
    StepKind k{grooveWords()};
    k.roles = {{"side", true}, {"line", true}, {"start"}, {"end"}, {"round start"}, {"round end"}};
    k.decidingSlot = "depth";
    k.defaults = fillLine;
    k.roleInWords = sideInWords;
    return k;
}

} // namespace gc
