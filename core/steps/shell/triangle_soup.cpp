#include "core/steps/shell/triangle_soup.hpp"

#include "core/base/triangle.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr std::size_t kCells = 64; // a side

Vec3 cornerOf(const Patch& patch, std::size_t triangle, std::size_t k) {
    return patch.points[static_cast<std::size_t>(patch.triangles[triangle][k])];
}
Vec3 least(Vec3 a, Vec3 b) {
    return {std::min(a.x, b.x), std::min(a.y, b.y), std::min(a.z, b.z)};
}
Vec3 most(Vec3 a, Vec3 b) {
    return {std::max(a.x, b.x), std::max(a.y, b.y), std::max(a.z, b.z)};
}

} // namespace

InsideOfMesh::InsideOfMesh(const MeshedBody& body)
    : m_body(body), m_way(unit(Vec3{0.2137, 0.1471, 0.9657})), m_cells(kCells * kCells) {
    m_x = unit(cross(m_way, Vec3{0, 1, 0}));
    m_y = cross(m_way, m_x);
    Shadow low{1e300, 1e300}, high{-1e300, -1e300};
    for (const Patch& patch : body.faces)
        for (const Vec3& p : patch.points) {
            const Shadow s = shadowOf(p);
            low = {std::min(low.x, s.x), std::min(low.y, s.y)};
            high = {std::max(high.x, s.x), std::max(high.y, s.y)};
        }
    m_lowX = low.x;
    m_lowY = low.y;
    m_sizeX = std::max(high.x - low.x, 1e-9) / kCells;
    m_sizeY = std::max(high.y - low.y, 1e-9) / kCells;
    for (std::uint32_t f = 0; f < body.faces.size(); ++f) {
        const Patch& patch = body.faces[f];
        for (std::uint32_t t = 0; t < patch.triangles.size(); ++t) {
            const Shadow a = shadowOf(cornerOf(patch, t, 0)), b = shadowOf(cornerOf(patch, t, 1)),
                         c = shadowOf(cornerOf(patch, t, 2));
            const auto x0 = columnOf(std::min({a.x, b.x, c.x}), m_lowX, m_sizeX),
                       x1 = columnOf(std::max({a.x, b.x, c.x}), m_lowX, m_sizeX),
                       y0 = columnOf(std::min({a.y, b.y, c.y}), m_lowY, m_sizeY),
                       y1 = columnOf(std::max({a.y, b.y, c.y}), m_lowY, m_sizeY);
            for (std::size_t y = y0; y <= y1; ++y)
                for (std::size_t x = x0; x <= x1; ++x) m_cells[y * kCells + x].emplace_back(f, t);
        }
    }
}

std::size_t InsideOfMesh::columnOf(double x, double low, double size) const {
    return static_cast<std::size_t>(std::clamp((x - low) / size, 0.0, kCells - 1.0));
}

bool InsideOfMesh::holds(const Vec3& p) const {
    const Shadow s = shadowOf(p);
    bool in = false;
    for (const auto& [f, t] :
         m_cells[columnOf(s.y, m_lowY, m_sizeY) * kCells + columnOf(s.x, m_lowX, m_sizeX)]) {
        const Patch& patch = m_body.faces[f];
        const Vec3 a = cornerOf(patch, t, 0), u = cornerOf(patch, t, 1) - a, v = cornerOf(patch, t, 2) - a;
        const Vec3 h = cross(m_way, v); // Möller, Trumbore 1997
        const double d = dot(u, h);
        if (std::fabs(d) < 1e-14) continue;
        const Vec3 o = p - a, q = cross(o, u);
        const double x = dot(o, h) / d, y = dot(m_way, q) / d;
        if (x >= 0 && y >= 0 && x + y <= 1 && dot(v, q) / d > 0) in = !in;
    }
    return in;
}

NearestOnPatch::NearestOnPatch(const Patch& patch) : m_patch(&patch) {
    constexpr std::size_t kTogether = 24;
    for (std::size_t from = 0; from < patch.triangles.size(); from += kTogether) {
        const std::size_t to = std::min(from + kTogether, patch.triangles.size());
        Group g{cornerOf(patch, from, 0), cornerOf(patch, from, 0), from, to};
        for (std::size_t t = from; t < to; ++t)
            for (std::size_t k = 0; k < 3; ++k) {
                g.low = least(g.low, cornerOf(patch, t, k));
                g.high = most(g.high, cornerOf(patch, t, k));
            }
        m_groups.push_back(g);
    }
}

double NearestOnPatch::distance(const Vec3& p, double bound) const {
    double out = bound * (1 + 1e-9) + 1e-9;
    for (const Group& g : m_groups) {
        const Vec3 off = most(most(g.low - p, p - g.high), {});
        if (length(off) >= out) continue;
        for (std::size_t t = g.from; t < g.to; ++t)
            out = std::min(out, length(nearestOnTriangle(p, cornerOf(*m_patch, t, 0),
                                                         cornerOf(*m_patch, t, 1), cornerOf(*m_patch, t, 2)) -
                                       p));
    }
    return out;
}

} // namespace gc
