// Combine: one body joined with another, less another, or what the two have in common.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

/// The two bodies that were made last, the earlier one first.
void fillIn(Step& step, const Part& part) {
    const auto names = namesBefore(part, step.id, Thing::Body);
    if (!names.empty()) step.slots["body"] = names[names.size() > 1 ? names.size() - 2 : 0];
    if (names.size() > 1) step.slots["tool"] = names.back();
}

StepWords combineWords() {
    StepWords w{"combine", "Combine", "Join two bodies, take one from the other, or keep what they share",
                "bodies",  "Form",    {},
                {}};
    w.slots = {slot("body", "body", SlotType::BodyRef, "body"),
               choice("how", "how", {"joined with", "less", "where it meets"}),
               slot("tool", "other body", SlotType::BodyRef, "body 2"),
               choice("keep", "what becomes of the other", {"using it up", "keeping it"})};
    w.sentence = {{"Combine", ""}, {"", "body"}, {",", ""},    {"", "how"},
                  {"", "tool"},    {",", ""},    {"", "keep"}, {".", ""}};
    return w;
}

} // namespace

StepKind combineKind() {
    StepKind k{combineWords()};
    k.defaults = fillIn;
    return k;
}

} // namespace gc
