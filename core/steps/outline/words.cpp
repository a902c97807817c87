// Stations: a fair profile through measured heights and diameters.

#include "core/document/part.hpp"
#include "core/document/slot_words.hpp"
#include "core/document/step_kind.hpp"

#include <algorithm>

namespace gc {

namespace {

bool hasInsideRows(const Step& step) {
    const auto& rows = step.stations("stations");
    return std::any_of(rows.begin(), rows.end(), [](const StationRow& r) { return r.inside; });
}

StepWords outlineWords() {
    StepWords w{"outline",
                "Stations",
                "A fair profile through heights and diameters that you measured",
                "measure and draw",
                "Outline",
                {},
                {}};
    SlotWords tolerance = length("tolerance", "tolerance", "0.1 mm", 50);
    tolerance.leastAllowed = true;
    w.slots = {naming(Thing::Outline, "name", "wall line"), slot("stations", "stations", SlotType::Stations),
               tolerance, length("wall", "wall of inside rows", "2 mm")};
    w.sentence = {{"Outline", ""},
                  {"", "name"},
                  {"from", ""},
                  {"", "stations"},
                  {", fair within", ""},
                  {"", "tolerance"},
                  {", inside rows plus", "", hasInsideRows},
                  {"", "wall", hasInsideRows},
                  {".", ""}};
    return w;
}

} // namespace

StepKind outlineKind() {
    StepKind k{outlineWords()};
    k.filledIn = FilledIn::Stations;
    return k;
}

} // namespace gc
