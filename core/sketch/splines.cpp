#include "core/sketch/splines.hpp"

#include <Eigen/Dense>

#include <algorithm>

namespace gc {

std::vector<double> spansFor(std::span<const Vec2> nodes) {
    std::vector<double> spans;
    for (std::size_t i = 1; i < nodes.size(); ++i) spans.push_back(length(nodes[i] - nodes[i - 1]));
    const double longest = spans.empty() ? 1 : *std::max_element(spans.begin(), spans.end());
    for (double& s : spans) s = std::max({s, longest * 1e-3, 1e-9});
    return spans;
}

double meanSpan(std::span<const double> spans, int node) {
    const auto i = static_cast<std::size_t>(node);
    if (i == 0) return spans.front();
    if (i == spans.size()) return spans.back();
    return 0.5 * (spans[i - 1] + spans[i]);
}

namespace {

/// Bernstein weights of degree 3 and their derivatives by u.
std::array<double, 4> bernstein(double u, int k) {
    const double v = 1 - u;
    if (k == 0) return {v * v * v, 3 * u * v * v, 3 * u * u * v, u * u * u};
    if (k == 1) return {-3 * v * v, 3 * v * v - 6 * u * v, 6 * u * v - 3 * u * u, 3 * u * u};
    return {6 * v, 6 * u - 12 * v, 6 * v - 12 * u, 6 * u};
}

} // namespace

PieceWeights splineWeights(std::span<const double> spans, double t, int k) {
    std::size_t i = 0;
    while (i + 1 < spans.size() && t > spans[i]) t -= spans[i++];
    const double h = spans[i];
    const auto b = bernstein(t / h, k);
    const double down = std::pow(h, -k);
    // The poles are N0, N0 + (H0 - N0) h / m0, N1 - (H1 - N1) h / m1, N1.
    const int piece = static_cast<int>(i);
    const double k0 = h / meanSpan(spans, piece), k1 = h / meanSpan(spans, piece + 1);
    return {piece,
            {down * (b[0] + b[1] * (1 - k0)), down * b[1] * k0, down * (b[3] + b[2] * (1 + k1)),
             -down * b[2] * k1}};
}

std::array<Vec2, 4> splinePiece(std::span<const Vec2> p, std::span<const double> spans, int i) {
    const auto at = static_cast<std::size_t>(2 * i);
    const double h = spans[static_cast<std::size_t>(i)];
    const Vec2 n0 = p[at], h0 = p[at + 1], n1 = p[at + 2], h1 = p[at + 3];
    return {n0, n0 + (h0 - n0) * (h / meanSpan(spans, i)), n1 - (h1 - n1) * (h / meanSpan(spans, i + 1)), n1};
}

std::array<double, 6> smoothnessWeights(std::span<const double> spans, int node) {
    std::array<double, 6> w{};
    const int last = static_cast<int>(spans.size());
    // The second derivative from the left, less that from the right; at an end there is only one.
    const double m = meanSpan(spans, node);
    if (node > 0) {
        const double h = spans[static_cast<std::size_t>(node) - 1];
        const auto b = bernstein(1, 2);
        const double k0 = h / meanSpan(spans, node - 1), k1 = h / m;
        w[0] += (b[0] + b[1] * (1 - k0)) / (h * h);
        w[1] += b[1] * k0 / (h * h);
        w[2] += (b[3] + b[2] * (1 + k1)) / (h * h);
        w[3] -= b[2] * k1 / (h * h);
    }
    if (node < last) {
        const double h = spans[static_cast<std::size_t>(node)];
        const auto b = bernstein(0, 2);
        const double k0 = h / m, k1 = h / meanSpan(spans, node + 1);
        const double sign = node > 0 ? -1 : 1;
        w[2] += sign * (b[0] + b[1] * (1 - k0)) / (h * h);
        w[3] += sign * b[1] * k0 / (h * h);
        w[4] += sign * (b[3] + b[2] * (1 + k1)) / (h * h);
        w[5] -= sign * b[2] * k1 / (h * h);
    }
    for (double& x : w) x *= m * m / 6;
    return w;
}

/// Each handle hangs on its neighbours alone: solved by elimination along the row, forth and back.
void relaxHandles(std::span<Vec2> points, std::span<const double> spans, const std::vector<bool>& held) {
    const std::size_t n = spans.size() + 1;
    std::vector<double> after(n);
    std::vector<Vec2> right(n);
    for (std::size_t i = 0; i < n; ++i) {
        double before = 0, own = 1, next = 0;
        Vec2 known;
        if (i < held.size() && held[i]) {
            known = points[2 * i + 1];
        } else {
            const auto w = smoothnessWeights(spans, static_cast<int>(i));
            own = w[3];
            known = points[2 * i] * -w[2];
            if (i > 0) before = w[1], known = known - points[2 * i - 2] * w[0];
            if (i + 1 < n) next = w[5], known = known - points[2 * i + 2] * w[4];
        }
        if (i > 0) {
            own -= before * after[i - 1];
            known = known - right[i - 1] * before;
        }
        after[i] = next / own;
        right[i] = known * (1 / own);
    }
    for (std::size_t i = n; i-- > 0;) {
        if (i + 1 < n) right[i] = right[i] - right[i + 1] * after[i];
        points[2 * i + 1] = right[i];
    }
}

PoleWeights poleWeights(int poles, double t, int k) {
    // Cox and de Boor on the clamped knots 0 0 0 0 1 2 … m m m m, m = poles - 3.
    const int m = poles - 3;
    const int span = std::clamp(static_cast<int>(std::floor(t)), 0, m - 1);
    const auto knot = [&](int j) { return static_cast<double>(std::clamp(j - 3, 0, m)); };
    const int i = span + 3; // knot(i) <= t < knot(i + 1)
    // N[d][j]: basis of degree d that starts at knot i - d + j.
    std::array<std::array<double, 4>, 4> n{};
    n[0][0] = 1;
    for (int d = 1; d <= 3; ++d)
        for (int j = 0; j <= d; ++j) {
            const int s = i - d + j;
            double v = 0;
            const auto dd = static_cast<std::size_t>(d), jj = static_cast<std::size_t>(j);
            if (j > 0 && knot(s + d) > knot(s))
                v += (t - knot(s)) / (knot(s + d) - knot(s)) * n[dd - 1][jj - 1];
            if (j < d && knot(s + d + 1) > knot(s + 1))
                v += (knot(s + d + 1) - t) / (knot(s + d + 1) - knot(s + 1)) * n[dd - 1][jj];
            n[dd][jj] = v;
        }
    PoleWeights out{span, n[3]};
    if (k > 0) {
        // The basis of degree 3 - k, raised k times by the rule for derivatives.
        std::array<double, 4> w = n[static_cast<std::size_t>(3 - k)];
        for (int d = 3 - k + 1; d <= 3; ++d) {
            std::array<double, 4> next{};
            for (int j = 0; j <= d; ++j) {
                const int s = i - d + j;
                const auto jj = static_cast<std::size_t>(j);
                if (j > 0 && knot(s + d) > knot(s)) next[jj] += d / (knot(s + d) - knot(s)) * w[jj - 1];
                if (j < d && knot(s + d + 1) > knot(s + 1))
                    next[jj] -= d / (knot(s + d + 1) - knot(s + 1)) * w[jj];
            }
            w = next;
        }
        out.weights = w;
    }
    return out;
}

} // namespace gc
