#include "core/sketch/inset/inset_side.hpp"

#include "core/base/tolerance.hpp"

#include <algorithm>

namespace gc {

namespace {

/// The second derivative of a curve by its own parameter.
Vec2 bendOf(const Curve2& c, double t) {
    switch (c.kind) {
    case Curve2::Kind::Line:
        return {};
    case Curve2::Kind::Ellipse:
        return (c.at(t) - c.p[0]) * (-c.turn * c.turn);
    case Curve2::Kind::Conic: {
        // Of a quotient n / d: c'' = (n'' - 2 c' d' - c d'') / d, with Bernstein weights 1, w, 1.
        const double w = c.weight, s = 1 - t;
        const double d = s * s + 2 * w * s * t + t * t, d1 = 2 * (w - 1) * (1 - 2 * t), d2 = -4 * (w - 1);
        const Vec2 n2 = (c.p[0] + c.p[1] * (-2 * w) + c.p[2]) * 2;
        return (n2 - c.slope(t) * (2 * d1) - c.at(t) * d2) * (1 / d);
    }
    case Curve2::Kind::Cubic:
        return ((c.p[0] - c.p[1] * 2 + c.p[2]) * (1 - t) + (c.p[1] - c.p[2] * 2 + c.p[3]) * t) * 6;
    }
    return {};
}

double curvatureOf(const Curve2& c, double t) {
    const Vec2 d = c.slope(t);
    const double speed = length(d);
    return speed > kNoDirection ? cross(d, bendOf(c, t)) / (speed * speed * speed) : 0;
}

} // namespace

InsetSide::InsetSide(std::vector<Curve2> curves, int stroke) : m_curves(std::move(curves)), m_stroke(stroke) {
    if (m_curves.size() == 1 && m_curves[0].kind == Curve2::Kind::Line) m_kind = Kind::Line;
    if (m_curves.size() == 1 && m_curves[0].isCircular()) m_kind = Kind::Arc;
    // Each piece gets so much of the parameter that the row is run through at an even speed across breaks.
    m_breaks = {0};
    double share = 1;
    for (std::size_t i = 0; i < m_curves.size(); ++i) {
        if (i > 0) {
            const double before = length(m_curves[i - 1].slope(1)), after = length(m_curves[i].slope(0));
            const bool both = before > kNoDirection && after > kNoDirection;
            share *= both ? std::clamp(after / before, 1e-3, 1e3) : 1;
        }
        m_breaks.push_back(m_breaks.back() + share);
    }
    for (double& b : m_breaks) b /= m_breaks.back();
    m_breaks.back() = 1;
}

std::size_t InsetSide::pieceAt(double t) const {
    const auto next = std::upper_bound(m_breaks.begin() + 1, m_breaks.end() - 1, t);
    return static_cast<std::size_t>(next - m_breaks.begin()) - 1;
}

InsetSide::Local InsetSide::local(double t) const {
    const std::size_t i = pieceAt(t);
    const double width = m_breaks[i + 1] - m_breaks[i], own = (t - m_breaks[i]) / width;
    const Curve2& c = m_curves[i];
    Local out{c.at(own), c.slope(own) * (1 / width), curvatureOf(c, own)};
    if (length(out.slope) < kNoDirection) { // where poles fall together the direction is that beside it
        const double beside = own < 0.5 ? own + 1e-6 : own - 1e-6;
        out.slope = c.slope(beside) * (1 / width);
        out.curvature = curvatureOf(c, beside);
    }
    return out;
}

Vec2 InsetSide::moved(double t, double by, Vec2* slope) const {
    const Local l = local(t);
    if (slope) *slope = l.slope * (1 - by * l.curvature);
    return l.at + l.left() * by;
}

bool InsetSide::isEvenAt(std::size_t inner) const {
    const double before = curvatureOf(m_curves[inner - 1], 1), after = curvatureOf(m_curves[inner], 0);
    return std::fabs(before - after) < 1e-6 * (1 + std::fabs(before));
}

bool InsetSide::closed() const {
    return gc::length(m_curves.front().at(0) - m_curves.back().at(1)) < kSamePoint;
}

double InsetSide::angleAt(double t) const {
    const Curve2& c = m_curves.front();
    const Vec2 first = c.at(0) - c.p[0];
    return std::atan2(first.y, first.x) + turn() * t;
}

double InsetSide::turn() const {
    const Curve2& c = m_curves.front();
    return cross(c.p[1], c.p[2]) > 0 ? c.turn : -c.turn;
}

} // namespace gc
