// Import: a body from a STEP file.

#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"
#include "core/units/amount.hpp"

#include <sstream>

namespace gc {

namespace {

StepWords importWords() {
    StepWords w{
        "import", "Import", "Bring in bodies from a STEP file, or triangles from STL", "add material", "Form",
        {},       {}};
    SlotWords file = slot("file", "file", SlotType::File);
    file.filesCalled = "STEP and STL files";
    file.endings = {"step", "stp", "stl"};
    w.slots = {file, naming(Thing::Body, "body", "imported")};
    w.sentence = {{"Import", ""}, {"", "file"}, {"as new body", ""}, {"", "body"}, {".", ""}};
    return w;
}

/// "flat face 12.40 at 0.00 5.00 2.50" is told apart by its size, but spoken by its place.
std::string withoutSize(const Step&, const Part&, const std::string& role) {
    const auto at = role.find(" at ");
    const auto size = at == std::string::npos ? at : role.rfind(' ', at - 1);
    if (size == std::string::npos) return role;
    std::istringstream figures(role.substr(at + 4));
    std::string out = role.substr(0, size) + " at";
    for (int k = 0; k < 3; ++k) {
        double v = 0;
        if (!(figures >> v)) return role;
        out += (k > 0 ? ", " : " ") + formatAmount(v, k == 2 ? "mm" : "", 2);
    }
    return out;
}

} // namespace

StepKind importKind() {
    StepKind k{importWords()};
    for (const char* sort :
         {"flat face", "round face", "conical face", "ball face", "ring face", "free face"})
        k.roles.push_back({sort, true});
    k.roleInWords = withoutSize;
    k.mayBeUnsound = true;
    k.pieces = 0;
    return k;
}

} // namespace gc
