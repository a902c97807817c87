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

void relaxHandles(std::span<Vec2> points, std::span<const double> spans, const std::vector<bool>& held) {
    const auto n = static_cast<Eigen::Index>(spans.size() + 1);
    Eigen::MatrixXd a = Eigen::MatrixXd::Identity(n, n);
    Eigen::MatrixXd b(n, 2);
    const auto isHeld = [&](Eigen::Index i) {
        return static_cast<std::size_t>(i) < held.size() && held[static_cast<std::size_t>(i)];
    };
    for (Eigen::Index i = 0; i < n; ++i) {
        const auto at = [&](Eigen::Index j) { return points[static_cast<std::size_t>(j)]; };
        if (isHeld(i)) {
            b.row(i) << at(2 * i + 1).x, at(2 * i + 1).y;
            continue;
        }
        const auto w = smoothnessWeights(spans, static_cast<int>(i));
        a(i, i) = 0;
        Vec2 known;
        for (Eigen::Index j = 0; j < 3; ++j) {
            const Eigen::Index node = i - 1 + j;
            if (node < 0 || node >= n) continue;
            known = known + at(2 * node) * w[static_cast<std::size_t>(2 * j)];
            a(i, node) += w[static_cast<std::size_t>(2 * j + 1)];
        }
        b.row(i) << -known.x, -known.y;
    }
    const Eigen::MatrixXd handles = a.partialPivLu().solve(b);
    for (Eigen::Index i = 0; i < n; ++i)
        points[static_cast<std::size_t>(2 * i + 1)] = {handles(i, 0), handles(i, 1)};
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
