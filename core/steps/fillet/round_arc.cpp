#include "core/steps/fillet/round_arc.hpp"

#include "core/base/tolerance.hpp"

#include <TColStd_Array2OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>

#include <algorithm>
#include <cmath>
#include <iterator>
#include <numbers>
#include <utility>

namespace gc {

std::vector<gp_Pnt> arcOf(const Ball& ball) {
    const gp_Pnt a = ball.touches[0].at, m = ball.touches[2].at, e = ball.touches[1].at;
    const gp_Vec x(m, a), y(m, e), n = x.Crossed(y);
    const double square = n.SquareMagnitude();
    // The centre of the circle through three points, from the middle one.
    const gp_Vec out = (y * x.SquareMagnitude() - x * y.SquareMagnitude()).Crossed(n) / (2 * square);
    const gp_Pnt o = m.Translated(out);
    const double r = out.Magnitude();
    const gp_Vec ua = gp_Vec(o, a) / r, ue = gp_Vec(o, e) / r, up = -n.Normalized();
    double turn = std::atan2(ua.Crossed(ue).Dot(up), ua.Dot(ue));
    if (turn < 0) turn += 2 * std::numbers::pi;
    const gp_Vec middle = ua * std::cos(turn / 2) + up.Crossed(ua) * std::sin(turn / 2);
    const double w = std::cos(turn / 4), reach = r / (1 + std::cos(turn / 2));
    const auto point = [&](const gp_Vec& way, double weight) {
        return gp_Pnt(o.Translated(way).XYZ() * weight);
    };
    return {a,
            point((ua + middle) * reach, w),
            o.Translated(middle * r),
            point((middle + ue) * reach, w),
            e,
            gp_Pnt(w, 0, 0)};
}

gp_Pnt placeOnArc(const Ball& ball, double v) {
    const auto poles = arcOf(ball);
    const std::size_t from = v < 0.5 ? 0 : 2;
    const double t = 2 * v - (v < 0.5 ? 0 : 1), s = 1 - t, w = poles.back().X();
    const gp_XYZ sum =
        poles[from].XYZ() * (s * s) + poles[from + 1].XYZ() * (2 * s * t) + poles[from + 2].XYZ() * (t * t);
    return sum / (s * s + 2 * s * t * w + t * t);
}

Handle(Geom_BSplineSurface)
    skinned(const GridDirection& u, const std::function<std::vector<gp_Pnt>(double)>& rows) {
    constexpr int kAcross = 5;
    const auto curves = curvesThrough(u, rows);
    const int n = curves.front()->NbPoles();
    TColgp_Array2OfPnt poles(1, n, 1, kAcross);
    TColStd_Array2OfReal weights(1, n, 1, kAcross);
    for (int i = 1; i <= n; ++i)
        for (int k = 1; k <= kAcross; ++k) {
            const double w = k % 2 == 0 ? curves.back()->Pole(i).X() : 1;
            weights(i, k) = w;
            poles(i, k) = gp_Pnt(curves[static_cast<std::size_t>(k) - 1]->Pole(i).XYZ() / w);
        }
    TColStd_Array1OfReal knots(1, 3);
    TColStd_Array1OfInteger times(1, 3);
    knots(1) = 0, knots(2) = 0.5, knots(3) = 1;
    times(1) = 3, times(2) = 2, times(3) = 3;
    return new Geom_BSplineSurface(poles, weights, curves.front()->Knots(), knots,
                                   curves.front()->Multiplicities(), times, curves.front()->Degree(), 2);
}

std::optional<double> AslantEnd::at(double v, const std::function<Ball(double t)>& ballAt) {
    constexpr int kSteps = 40;
    constexpr double kOn = 0.1 * kKernelPoint, kFurthest = 0.9; // mm; of the way, beyond its end
    if (const auto it = m_known.find(v); it != m_known.end()) return it->second;
    const auto off = [&](double t) -> std::optional<double> {
        const gp_Pnt place = placeOnArc(ballAt(t), v);
        const auto foot = footPoint(m_face.surface(), place, m_near);
        const auto out = foot ? m_face.outward(*foot) : std::nullopt;
        return out ? std::optional(gp_Vec(foot->at, place).Dot(*out)) : std::nullopt;
    };
    const auto near = m_known.lower_bound(v);
    double t = m_known.empty() ? m_end : near == m_known.end() ? std::prev(near)->second : near->second;
    double before = t + (m_end == 0 ? 1e-3 : -1e-3);
    auto was = off(before), now = off(t);
    for (int k = 0; k < kSteps && was && now && std::fabs(*now) > kOn && *now != *was; ++k) {
        const double next = std::clamp(t - *now * (t - before) / (*now - *was), -kFurthest, 1 + kFurthest);
        before = std::exchange(t, next);
        was = std::exchange(now, off(t));
    }
    if (!now || std::fabs(*now) > kOn) return std::nullopt;
    m_known[v] = t;
    return t;
}

std::optional<Handle(Geom_BSplineSurface)> skinned(const std::function<gp_Pnt(double u, double v)>& place,
                                                   const std::vector<double>& uBreaks,
                                                   const std::vector<double>& vBreaks, int mostPoles) {
    constexpr int kLooks = 8;
    const auto along = [&](double u) {
        std::vector<gp_Pnt> out;
        for (int k = 0; k <= kLooks; ++k) out.push_back(place(u, double(k) / kLooks));
        return out;
    };
    const auto across = [&](double v) {
        std::vector<gp_Pnt> out;
        for (int k = 0; k <= kLooks; ++k) out.push_back(place(double(k) / kLooks, v));
        return out;
    };
    const auto u = directionFor(uBreaks, along, {2e-6, 1e-5, 5e-5}, mostPoles),
               v = directionFor(vBreaks, across, {2e-6, 1e-5, 5e-5}, mostPoles);
    if (!u || !v) return std::nullopt;
    std::vector<std::vector<gp_Pnt>> places;
    for (const double a : u->points()) {
        places.emplace_back();
        for (const double b : v->points()) places.back().push_back(place(a, b));
    }
    return surfaceThrough(*u, *v, places);
}

std::optional<Handle(Geom_BSplineSurface)> skinned(const AslantRound& round, int mostPoles) {
    return skinned([&](double u, double v) { return placeOnArc(round.at(u, v), v); }, {0, 1}, {0, 0.5, 1},
                   mostPoles);
}

} // namespace gc
