#pragma once
/// \file For .cpp files of this folder: splines of any degree, rational or not, as strokes.

#include "core/exchange/drawings/path_collector.hpp"

namespace gc {

struct DxfSpline {
    int degree = 3;
    std::vector<double> knots, weights;
    std::vector<Vec2> poles, through; ///< `through`: points that it goes through, when there are no poles
};

/// Draws it: exactly for degrees up to three without weights and for conics, else by cubics within 0.001 mm.
/// \param fitted set when that was so \return false when its numbers do not belong together
bool drawDxfSpline(const DxfSpline& spline, PathCollector& to, bool& fitted);

} // namespace gc
