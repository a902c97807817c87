// Where a border goes, found step by step along the two moved faces; and how far along it a third one lies.

#include "core/steps/shared/moved_borders.hpp"

#include "core/base/tolerance.hpp"

#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

/// From the end at which the two faces meet at the larger angle: where it fades, the way is no longer told by
/// their normals, but then it is nearly there. Empty where it does not get there.
std::vector<MovedPlace> MovedBorder::steps(const gp_Pnt& from, const gp_Pnt& to) const {
    constexpr int kMost = 400, kUsual = 24;
    constexpr double kTooFlat = 0.02, kTurn = 0.2, kStraightOn = 0.7; // rad
    const bool back = kinkAt(true) > kinkAt(false);
    const gp_Pnt begin = back ? to : from, end = back ? from : to;
    gp_Pnt on;
    gp_Vec last;
    along(back ? m_last : m_first, on, last);
    if (back) last.Reverse();
    if (last.Magnitude() < kNoDirection) return {};
    last.Normalize();
    MovedPlace now{begin, {}};
    for (const auto& line : m_lines) now.uv.push_back(line->Value(back ? m_last : m_first));
    std::vector<MovedPlace> out;
    const double usual = begin.Distance(end) / kUsual;
    double step = usual;
    for (int k = 0; k < kMost && step > 1e-3 * usual; ++k) {
        const auto here = wantedBeside(m_faces, now.at, now.uv);
        if (!here) return {};
        if (out.empty()) out.push_back(now);
        gp_Vec way = here->ways[0].Crossed(here->ways[1]);
        way = way.Magnitude() < kTooFlat ? last : way.Normalized();
        if (way * last < 0) way.Reverse();
        const gp_Vec left(now.at, end);
        if (left.Magnitude() < 1.5 * step && (out.size() > 1 || left.Magnitude() < kKernelPoint)) {
            if (left.Magnitude() > kKernelPoint && way.Angle(left) > kStraightOn) return {};
            MovedPlace there{end, now.uv};
            if (!wantedBeside(m_faces, end, there.uv)) return {};
            out.push_back(there);
            if (back) std::reverse(out.begin(), out.end());
            return out;
        }
        const auto next = placeIn(now.at.Translated(way * step), way, now.uv);
        if (!next || gp_Vec(now.at, next->at).Angle(way) > kTurn) {
            step /= 2;
            continue;
        }
        last = gp_Vec(now.at, next->at).Normalized();
        now = *next;
        out.push_back(now);
        step = std::min(1.5 * step, usual);
    }
    return {};
}

std::optional<MovedBorder> MovedBorder::led(const gp_Pnt& from, const gp_Pnt& to) const {
    if (m_round || smooth()) return std::nullopt;
    const auto seen = steps(from, to);
    const int n = static_cast<int>(seen.size());
    if (n < 3) return std::nullopt;
    Handle(TColgp_HArray1OfPnt) places = new TColgp_HArray1OfPnt(1, n);
    Handle(TColStd_HArray1OfReal) at = new TColStd_HArray1OfReal(1, n);
    std::array<Handle(TColgp_HArray1OfPnt2d), 2> uv;
    for (auto& line : uv) line = new TColgp_HArray1OfPnt2d(1, n);
    double length = 0;
    for (int i = 1; i <= n; ++i) {
        const MovedPlace& p = seen[static_cast<std::size_t>(i) - 1];
        if (i > 1) length += p.at.Distance(places->Value(i - 1));
        places->SetValue(i, p.at);
        at->SetValue(i, length);
        for (std::size_t k = 0; k < 2; ++k) uv[k]->SetValue(i, p.uv[k]);
    }
    MovedBorder out = *this;
    GeomAPI_Interpolate curve(places, at, false, kKernelPoint);
    curve.Perform();
    if (!curve.IsDone()) return std::nullopt;
    out.m_curve = curve.Curve();
    for (std::size_t k = 0; k < 2; ++k) {
        Geom2dAPI_Interpolate line(uv[k], at, false, 1e-12);
        line.Perform();
        if (!line.IsDone()) return std::nullopt;
        out.m_lines[k] = line.Curve();
    }
    out.m_led = true;
    out.m_first = 0;
    out.m_last = length;
    return out;
}

std::optional<gp_Pnt> MovedBorder::alongTo(const MovedFace& stop, bool fromEnd, const gp_Pnt2d& near) const {
    constexpr int kSteps = 40;
    constexpr double kFirst = 0.01, kMost = 5; // mm a step
    std::vector<gp_Pnt2d> uv{near};
    gp_Pnt on;
    const auto gap = [&](double at) -> std::optional<double> {
        const auto there = this->place(at);
        if (!there) return std::nullopt;
        on = there->at;
        const auto wanted = wantedBeside({&stop}, on, uv);
        return wanted && wanted->aside < kAside ? std::optional(wanted->steps.front()) : std::nullopt;
    };
    gp_Pnt begin;
    gp_Vec way;
    double a = fromEnd ? m_last : m_first;
    along(a, begin, way);
    const double unit = 1 / way.Magnitude(); // parameter per mm
    auto atA = gap(a);
    if (!atA || std::fabs(*atA) < kMet) return atA ? std::optional(on) : std::nullopt;
    double b = a + (fromEnd ? -1 : 1) * kFirst * unit;
    for (int step = 0; step < kSteps; ++step) {
        const auto atB = gap(b);
        if (!atB) { // too far at once
            b = (a + b) / 2;
            continue;
        }
        if (*atB == *atA) return std::nullopt;
        if (std::fabs(*atB) < kMet) return on;
        const double moves = std::clamp(-*atB * (b - a) / (*atB - *atA), -kMost * unit, kMost * unit);
        a = b, atA = atB;
        b += moves;
    }
    return std::nullopt;
}

} // namespace gc
