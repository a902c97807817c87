#include "core/steps/loft/sound.hpp"

#include "core/shape/kernel.hpp"
#include "core/shape/self_crossing.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The wall as a net of places: columns round, rows along.
struct Net {
    std::vector<std::vector<gp_Pnt>> rows;
};

Net netOf(const Skin& skin) {
    constexpr int kRound = 120, kAlong = 14;
    const double round = skin.spans().back().to;
    std::vector<Skin::Across> looks;
    for (std::size_t k = 0; k < skin.spans().size(); ++k) {
        const LoftSpan& s = skin.spans()[k];
        const int parts = std::max(3, static_cast<int>(std::lround(kRound * (s.to - s.from) / round)));
        for (int i = 0; i < parts; ++i) looks.push_back(skin.across(k, s.from + (s.to - s.from) * i / parts));
    }
    Net out;
    const auto& stops = skin.stops();
    for (std::size_t i = 0; i + 1 < stops.size(); ++i)
        for (int k = 0; k < kAlong + (i + 2 == stops.size() && !skin.plan().closed ? 1 : 0); ++k) {
            const auto along = skin.along(stops[i] + (stops[i + 1] - stops[i]) * k / kAlong);
            out.rows.emplace_back();
            for (const auto& look : looks) out.rows.back().push_back(Skin::at(look, along));
        }
    return out;
}

struct Triangles {
    std::vector<Vec3> points;
    std::vector<IndexTriangle> list;
};

void add(const Net& net, const LoftPlan& plan, Triangles& to) {
    const std::size_t rows = net.rows.size(), round = net.rows.front().size(), first = to.points.size();
    for (const auto& row : net.rows)
        for (const gp_Pnt& p : row) to.points.push_back(toVec(p));
    const auto index = [&](std::size_t row, std::size_t column) {
        const std::size_t r = row % rows;
        const bool pole = !plan.closed && ((r == 0 && plan.sections.front().isPoint()) ||
                                           (r + 1 == rows && plan.sections.back().isPoint()));
        return static_cast<std::uint32_t>(first + r * round + (pole ? 0 : column % round));
    };
    const auto triangle = [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        if (a != b && b != c && a != c) to.list.push_back({a, b, c});
    };
    for (std::size_t r = 0; r + (plan.closed ? 0 : 1) < rows; ++r)
        for (std::size_t c = 0; c < round; ++c) {
            triangle(index(r, c), index(r, c + 1), index(r + 1, c + 1));
            triangle(index(r, c), index(r + 1, c + 1), index(r + 1, c));
        }
}

bool inside(const std::vector<Vec2>& line, Vec2 p) {
    bool in = false;
    for (std::size_t i = 0, j = line.size() - 1; i < line.size(); j = i++)
        if ((line[i].y > p.y) != (line[j].y > p.y) &&
            p.x < (line[j].x - line[i].x) * (p.y - line[i].y) / (line[j].y - line[i].y) + line[i].x)
            in = !in;
    return in;
}

/// Does the wall pierce a flat end? Its own rim is on it, so that counts not.
std::optional<gp_Pnt> withCap(const Net& net, const LoftSection& section, bool last) {
    const gp_Vec n = section.normal();
    const gp_Vec across =
        (std::fabs(n.X()) < 0.9 ? n.Crossed(gp_Vec(1, 0, 0)) : n.Crossed(gp_Vec(0, 1, 0))).Normalized();
    const gp_Vec up = n.Crossed(across);
    const auto flat = [&](const gp_Pnt& p) {
        const gp_Vec d(section.middle(), p);
        return Vec2{d.Dot(across), d.Dot(up)};
    };
    std::vector<Vec2> rim;
    for (const gp_Pnt& p : last ? net.rows.back() : net.rows.front()) rim.push_back(flat(p));
    const double least = 1e-6 * section.size();
    const auto before = [&](const gp_Pnt& p) { return gp_Vec(section.middle(), p).Dot(n); };
    const std::size_t rows = net.rows.size();
    const auto pierces = [&](const gp_Pnt& a, const gp_Pnt& b) -> std::optional<gp_Pnt> {
        const double x = before(a), y = before(b);
        if (x * y >= 0 || std::fabs(x) < least || std::fabs(y) < least) return std::nullopt;
        const gp_Pnt p(a.XYZ() + (b.XYZ() - a.XYZ()) * (x / (x - y)));
        return inside(rim, flat(p)) ? std::optional(p) : std::nullopt;
    };
    for (std::size_t r = last ? 0 : 1; r + (last ? 1 : 0) < rows; ++r)
        for (std::size_t c = 0; c < net.rows[r].size(); ++c) {
            if (auto p = pierces(net.rows[r][c], net.rows[r][(c + 1) % net.rows[r].size()])) return p;
            if (r + 1 < rows && (!last || r + 2 < rows))
                if (auto p = pierces(net.rows[r][c], net.rows[r + 1][c])) return p;
        }
    return std::nullopt;
}

} // namespace

std::optional<gp_Pnt> crossingOf(const std::vector<Skin>& skins) {
    std::vector<Net> nets;
    Triangles all;
    for (const Skin& skin : skins) {
        nets.push_back(netOf(skin));
        add(nets.back(), skin.plan(), all);
    }
    if (const auto at = selfCrossing(all.points, all.list)) return gp_Pnt(at->x, at->y, at->z);
    const LoftPlan& plan = skins.front().plan();
    if (plan.closed) return std::nullopt;
    if (!plan.sections.front().isPoint())
        if (auto p = withCap(nets.front(), plan.sections.front(), false)) return p;
    if (!plan.sections.back().isPoint())
        if (auto p = withCap(nets.front(), plan.sections.back(), true)) return p;
    return std::nullopt;
}

} // namespace gc
