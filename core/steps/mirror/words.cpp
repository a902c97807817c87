// Mirror: the image of a body beyond a plane.

#include "core/steps/shared/words.hpp"
#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

StepKind mirrorKind() {
    StepWords w{
        "mirror",
        "Mirror",
        "The image of a body or of a detail beyond a plane: joined with it, beside it or in its place",
        "bodies",
        "Form",
        {},
        {}};
    w.slots = {choice("subject", "what is mirrored", {"the body", "the detail"}),
               slot("detail", "detail", SlotType::Faces),
               slot("body", "body", SlotType::BodyRef, "body"),
               slot("plane", "plane", SlotType::PlaneRef, "side"),
               choice("what", "what becomes of the image", {"joined with it", "as new body", "in its place"}),
               naming(Thing::Body, "name", "image")};
    constexpr auto isDetail = [](const Step& s) { return s.text("subject") == "the detail"; };
    constexpr auto isBody = [](const Step& s) { return s.text("subject") != "the detail"; };
    constexpr auto makes = [](const Step& s) {
        return s.text("subject") != "the detail" && s.text("what") == "as new body";
    };
    w.sentence = {{"Mirror", ""},      {"", "subject"}, {"", "detail", isDetail}, {"", "body", isBody},
                  {"at", ""},          {"", "plane"},   {",", "", isBody},        {"", "what", isBody},
                  {"", "name", makes}, {".", ""}};
    StepKind k{std::move(w)};
    k.defaults = [](Step& step, const Part& part) {
        fillWithLatestBody(step, part);
        fillWithLatestDetail(step, part, "detail");
    };
    return k;
}

} // namespace gc
