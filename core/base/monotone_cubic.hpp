#pragma once
/// \file A smooth function through values that rises and falls only where they do.

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <optional>
#include <utility>
#include <vector>

namespace gc {

/// Piecewise cubic through (x, y), x strictly ascending, at least two of each, with one continuous
/// derivative: slopes by Fritsch and Butland (1984), which keep it monotone
/// between the places.
class MonotoneCubic {
  public:
    /// \param closed the last place is the first, one round on: the slope there is one, too
    MonotoneCubic(std::vector<double> x, std::vector<double> y, bool closed = false,
                  std::optional<double> firstSlope = {}, std::optional<double> lastSlope = {})
        : m_x(std::move(x)), m_y(std::move(y)) {
        const std::size_t n = m_x.size();
        std::vector<double> rise(n - 1);
        for (std::size_t i = 0; i + 1 < n; ++i) rise[i] = (m_y[i + 1] - m_y[i]) / (m_x[i + 1] - m_x[i]);
        m_slope.assign(n, rise.front());
        for (std::size_t i = 1; i + 1 < n; ++i)
            m_slope[i] = between(rise[i - 1], rise[i], m_x[i] - m_x[i - 1], m_x[i + 1] - m_x[i]);
        if (n > 2) {
            m_slope.front() = bounded(1.5 * rise.front() - 0.5 * m_slope[1], rise.front());
            m_slope.back() = bounded(1.5 * rise.back() - 0.5 * m_slope[n - 2], rise.back());
        }
        if (closed)
            m_slope.front() = m_slope.back() =
                between(rise.back(), rise.front(), m_x[n - 1] - m_x[n - 2], m_x[1] - m_x[0]);
        if (firstSlope) m_slope.front() = bounded(*firstSlope, rise.front());
        if (lastSlope) m_slope.back() = bounded(*lastSlope, rise.back());
    }

    double at(double x) const {
        const std::size_t i = spanOf(x);
        const double h = m_x[i + 1] - m_x[i], t = (x - m_x[i]) / h, s = 1 - t;
        return (1 + 2 * t) * s * s * m_y[i] + t * s * s * h * m_slope[i] + t * t * (3 - 2 * t) * m_y[i + 1] -
               t * t * s * h * m_slope[i + 1];
    }
    /// Where it has that value.
    double inverse(double y) const {
        double low = m_x.front(), high = m_x.back();
        for (int i = 0; i < 100 && high - low > 1e-15 * (m_x.back() - m_x.front()); ++i) {
            const double middle = 0.5 * (low + high);
            (at(middle) < y ? low : high) = middle;
        }
        return 0.5 * (low + high);
    }

  private:
    /// More than three times the rise would overshoot.
    static double bounded(double slope, double rise) {
        return std::clamp(slope, std::min(0.0, 3 * rise), std::max(0.0, 3 * rise));
    }
    static double between(double a, double b, double ha, double hb) {
        if (a * b <= 0) return 0;
        const double wa = 2 * hb + ha, wb = hb + 2 * ha;
        return (wa + wb) / (wa / a + wb / b);
    }
    std::size_t spanOf(double x) const {
        const auto next = std::upper_bound(m_x.begin() + 1, m_x.end() - 1, x);
        return static_cast<std::size_t>(next - m_x.begin()) - 1;
    }

    std::vector<double> m_x, m_y, m_slope;
};

} // namespace gc
