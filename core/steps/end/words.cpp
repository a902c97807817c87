// End: a body that has done its work is no longer part of what is made.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

StepKind endKind() {
    StepWords w{"end", "End", "Leave a body out from here on: it was a help to make others", "bodies", "Form",
                {},    {}};
    w.slots = {slot("body", "body", SlotType::BodyRef, "body")};
    w.sentence = {{"End", ""}, {"", "body"}, {"here.", ""}};
    StepKind k{std::move(w)};
    k.defaults = fillWithLatestBody;
    return k;
}

} // namespace gc
