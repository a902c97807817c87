#include "core/shape/dexels.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

struct Flat {
    Vec2 p;
    double depth = 0;
};

Flat seen(const DexelGrid& grid, Vec3 p) {
    return {{dot(p, grid.across), dot(p, grid.up)}, dot(p, grid.along)};
}

} // namespace

DexelGrid gridOver(const std::vector<const TriangleMesh*>& meshes, int columns) {
    DexelGrid grid;
    grid.along = unit(Vec3{0.3141, 0.5926, 0.7411});
    grid.across = unit(cross(Vec3{0, 0, 1}, grid.along));
    grid.up = cross(grid.along, grid.across);
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    for (const TriangleMesh* mesh : meshes)
        for (const Vec3& p : mesh->points) {
            const Vec2 q = seen(grid, p).p;
            low = {std::min(low.x, q.x), std::min(low.y, q.y)};
            high = {std::max(high.x, q.x), std::max(high.y, q.y)};
        }
    if (low.x > high.x) return grid;
    const Vec2 size = high - low;
    grid.step = std::max(size.x, size.y) / columns * (1 + 1e-9);
    // Not in line with the box: nothing that is flat there lies in a row of lines.
    grid.low = low - Vec2{0.37, 0.41} * grid.step;
    grid.wide = static_cast<int>(size.x / grid.step) + 2;
    grid.high = static_cast<int>(size.y / grid.step) + 2;
    return grid;
}

Dexels::Dexels(const TriangleMesh& mesh, const DexelGrid& grid) : m_cell(grid.step * grid.step) {
    struct Found {
        std::size_t column = 0;
        Crossing crossing;
    };
    std::vector<Found> found;
    found.reserve(4 * static_cast<std::size_t>(grid.wide) * static_cast<std::size_t>(grid.high));
    std::vector<Flat> points;
    points.reserve(mesh.points.size());
    for (const Vec3& p : mesh.points) points.push_back(seen(grid, p));
    const auto first = [&](double least, double from) {
        return std::max(0, static_cast<int>(std::ceil((least - from) / grid.step - 0.5)));
    };
    const auto last = [&](double most, double from, int count) {
        return std::min(count - 1, static_cast<int>(std::floor((most - from) / grid.step - 0.5)));
    };
    const auto high = static_cast<std::size_t>(grid.high);
    for (const auto& t : mesh.triangles) {
        const Flat &a = points[t[0]], &b = points[t[1]], &c = points[t[2]];
        const int i0 = first(std::min({a.p.x, b.p.x, c.p.x}), grid.low.x),
                  i1 = last(std::max({a.p.x, b.p.x, c.p.x}), grid.low.x, grid.wide);
        const int j0 = first(std::min({a.p.y, b.p.y, c.p.y}), grid.low.y),
                  j1 = last(std::max({a.p.y, b.p.y, c.p.y}), grid.low.y, grid.high);
        if (i0 > i1 || j0 > j1) continue; // most of a fine mesh: between the lines
        const double area = cross(b.p - a.p, c.p - a.p);
        if (area == 0) continue;
        for (int i = i0; i <= i1; ++i)
            for (int j = j0; j <= j1; ++j) {
                const Vec2 at = grid.low + Vec2{i + 0.5, j + 0.5} * grid.step;
                const double u = cross(at - a.p, c.p - a.p) / area, v = cross(b.p - a.p, at - a.p) / area;
                if (u < 0 || v < 0 || u + v > 1) continue;
                const double depth = a.depth + u * (b.depth - a.depth) + v * (c.depth - a.depth);
                // A triangle that looks against the line is entered through.
                found.push_back({static_cast<std::size_t>(i) * high + static_cast<std::size_t>(j),
                                 {depth, area > 0 ? -1 : 1}});
            }
    }
    const std::size_t columns = static_cast<std::size_t>(grid.wide) * high;
    m_first.assign(columns + 1, 0);
    for (const Found& f : found) ++m_first[f.column + 1];
    for (std::size_t k = 0; k < columns; ++k) m_first[k + 1] += m_first[k];
    m_crossings.resize(found.size());
    std::vector<std::size_t> next(m_first.begin(), m_first.end() - 1);
    for (const Found& f : found) m_crossings[next[f.column]++] = f.crossing;
    for (std::size_t k = 0; k < columns; ++k)
        std::sort(m_crossings.begin() + std::ptrdiff_t(m_first[k]),
                  m_crossings.begin() + std::ptrdiff_t(m_first[k + 1]),
                  [](const Crossing& a, const Crossing& b) { return a.at < b.at; });
}

double Dexels::wronglyWound() const {
    double length = 0;
    for (std::size_t k = 0; k + 1 < m_first.size(); ++k) {
        int winding = 0;
        for (std::size_t i = m_first[k]; i + 1 < m_first[k + 1]; ++i) {
            winding += m_crossings[i].way;
            if (winding < 0 || winding > 1) length += m_crossings[i + 1].at - m_crossings[i].at;
        }
    }
    return length * m_cell;
}

double Dexels::breaking(const Dexels& a, const Dexels& b, const Dexels& result,
                        const std::function<bool(bool, bool, bool)>& rule) {
    const Dexels* all[] = {&a, &b, &result};
    double length = 0;
    for (std::size_t k = 0; k + 1 < result.m_first.size(); ++k) {
        // Each is in order: the next of the three is the next of all.
        std::size_t at[3], end[3];
        for (std::size_t s = 0; s < 3; ++s) at[s] = all[s]->m_first[k], end[s] = all[s]->m_first[k + 1];
        int winding[3] = {0, 0, 0};
        double before = 0;
        bool wanted = true;
        while (at[0] < end[0] || at[1] < end[1] || at[2] < end[2]) {
            std::size_t next = 3;
            for (std::size_t s = 0; s < 3; ++s)
                if (at[s] < end[s] &&
                    (next == 3 || all[s]->m_crossings[at[s]].at < all[next]->m_crossings[at[next]].at))
                    next = s;
            const Crossing& c = all[next]->m_crossings[at[next]++];
            if (!wanted) length += c.at - before;
            winding[next] += c.way;
            wanted = rule(winding[0] > 0, winding[1] > 0, winding[2] > 0);
            before = c.at;
        }
    }
    return length * result.m_cell;
}

} // namespace gc
