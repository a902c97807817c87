#pragma once
/// \file Another unit for the lengths of a part.

#include "core/document/part.hpp"

namespace gc {

struct UnitsChanged {
    Part part;
    /// Where a unit was only understood and is said now, in words with what stood there: "value wall: 2.4".
    std::vector<std::string> said;
};

/// The same part, as large as before, with other units: figures without a unit take the one along that they
/// had by then. Without the new texts it would be another part.
UnitsChanged inUnits(const Part& part, const UnitSystem& now);

} // namespace gc
