#pragma once
/// \file Evaluating the strokes that are neither lines nor conics: splines through nodes and splines of
/// poles.
///
/// A spline through nodes is a row of cubic Bezier pieces. Node i has a handle H, and the derivative there is
/// 3 (H - N) / m, m the mean of the spans beside it; pieces have the frozen parameter lengths `spans`.
/// All is linear in nodes and handles, which is what lets a solver move it.

#include "core/base/vec.hpp"

#include <array>
#include <span>
#include <vector>

namespace gc {

/// The spans for nodes at those places: chord lengths, none shorter than a thousandth of the longest.
std::vector<double> spansFor(std::span<const Vec2> nodes);

/// The mean of the spans beside node i.
double meanSpan(std::span<const double> spans, int node);

/// One piece of a spline in Bezier form as weights on (N0, H0, N1, H1), the same for x and y.
struct PieceWeights {
    int piece = 0;
    std::array<double, 4> weights{}; ///< of N0, H0, N1, H1
};
/// Weights for the k-th derivative (k <= 2, by the parameter) at t, which runs from 0 to the sum of spans.
/// Outside it the end pieces go on.
PieceWeights splineWeights(std::span<const double> spans, double t, int k);

/// The four poles of piece i as points, given nodes and handles in turn.
std::array<Vec2, 4> splinePiece(std::span<const Vec2> nodesAndHandles, std::span<const double> spans, int i);

/// Handles for nodes so that the curvature is even across nodes and free at the ends (the natural cubic
/// spline); handles that are held stay. \param points nodes and handles in turn; changed in place.
void relaxHandles(std::span<Vec2> points, std::span<const double> spans, const std::vector<bool>& held);

/// The coefficients of the condition that ties handle i: zero = sum over (N, H of i-1, i, i+1), divided so
/// that it is in mm. For ends the missing neighbour's weights are zero.
std::array<double, 6> smoothnessWeights(std::span<const double> spans, int node);

/// Weights of a clamped uniform cubic B-spline with n poles at t in 0 … n - 3: of poles first … first + 3.
struct PoleWeights {
    int first = 0;
    std::array<double, 4> weights{};
};
PoleWeights poleWeights(int poles, double t, int k);

} // namespace gc
