#pragma once
/// \file For tests of what offsets make.

#include "core/sketch/edit/offset.hpp"
#include "core/sketch/region.hpp"
#include "tests/support/pen.hpp"

#include <catch2/catch.hpp>

#include <algorithm>

namespace gc::test {

inline OffsetWish by(double distance) {
    OffsetWish w;
    w.distance = distance;
    w.expression = std::to_string(std::fabs(distance)) + " mm";
    return w;
}

/// Area enclosed by those strokes alone.
inline double areaOf(const Drawing& d, const std::vector<int>& strokes) {
    Drawing alone = d;
    std::vector<int> others;
    for (const Stroke& s : d.strokes)
        if (std::find(strokes.begin(), strokes.end(), s.id) == strokes.end()) others.push_back(s.id);
    alone.erase(others);
    const Closedness c = findRegions(alone);
    return c.regions.size() == 1 ? c.regions[0].area() : 0;
}

/// Settling a drawing that is settled moves nothing further than that, mm.
inline void checkAtRest(const Drawing& d, double within = 1e-6) {
    Drawing moved = d;
    CHECK(settleTo(moved, {}).solved);
    for (const DrawnPoint& p : d.points) CHECK(length(moved.at(p.id) - p.at) < within);
}

} // namespace gc::test
