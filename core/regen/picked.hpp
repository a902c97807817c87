#pragma once
/// \file Things that a person picked to measure, as texts of the file: "face: top of step 2",
/// "edge: where a meets b", "point: corner of …", "curve: stroke 3 of step 1", "body: lid".

#include "core/inspect/relation.hpp"
#include "core/regen/engine.hpp"

namespace gc {

/// Where it is now. Errors: those of references; "picked.unknown" for a text of another form.
Result<PickedThing> pickedThing(const ModelState& state, const std::string& text);

/// The readings of one or two of them, in the order in which they are shown.
Result<std::vector<Reading>> readingsOf(const ModelState& state, const std::vector<std::string>& picked);

/// "12.4 mm", "230 mm²", "12 ml", "15.0°".
std::string readingText(const Reading& reading, const UnitSystem& units);

} // namespace gc
