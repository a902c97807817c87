#include "core/steps/fillet/canal.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

std::optional<Canal> Canal::along(const MovedBorder& border, double from, double to, double radius) {
    constexpr int kMostPoles = 300, kLooks = 48;
    Canal out;
    out.m_radius = radius;
    out.m_breaks = border.breaks(from, to);
    if (out.m_breaks.empty()) return std::nullopt;
    const auto places = [&](double at) -> std::optional<std::vector<gp_Pnt>> {
        const auto there = border.place(at);
        if (!there) return std::nullopt;
        std::vector<gp_Pnt> found{there->at};
        for (std::size_t i = 0; i < 2; ++i)
            found.push_back(border.faces()[i]->surface->Value(there->uv[i].X(), there->uv[i].Y()));
        return found;
    };
    const auto fitted = curvesAlong(out.m_breaks, 3, places, {1e-6, 1e-5, 1e-4}, kMostPoles);
    if (fitted.empty()) return std::nullopt;
    out.m_centre = fitted[0];
    out.m_first = fitted[1];
    out.m_second = fitted[2];
    for (int k = 0; k <= kLooks; ++k) {
        const double at = from + (to - from) * k / kLooks;
        gp_Pnt edge, middle;
        gp_Vec way, moves;
        border.along(at, edge, way);
        out.m_centre->D1(at, middle, moves);
        if (way * moves <= 0) return std::nullopt; // it would cut into what it has just rounded
    }
    return out;
}

gp_Pnt Canal::at(double along, double across) const {
    const gp_Pnt o = centre(along);
    const gp_Vec a = gp_Vec(o, touch(along, false)).Normalized(),
                 b = gp_Vec(o, touch(along, true)).Normalized();
    const double angle = a.Angle(b), s = std::sin(angle);
    if (s < 1e-9) return touch(along, across > 0.5);
    const gp_Vec way = a * (std::sin((1 - across) * angle) / s) + b * (std::sin(across * angle) / s);
    return o.Translated(way * m_radius);
}

std::optional<double> Canal::nearest(const gp_Pnt& place, double near) const {
    constexpr int kSteps = 40;
    double at = near;
    for (int step = 0; step < kSteps; ++step) {
        gp_Pnt on;
        gp_Vec way, bends;
        m_centre->D2(at, on, way, bends);
        const gp_Vec off(on, place);
        const double least = way.SquareMagnitude(), slope = least - off * bends;
        const double next = std::clamp(at + off * way / (slope > 0.1 * least ? slope : least),
                                       m_breaks.front(), m_breaks.back());
        const double moves = next - at;
        at = next;
        if (std::fabs(moves) * way.Magnitude() < 1e-2 * kMet) return at;
    }
    return std::nullopt;
}

double Canal::acrossAt(double along, const gp_Pnt& place) const {
    const gp_Pnt o = centre(along);
    const gp_Vec a(o, touch(along, false)), b(o, touch(along, true)), p(o, place);
    const double turned = std::atan2(a.Crossed(p) * a.Crossed(b).Normalized(), a * p);
    return turned / a.Angle(b);
}

/// Near the mitre: evenly along both canals, or along the one that goes all the way.
gp_Pnt Mitre::guide(double share) const {
    gp_XYZ sum;
    int count = 0;
    for (const Side& s : m_sides) {
        if (s.wall) continue;
        sum += s.canal->at(s.first + (s.last - s.first) * share, share).XYZ();
        ++count;
    }
    return sum / count;
}

std::optional<Mitre::Met> Mitre::met(double share) const {
    const auto seen = m_known.find(share);
    return seen != m_known.end() ? seen->second : m_known[share] = meet(share);
}

