#include "core/sketch/stroke_run.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

StrokeRun::StrokeRun(const Drawing& d, const Stroke& s) : m_curves(curvesOf(d, s)) {
    m_closed = s.kind == StrokeKind::Circle || s.kind == StrokeKind::Ellipse ||
               (s.kind == StrokeKind::Beside && s.points.size() == 1);
}

std::pair<std::size_t, double> StrokeRun::split(double u) const {
    if (m_closed) u -= std::floor(u / end()) * end();
    const double whole = std::clamp(std::floor(u), 0.0, end() - 1);
    return {static_cast<std::size_t>(whole), std::clamp(u - whole, 0.0, 1.0)};
}

Vec2 StrokeRun::at(double u) const {
    const auto [i, t] = split(u);
    return m_curves[i].at(t);
}

Vec2 StrokeRun::slope(double u) const {
    const auto [i, t] = split(u);
    return m_curves[i].slope(t);
}

double StrokeRun::nearest(Vec2 p) const {
    double best = 0, least = 1e300;
    for (std::size_t i = 0; i < m_curves.size(); ++i) {
        const double t = m_curves[i].nearest(p), away = gc::length(m_curves[i].at(t) - p);
        if (away < least) least = away, best = static_cast<double>(i) + t;
    }
    return best;
}

double StrokeRun::length() const {
    double sum = 0;
    for (const Curve2& c : m_curves) sum += c.length();
    return sum;
}

double StrokeRun::atLength(double along) const {
    if (along <= 0) return 0;
    for (std::size_t i = 0; i < m_curves.size(); ++i) {
        const double here = m_curves[i].length();
        if (along > here) {
            along -= here;
            continue;
        }
        double low = 0, high = 1; // lengths grow with the parameter
        for (int k = 0; k < 60; ++k) {
            const double middle = 0.5 * (low + high);
            (m_curves[i].part(0, middle).length() < along ? low : high) = middle;
        }
        return static_cast<double>(i) + 0.5 * (low + high);
    }
    return end();
}

} // namespace gc
