// Combine: one body joined with others, less others, or what they have in common.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <algorithm>

namespace gc {

namespace {

constexpr const char* kOwn = "as bodies of their own";

/// The two bodies that were made last, the earlier one first; of more, the first and what it touches.
void fillIn(Step& step, const Part& part) {
    const auto names = namesBefore(part, step.id, Thing::Body);
    if (!names.empty()) step.slots["body"] = names.front();
    const int end = part.placeOf(step.id), all = end > 0 ? end - 1 : part.shownSteps();
    const bool alone = std::none_of(part.steps.begin(), part.steps.begin() + all, [](const Step& s) {
        return s.text("becomes") == kOwn || s.text("pieces") == kOwn; // more than have a name there
    });
    if (names.size() == 2 && alone) step.slots["tool"] = names.back();
}

StepWords combineWords() {
    StepWords w{"combine", "Combine", "Join bodies, take some from another, or keep what they share",
                "bodies",  "Form",    {},
                {}};
    w.slots = {slot("body", "body", SlotType::BodyRef, "body"),
               choice("how", "how", {"joined with", "less", "where it meets"}),
               slot("tool", "other bodies", SlotType::BodiesRef),
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