/// In the plane square to the way that it is guided, on both; where they run on smoothly from each other, as
/// near to that as can be.
std::optional<Mitre::Met> Mitre::meet(double share) const {
    constexpr int kSteps = 80;
    constexpr double kBeside = 1e-3; // of the way
    // mm: where the two run on smoothly from each other not all can be had.
    constexpr double kLeft = 2e-3;
    constexpr int kPasses = 6;
    gp_Pnt middle = guide(share);
    int passes = 0;
    const gp_Vec way(guide(std::max(share - kBeside, 0.0)), guide(std::min(share + kBeside, 1.0)));
    if (way.Magnitude() < kNoDirection) return std::nullopt;
    Met out{middle, {}};
    for (std::size_t i = 0; i < 2; ++i)
        out.on[i].SetX(m_sides[i].first + (m_sides[i].last - m_sides[i].first) * share);
    std::array<gp_Pnt2d, 2> uv{m_sides[0].near, m_sides[1].near};
    KeptAside kept(way.Normalized());
    for (int step = 0; step < kSteps; ++step) {
        Wanted wanted;
        for (std::size_t i = 0; i < 2; ++i) {
            const Side& s = m_sides[i];
            const auto near = s.canal->nearest(out.at, out.on[i].X());
            if (!near) return std::nullopt;
            out.on[i] = gp_Pnt2d(*near, s.canal->acrossAt(*near, out.at));
            const gp_Vec off(s.canal->centre(*near), out.at);
            wanted.ways.push_back(off.Normalized());
            wanted.steps.push_back(s.canal->radius() - off.Magnitude());
            if (!s.wall || out.on[i].Y() <= 1) continue;
            // Beyond its touch its round runs on as its wall does.
            const auto beside = besideFace(*s.wall, out.at, uv[i]);
            if (!beside || beside->aside > kAside) return std::nullopt;
            uv[i] = beside->uv;
            const double sense = beside->normal * off > 0 ? 1 : -1;
            wanted.ways.back() = beside->normal * sense;
            wanted.steps.back() = -beside->height * sense;
        }
        const double left = wanted.most();
        kept.addTo(wanted, gp_Vec(out.at, middle));
        const gp_Vec moves = wanted.leastStep();
        if (moves.Magnitude() < kMet) {
            if (++passes == kPasses) return left < kLeft ? std::optional(out) : std::nullopt;
            middle = out.at; // the guide was far from it; always as often, so that it stays smooth
            kept = KeptAside(way.Normalized());
            continue;
        }
        out.at.Translate(moves);
    }
    return std::nullopt;
}

bool Mitre::findEnd() {
    constexpr int kHalvings = 50, kLooks = 16;
    if (!isLower(0) && !isLower(1)) return true;
    const std::size_t lower = isLower(0) ? 0 : 1;
    const auto isBeyond = [&](double share) -> std::optional<bool> {
        const auto there = met(share);
        return there ? std::optional(there->on[lower].Y() > 1) : std::nullopt;
    };
    double low = 0, high = 1;
    for (int k = 1; k < kLooks; ++k) {
        const auto beyond = isBeyond(double(k) / kLooks);
        if (!beyond) return false;
        if (*beyond) {
            high = double(k) / kLooks;
            break;
        }
        low = double(k) / kLooks;
    }
    for (int half = 0; half < kHalvings; ++half) {
        const double middle = (low + high) / 2;
        const auto beyond = isBeyond(middle);
        if (!beyond) return false;
        (*beyond ? high : low) = middle;
    }
    m_shared = (low + high) / 2;
    const auto end = met(m_shared);
    if (!end) return false;
    m_sides[lower].last = end->on[lower].X();
    return true;
}

std::optional<gp_Pnt> Mitre::corner() const {
    const auto end = met(m_shared);
    return end ? std::optional(end->at) : std::nullopt;
}

std::optional<gp_Pnt2d> Mitre::on(std::size_t side, double share) const {
    const double whole = isLower(side) ? m_shared : 1;
    const auto now = met(share * whole), begin = met(0), end = met(whole);
    if (!now || !begin || !end) return std::nullopt;
    const Side& s = m_sides[side];
    // What the ends are off, they are off all the way, less and less.
    const gp_Vec2d first(begin->on[side], gp_Pnt2d(s.first, 0)), last(end->on[side], gp_Pnt2d(s.last, 1));
    return now->on[side].Translated(first * (1 - share) + last * share);
}

} // namespace gc
