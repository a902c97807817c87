#include "core/shape/self_crossing.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace gc {

namespace {

struct Bounds {
    Vec3 low{1e300, 1e300, 1e300}, high{-1e300, -1e300, -1e300};
    void add(const Bounds& b) {
        low = {std::min(low.x, b.low.x), std::min(low.y, b.low.y), std::min(low.z, b.low.z)};
        high = {std::max(high.x, b.high.x), std::max(high.y, b.high.y), std::max(high.z, b.high.z)};
    }
    bool meets(const Bounds& b) const {
        return low.x <= b.high.x && b.low.x <= high.x && low.y <= b.high.y && b.low.y <= high.y &&
               low.z <= b.high.z && b.low.z <= high.z;
    }
};

/// Where a segment goes through a triangle, its border included: triangles without a common corner do not
/// even touch in a sound surface. Lying in it counts not.
std::optional<Vec3> pierced(Vec3 from, Vec3 to, Vec3 a, Vec3 b, Vec3 c) {
    // Signed volumes, compared with what rounding makes of them.
    const Vec3 n = cross(b - a, c - a), d = to - from;
    const double least = 1e-12 * length(n) * (length(d) + length(b - a));
    const double before = dot(from - a, n), after = dot(to - a, n);
    if (before * after >= 0 || std::fabs(before) < least || std::fabs(after) < least) return std::nullopt;
    const Vec3 p = from + d * (before / (before - after));
    const double all = dot(n, n), margin = 1e-9 * all;
    const double u = dot(cross(b - p, c - p), n), v = dot(cross(c - p, a - p), n);
    if (u < -margin || v < -margin || all - u - v < -margin) return std::nullopt;
    return p;
}

class Tree {
  public:
    Tree(const std::vector<Vec3>& points, const std::vector<IndexTriangle>& triangles)
        : m_points(points), m_triangles(triangles), m_order(triangles.size()) {
        std::iota(m_order.begin(), m_order.end(), std::size_t(0));
        for (const IndexTriangle& t : triangles) {
            Bounds b;
            for (const std::uint32_t i : t) b.add({points[i], points[i]});
            m_bounds.push_back(b);
        }
        if (!triangles.empty()) build(0, triangles.size());
    }

    std::optional<Vec3> crossing() const { return m_nodes.empty() ? std::nullopt : within(0); }

  private:
    struct Node {
        Bounds bounds;
        std::size_t from = 0, to = 0;
        std::size_t left = 0, right = 0; ///< 0: a leaf
    };

    std::size_t build(std::size_t from, std::size_t to) {
        const std::size_t index = m_nodes.size();
        m_nodes.push_back({{}, from, to});
        Bounds all;
        for (std::size_t i = from; i < to; ++i) all.add(m_bounds[m_order[i]]);
        m_nodes[index].bounds = all;
        constexpr std::size_t kLeaf = 6;
        if (to - from <= kLeaf) return index;
        const Vec3 size = all.high - all.low;
        const auto along = [&](const Bounds& b) {
            if (size.x >= size.y && size.x >= size.z) return b.low.x + b.high.x;
            return size.y >= size.z ? b.low.y + b.high.y : b.low.z + b.high.z;
        };
        const std::size_t middle = (from + to) / 2;
        const auto at = [&](std::size_t i) { return m_order.begin() + static_cast<std::ptrdiff_t>(i); };
        std::nth_element(at(from), at(middle), at(to), [&](std::size_t a, std::size_t b) {
            return along(m_bounds[a]) < along(m_bounds[b]);
        });
        const std::size_t left = build(from, middle), right = build(middle, to);
        m_nodes[index].left = left;
        m_nodes[index].right = right;
        return index;
    }

    std::optional<Vec3> within(std::size_t node) const {
        const Node& n = m_nodes[node];
        if (n.left == 0) return between(n, n);
        if (auto p = within(n.left)) return p;
        if (auto p = within(n.right)) return p;
        return across(n.left, n.right);
    }

    std::optional<Vec3> across(std::size_t a, std::size_t b) const {
        const Node &x = m_nodes[a], &y = m_nodes[b];
        if (!x.bounds.meets(y.bounds)) return std::nullopt;
        if (x.left == 0 && y.left == 0) return between(x, y);
        const bool first = y.left == 0 || (x.left != 0 && x.to - x.from > y.to - y.from);
        const std::size_t kept = first ? b : a;
        const Node& parted = first ? x : y;
        if (auto p = across(parted.left, kept)) return p;
        return across(parted.right, kept);
    }

    std::optional<Vec3> between(const Node& a, const Node& b) const {
        for (std::size_t i = a.from; i < a.to; ++i)
            for (std::size_t j = &a == &b ? i + 1 : b.from; j < b.to; ++j)
                if (auto p = cross2(m_order[i], m_order[j])) return p;
        return std::nullopt;
    }

    std::optional<Vec3> cross2(std::size_t i, std::size_t j) const {
        if (!m_bounds[i].meets(m_bounds[j])) return std::nullopt;
        const IndexTriangle &s = m_triangles[i], &t = m_triangles[j];
        for (const std::uint32_t a : s)
            if (std::find(t.begin(), t.end(), a) != t.end()) return std::nullopt;
        for (std::size_t k = 0; k < 3; ++k) {
            if (auto p = pierced(m_points[s[k]], m_points[s[(k + 1) % 3]], m_points[t[0]], m_points[t[1]],
                                 m_points[t[2]]))
                return p;
            if (auto p = pierced(m_points[t[k]], m_points[t[(k + 1) % 3]], m_points[s[0]], m_points[s[1]],
                                 m_points[s[2]]))
                return p;
        }
        return std::nullopt;
    }

    const std::vector<Vec3>& m_points;
    const std::vector<IndexTriangle>& m_triangles;
    std::vector<std::size_t> m_order;
    std::vector<Bounds> m_bounds;
    std::vector<Node> m_nodes;
};

} // namespace

std::optional<Vec3> selfCrossing(const std::vector<Vec3>& points,
                                 const std::vector<IndexTriangle>& triangles) {
    return Tree(points, triangles).crossing();
}

} // namespace gc
