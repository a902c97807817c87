#pragma once
/// \file Sentences of the engine, which counts in mm, g and mm³, in a part's own units.

#include "core/base/message.hpp"
#include "core/units/expression.hpp"

namespace gc {

/// Every amount with a unit of length, mass or volume in a text, in the units of a part: "1.5 mm" becomes
/// "0.0591 in", as fine as it was said. What stands in quotation marks was typed by somebody and stays.
std::string saidIn(const UnitSystem& units, const std::string& text);

/// The same of what stands in a sentence.
Message saidIn(const UnitSystem& units, const Message& message);

} // namespace gc
