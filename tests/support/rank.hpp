#pragma once
/// \file The number of freedoms by another way than the program's.

#include "core/sketch/solve/system.hpp"

namespace gc::test {

/// How many sizes are missing, from the singular values of the raw Jacobian taken by differences: every
/// coordinate an unknown, every relation all its equations, nothing merged.
int freedomsByDifferences(const Drawing& d, const DimensionValues& v);

} // namespace gc::test
