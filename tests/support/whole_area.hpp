#pragma once
/// \file What the areas of a drawing come to.

#include "core/sketch/region.hpp"

namespace gc::test {

/// mm²; what lies within holes counts, holes do not.
inline double wholeArea(const Drawing& d) {
    const Closedness c = findRegions(d);
    double sum = 0;
    for (const Region& r : c.regions)
        if (r.depth % 2 == 0) sum += r.area();
    return sum;
}

} // namespace gc::test
