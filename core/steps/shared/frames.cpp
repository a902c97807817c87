#include "core/steps/shared/frames.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

gp_Vec squareTo(const gp_Vec& v, const gp_Vec& along) {
    gp_Vec out = v - along * v.Dot(along);
    return out.Magnitude() < 1e-12 ? out : out.Normalized();
}

gp_Vec turnedAbout(const gp_Vec& v, const gp_Vec& axis, double angle) {
    return v * std::cos(angle) + axis.Crossed(v) * std::sin(angle);
}

} // namespace

gp_Vec carried(const gp_Pnt& from, const gp_Vec& along, const gp_Vec& across, const gp_Pnt& to,
               const gp_Vec& next) {
    const gp_Vec v(from, to);
    const double c = v.SquareMagnitude();
    constexpr double kOne = 1e-6; // mm: the way between nearer places is noise, which may point anywhere
    if (c < kOne * kOne) return across;
    const gp_Vec r = across - v * (2 / c * v.Dot(across)), t = along - v * (2 / c * v.Dot(along));
    const gp_Vec w = next - t;
    const double d = w.SquareMagnitude();
    return d < 1e-30 ? r : r - w * (2 / d * w.Dot(r));
}

Frames::Frames(const std::vector<PathPiece>& pieces, bool closed, const gp_Vec& across, SweepLaw law)
    : m_pieces(pieces), m_law(std::move(law)) {
    for (const PathPiece& p : m_pieces) {
        m_before.push_back(m_length);
        m_length += p.curve.length();
    }
    walk(across);
    m_across = m_nodes.front().front().across;
    m_up = m_nodes.front().front().along.Crossed(m_across);
    if (!closed) return;
    const Node &first = m_nodes.front().front(), &last = m_nodes.back().back();
    m_twist = last.across.AngleWithRef(first.across, first.along);
}

void Frames::walk(const gp_Vec& across) {
    constexpr int kPerSpan = 48;
    gp_Vec now = squareTo(across, m_pieces.front().curve.tangent(0));
    Node before;
    for (const PathPiece& p : m_pieces) {
        const auto& breaks = p.curve.knots();
        const int parts = p.curve.isStraight() ? 1 : kPerSpan;
        std::vector<Node> nodes;
        for (std::size_t i = 0; i + 1 < breaks.size(); ++i)
            for (int k = 0; k <= parts; ++k) {
                if (k == 0 && i > 0) continue;
                Node n;
                n.s = breaks[i] + (breaks[i + 1] - breaks[i]) * k / parts;
                n.at = p.curve.at(n.s);
                n.along = p.curve.tangent(n.s);
                const bool first = m_nodes.empty() && nodes.empty();
                n.across =
                    first ? now
                          : squareTo(carried(before.at, before.along, before.across, n.at, n.along), n.along);
                before = n;
                nodes.push_back(n);
            }
        m_nodes.push_back(std::move(nodes));
    }
}

PathFrame Frames::at(std::size_t piece, double s) const {
    const LengthCurve& curve = m_pieces[piece].curve;
    const std::vector<Node>& nodes = m_nodes[piece];
    const auto next = std::upper_bound(nodes.begin() + 1, nodes.end() - 1, s,
                                       [](double x, const Node& n) { return x < n.s; });
    const Node& from = *(next - 1);
    PathFrame f;
    f.at = curve.at(s);
    f.along = curve.tangent(s);
    const double share = m_law.from + (m_law.to - m_law.from) * (m_before[piece] + s) / m_length;
    const double size = m_law.sizes ? m_law.sizes(share) : 1 + (m_law.size - 1) * share;
    if (m_law.parallel) {
        f.across = m_across * size;
        f.up = m_up * size;
        f.along = m_across.Crossed(m_up);
        return f;
    }
    gp_Vec across = squareTo(carried(from.at, from.along, from.across, f.at, f.along), f.along);
    if (m_law.leads) {
        const gp_Vec led = squareTo(m_law.leads(share, f.at), f.along);
        if (led.Magnitude() > 0.5) across = led;
    }
    across = turnedAbout(across, f.along, (m_law.turn + (m_law.leads ? 0 : m_twist)) * share);
    f.across = across * size;
    f.up = f.along.Crossed(across) * size;
    return f;
}

gp_Vec Frames::local(const gp_Pnt& p) const {
    const gp_Vec d(m_nodes.front().front().at, p);
    const PathFrame f = start();
    const double square = f.across.SquareMagnitude();
    return {d.Dot(f.across) / square, d.Dot(f.up) / square, d.Dot(f.along)};
}

} // namespace gc
