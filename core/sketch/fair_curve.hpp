#pragma once
/// \file The fair curve through measured stations: the smoothest profile that stays within a tolerance of
/// every measurement.

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/sketch/bspline2.hpp"

#include <optional>
#include <string>
#include <vector>

namespace gc {

/// One measurement as a point of the profile's half plane: x = radius, y = height, both in mm.
struct FairStation {
    Vec2 point;
    double tolerance = 0; ///< how far the curve may pass by, mm; 0 = exactly through
    /// Wall thickness to add along the outward normal, mm, when the inside was measured; 0 = outside.
    double wall = 0;
};

struct FairCurveRequest {
    std::vector<FairStation> stations; ///< in the order along the profile, at least two
    std::optional<double> startLean;   ///< angle of the tangent at the start against the radius axis, rad
    std::optional<double> endLean;
    Stop stop{}; ///< asked a few times a second
};

struct FairCurve {
    BSpline2 curve;
    /// Signed miss of every station, mm: positive where the curve passes outside of the measurement.
    std::vector<double> residuals;
    std::vector<double> parameters; ///< where along the curve each station's foot is
    double bendingEnergy = 0;       ///< integral of curvature squared over arc length, 1/mm
    int steps = 0;                  ///< accepted steps of the outer iteration
};

/// More would take minutes, and no caliper measures so many.
inline constexpr std::size_t kMostStations = 300;

/// Fits the curve: chord-length start, one quadratic programme, then sequential quadratic programming on the
/// bending energy with one unknown per pole along the curve's normal and every station re-footed each step.
/// More poles are tried when a tolerance is missed by more than 0.001 mm.
/// Errors: "stations.few", "stations.many", "stations.same" (row in position), "stations.unmet";
/// "step.stopped".
Result<FairCurve> fitFairCurve(const FairCurveRequest& request);

} // namespace gc
