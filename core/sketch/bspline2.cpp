#include "core/sketch/bspline2.hpp"

#include <algorithm>

namespace gc {

int BSpline2::span(double t) const {
    const int n = static_cast<int>(knots.size()) - degree - 1;
    if (t >= knots[static_cast<std::size_t>(n)]) return n - 1;
    const auto first = knots.begin() + degree, last = knots.begin() + n + 1;
    const auto it = std::upper_bound(first, last, t);
    return std::clamp(static_cast<int>(it - knots.begin()) - 1, degree, n - 1);
}

int BSpline2::basis(double t, Basis& out) const {
    const int p = degree, s = span(t);
    auto knot = [&](int i) { return knots[static_cast<std::size_t>(i)]; };
    double ndu[kMaxDegree + 1][kMaxDegree + 1], left[kMaxDegree + 1], right[kMaxDegree + 1];
    ndu[0][0] = 1;
    for (int j = 1; j <= p; ++j) {
        left[j] = t - knot(s + 1 - j);
        right[j] = knot(s + j) - t;
        double saved = 0;
        for (int r = 0; r < j; ++r) {
            ndu[j][r] = right[r + 1] + left[j - r];
            const double term = ndu[r][j - 1] / ndu[j][r];
            ndu[r][j] = saved + right[r + 1] * term;
            saved = left[j - r] * term;
        }
        ndu[j][j] = saved;
    }
    for (auto& row : out) row.fill(0);
    for (int j = 0; j <= p; ++j) out[0][static_cast<std::size_t>(j)] = ndu[j][p];
    for (int r = 0; r <= p; ++r) {
        double a[2][kMaxDegree + 1] = {{1}};
        int now = 0, next = 1;
        for (int k = 1; k <= std::min(3, p); ++k) {
            double d = 0;
            const int rk = r - k, pk = p - k;
            if (r >= k) {
                a[next][0] = a[now][0] / ndu[pk + 1][rk];
                d = a[next][0] * ndu[rk][pk];
            }
            const int j1 = rk >= -1 ? 1 : -rk, j2 = r - 1 <= pk ? k - 1 : p - r;
            for (int j = j1; j <= j2; ++j) {
                a[next][j] = (a[now][j] - a[now][j - 1]) / ndu[pk + 1][rk + j];
                d += a[next][j] * ndu[rk + j][pk];
            }
            if (r <= pk) {
                a[next][k] = -a[now][k - 1] / ndu[pk + 1][r];
                d += a[next][k] * ndu[r][pk];
            }
            out[static_cast<std::size_t>(k)][static_cast<std::size_t>(r)] = d;
            std::swap(now, next);
        }
    }
    double factor = p;
    for (int k = 1; k <= std::min(3, p); ++k) {
        for (int j = 0; j <= p; ++j) out[static_cast<std::size_t>(k)][static_cast<std::size_t>(j)] *= factor;
        factor *= p - k;
    }
    return s;
}

Vec2 BSpline2::at(double t, int k) const {
    Basis b;
    const int s = basis(std::clamp(t, 0.0, 1.0), b);
    Vec2 v;
    for (int j = 0; j <= degree; ++j)
        v = v + poles[static_cast<std::size_t>(s - degree + j)] *
                    b[static_cast<std::size_t>(k)][static_cast<std::size_t>(j)];
    return v;
}

double BSpline2::nearest(Vec2 p, double* distance) const {
    const int samples = 16 * std::max(1, poleCount());
    double best = 0, bestDistance = length(at(0) - p);
    for (int i = 1; i <= samples; ++i) {
        const double t = static_cast<double>(i) / samples, d = length(at(t) - p);
        if (d < bestDistance) {
            best = t;
            bestDistance = d;
        }
    }
    double t = best;
    for (int i = 0; i < 12; ++i) {
        const Vec2 r = at(t) - p, d = at(t, 1), e = at(t, 2);
        const double slope = dot(d, d) + dot(r, e);
        const double step = dot(r, d) / (slope > 1e-12 ? slope : std::max(dot(d, d), 1e-30));
        t = std::clamp(t - step, 0.0, 1.0);
        const double now = length(at(t) - p);
        if (now < bestDistance) {
            best = t;
            bestDistance = now;
        }
        if (std::fabs(step) < 1e-14) break;
    }
    if (distance) *distance = bestDistance;
    return best;
}

} // namespace gc
