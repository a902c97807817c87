#pragma once
/// \file Fair curves as strokes of a drawing: through stations that a solver may move.

#include "core/sketch/curve2.hpp"

namespace gc {

/// The fair curve through stations, exactly through both ends and within the tolerance (mm) of the others,
/// as cubic pieces with even curvature from one to the next. Where none can be found, the natural spline
/// through the stations. What was fitted lately is remembered, for a picture asks for it again and again.
std::vector<Curve2> fairCurves(const std::vector<Vec2>& stations, double tolerance);

} // namespace gc
