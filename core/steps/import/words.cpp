// Import: a body from a STEP file.

#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

namespace gc {

namespace {

StepWords importWords() {
    StepWords w{"import", "Import", "Bring in a body from a STEP file", "add material", "Form", {}, {}};
    SlotWords file = slot("file", "file", SlotType::File);
    file.choices = {"STEP files", "step", "stp"};
    w.slots = {file, naming(Thing::Body, "body", "imported")};
    w.sentence = {{"Import", ""}, {"", "file"}, {"as new body", ""}, {"", "body"}, {".", ""}};
    return w;
}

} // namespace

StepKind importKind() {
    StepKind k{importWords()};
    k.roles = {{"face", true}};
    k.mayBeUnsound = true;
    k.pieces = 0;
    return k;
}

} // namespace gc
