#include "core/steps/shared/straight_looks.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace gc {

namespace {

constexpr int kCells = 96; // each way

} // namespace

StraightLooks::StraightLooks(const NamedShape& shape, const Plane& plane) : m_plane(plane) {
    std::pair<int, std::string> fault;
    const MeshBounds bounds{kDeviation, 0.35, 0.6};
    m_good = meshBody(shape, bounds, m_body, fault);
    if (!m_good) return;
    Vec2 high{-1e300, -1e300};
    m_low = {1e300, 1e300};
    for (const Patch& p : m_body.faces)
        for (const Vec3& q : p.points) {
            const Vec2 at = plane.foot(q);
            m_low = {std::min(m_low.x, at.x), std::min(m_low.y, at.y)};
            high = {std::max(high.x, at.x), std::max(high.y, at.y)};
        }
    m_across = m_up = kCells;
    m_cell = {std::max(1e-9, (high.x - m_low.x) / kCells), std::max(1e-9, (high.y - m_low.y) / kCells)};
    m_cells.resize(static_cast<std::size_t>(m_across) * static_cast<std::size_t>(m_up));
    for (std::size_t f = 0; f < m_body.faces.size(); ++f) {
        const Patch& p = m_body.faces[f];
        for (std::size_t t = 0; t < p.triangles.size(); ++t) {
            Vec2 a{1e300, 1e300}, b{-1e300, -1e300};
            for (const int k : p.triangles[t]) {
                const Vec2 at = plane.foot(p.points[static_cast<std::size_t>(k)]);
                a = {std::min(a.x, at.x), std::min(a.y, at.y)};
                b = {std::max(b.x, at.x), std::max(b.y, at.y)};
            }
            const auto index = [&](double v, double low, double cell, int count) {
                return std::clamp(static_cast<int>((v - low) / cell), 0, count - 1);
            };
            for (int i = index(a.x, m_low.x, m_cell.x, m_across);
                 i <= index(b.x, m_low.x, m_cell.x, m_across); ++i)
                for (int j = index(a.y, m_low.y, m_cell.y, m_up); j <= index(b.y, m_low.y, m_cell.y, m_up);
                     ++j)
                    m_cells[static_cast<std::size_t>(j * m_across + i)].emplace_back(
                        static_cast<std::uint32_t>(f), static_cast<std::uint32_t>(t));
        }
    }
}

std::vector<StraightLooks::Met> StraightLooks::through(Vec2 place) const {
    std::vector<Met> out;
    const double x = (place.x - m_low.x) / m_cell.x, y = (place.y - m_low.y) / m_cell.y;
    if (!m_good || x < 0 || y < 0 || x > m_across || y > m_up) return out;
    const int i = std::min(static_cast<int>(x), m_across - 1), j = std::min(static_cast<int>(y), m_up - 1);
    for (const auto& [f, t] : m_cells[static_cast<std::size_t>(j * m_across + i)]) {
        const Patch& p = m_body.faces[f];
        std::array<Vec2, 3> at;
        std::array<std::size_t, 3> k{};
        for (std::size_t c = 0; c < 3; ++c) {
            k[c] = static_cast<std::size_t>(p.triangles[t][c]);
            at[c] = m_plane.foot(p.points[k[c]]);
        }
        const double whole = cross(at[1] - at[0], at[2] - at[0]);
        if (whole == 0) continue; // seen from its edge
        std::array<double, 3> w{};
        bool in = true;
        for (std::size_t c = 0; c < 3; ++c) {
            w[c] = cross(at[(c + 1) % 3] - place, at[(c + 2) % 3] - place) / whole;
            in &= w[c] >= 0;
        }
        if (!in) continue;
        Met met;
        met.face = static_cast<int>(f);
        for (std::size_t c = 0; c < 3; ++c) {
            met.height += w[c] * m_plane.before(p.points[k[c]]);
            met.uv.SetCoord(met.uv.X() + w[c] * p.uv[k[c]].x, met.uv.Y() + w[c] * p.uv[k[c]].y);
        }
        out.push_back(met);
    }
    std::sort(out.begin(), out.end(), [](const Met& a, const Met& b) { return a.height < b.height; });
    // A line through an edge between two triangles of one face meets both.
    constexpr double kSame = 1e-6; // mm
    out.erase(std::unique(out.begin(), out.end(),
                          [](const Met& a, const Met& b) {
                              return a.face == b.face && std::fabs(a.height - b.height) < kSame;
                          }),
              out.end());
    return out;
}

} // namespace gc
