// Import: bodies from a file.

#include "core/document/aside.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"
#include "core/units/amount.hpp"

#include <sstream>

namespace gc {

namespace {

bool isClosed(const Step& s) {
    return s.text("open") == "closed where it is open";
}
bool choosesSome(const Step& s) {
    return !s.text("which").empty();
}
bool hasUnit(const Step& s) {
    return !s.text("unit").empty() && s.text("unit") != "in millimetres";
}

bool standsAside(const Step& s) {
    return s.text(kCountsSlot) == kAside;
}

StepWords importWords() {
    StepWords w{"import",
                "Import",
                "Bring in bodies from a STEP file, or triangles from STL, OBJ or 3MF",
                "add material",
                "Form",
                {},
                {}};
    SlotWords file = slot("file", "file", SlotType::File);
    file.filesCalled = "STEP, STL, OBJ and 3MF files";
    file.endings = {"step", "stp", "stl", "obj", "3mf"};
    w.slots = {file,
               slot("which", "which of its bodies", SlotType::FileBodies),
               naming(Thing::Body, "body", "imported"),
               choice("open", "what becomes of open surfaces", {"as it is", "closed where it is open"}),
               choice("unit", "unit of STL and OBJ files",
                      {"in millimetres", "in centimetres", "in metres", "in inches"}),
               choice(kCountsSlot, "whether it is a part of the product",
                      {{"yes", "as a part of the product"}, kAside})};
    w.sentence = {{"Import", ""},
                  {"", "file"},
                  {",", "", choosesSome},
                  {"", "which", choosesSome},
                  {"as new body", ""},
                  {"", "body"},
                  {",", "", isClosed},
                  {"", "open", nullptr, true},
                  {",", "", hasUnit},
                  {"", "unit", nullptr, true},
                  {",", "", standsAside},
                  {"", kCountsSlot, nullptr, true},
                  {".", ""}};
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
