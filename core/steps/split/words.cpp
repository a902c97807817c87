// Split: a body parted by a plane, a face, a drawing or another body.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

bool isBy(const Step& s, const char* what) {
    return s.text("by") == what;
}

void fillIn(Step& step, const Part& part) {
    fillWithLatest(step, part, "outline", Thing::Outline);
    const auto names = namesBefore(part, step.id, Thing::Body);
    if (!names.empty()) step.slots["body"] = names.back();
    if (names.size() > 1) step.slots["tool"] = names[names.size() - 2];
}

StepWords splitWords() {
    StepWords w{"split",  "Split", "Part a body along a plane, a face, a drawing or another body",
                "bodies", "Form",  {},
                {}};
    w.slots = {slot("body", "body", SlotType::BodyRef, "body"),
               choice("by", "what parts it", {"the plane", "the face", "the drawing", "the body"}),
               slot("plane", "plane", SlotType::PlaneRef, "ground"),
               slot("face", "face", SlotType::Face),
               slot("outline", "drawing", SlotType::OutlineRef, "profile"),
               slot("tool", "other body", SlotType::BodyRef, "body 2"),
               choice("keep", "what is kept", {"both sides", "what lies before it", "what lies behind it"}),
               naming(Thing::Body, "name", "piece")};
    constexpr auto plane = [](const Step& s) { return isBy(s, "the plane"); };
    constexpr auto face = [](const Step& s) { return isBy(s, "the face"); };
    constexpr auto drawing = [](const Step& s) { return isBy(s, "the drawing"); };
    constexpr auto body = [](const Step& s) { return isBy(s, "the body"); };
    constexpr auto sided = [](const Step& s) { return isBy(s, "the plane") || isBy(s, "the face"); };
    constexpr auto both = [](const Step& s) {
        return s.text("keep") == "both sides" || isBy(s, "the drawing") || isBy(s, "the body");
    };
    w.sentence = {{"Split", ""},
                  {"", "body"},
                  {"by", ""},
                  {"", "by"},
                  {"", "plane", plane},
                  {"", "face", face},
                  {"", "outline", drawing},
                  {"", "tool", body},
                  {", keeping", "", sided},
                  {"", "keep", sided},
                  {", the other piece called", "", both},
                  {"", "name", both},
                  {".", ""}};
    return w;
}

} // namespace

StepKind splitKind() {
    StepKind k{splitWords()};
    k.roles = {{"cut"}};
    k.defaults = fillIn;
    return k;
}

} // namespace gc
