#include "core/shape/mesher/patch.hpp"

#include "core/base/triangle.hpp"

#include <algorithm>
#include <cstdint>
#include <unordered_map>

namespace gc {

int Patch::add(const BoundaryPoint& point) {
    points.push_back(point.p);
    uv.push_back({point.u, point.v});
    ids.push_back(point.id);
    normals.push_back({});
    return static_cast<int>(points.size()) - 1;
}

int Patch::add(Vec3 point, Vec3 normal, Vec2 at) {
    points.push_back(point);
    uv.push_back(at);
    ids.push_back(-1);
    normals.push_back(normal);
    return static_cast<int>(points.size()) - 1;
}

namespace {

double signedSag(const Patch& patch, int a, int b) {
    const auto i = static_cast<std::size_t>(a), j = static_cast<std::size_t>(b);
    return dot(patch.points[j] - patch.points[i], patch.normals[j] - patch.normals[i]) / 8;
}

} // namespace

double chordSag(const Patch& patch, int a, int b) {
    return std::fabs(signedSag(patch, a, b));
}

double triangleSag(const Patch& patch, const std::array<int, 3>& t) {
    const double x = signedSag(patch, t[0], t[1]), y = signedSag(patch, t[1], t[2]),
                 z = signedSag(patch, t[2], t[0]);
    // On a quadratic surface the middle of a triangle stands off by 4/9 of the sum of its sides' sags.
    return std::max({std::fabs(x), std::fabs(y), std::fabs(z), std::fabs(x + y + z) * 4 / 9});
}

void completeNormals(const SurfaceEval& surface, Patch& patch) {
    for (std::size_t i = 0; i < patch.points.size(); ++i)
        if (dot(patch.normals[i], patch.normals[i]) < 0.5) {
            Vec3 there;
            surface.at(patch.uv[i].x, patch.uv[i].y, there, patch.normals[i]);
        }
}

namespace {

/// Splits what sags too much, until nothing does.
class Refiner {
  public:
    Refiner(const SurfaceEval& surface, Patch& patch, double deviation)
        : m_surface(surface), m_patch(patch), m_deviation(deviation), m_limit(kSagTaken * deviation) {}

    void run() {
        for (int pass = 0; pass < 5; ++pass) {
            std::vector<std::size_t> off;
            for (std::size_t i = 0; i < m_patch.triangles.size(); ++i)
                if (triangleSag(m_patch, m_patch.triangles[i]) > m_limit) off.push_back(i);
            if (off.empty()) break;
            if (pass == 0) countBoundary();
            m_middles.clear();
            for (const std::size_t i : off) markSides(m_patch.triangles[i]);
            if (m_middles.empty()) break;
            split();
        }
    }

  private:
    static std::uint64_t key(int a, int b) {
        return edgeKey(static_cast<std::uint32_t>(a), static_cast<std::uint32_t>(b));
    }
    bool bothShared(int a, int b) const {
        return m_patch.ids[static_cast<std::size_t>(a)] >= 0 && m_patch.ids[static_cast<std::size_t>(b)] >= 0;
    }
    void countBoundary() {
        for (const auto& t : m_patch.triangles)
            for (std::size_t k = 0; k < 3; ++k)
                if (bothShared(t[k], t[(k + 1) % 3])) ++m_uses[key(t[k], t[(k + 1) % 3])];
    }
    bool onBoundary(int a, int b) const {
        if (!bothShared(a, b)) return false;
        const auto found = m_uses.find(key(a, b));
        return found != m_uses.end() && found->second == 1;
    }

    /// Every inner side over the limit; where none is, the worst, since only the middle sags.
    void markSides(const std::array<int, 3>& t) {
        double worst = 0;
        std::uint64_t worstKey = 0;
        bool marked = false;
        for (std::size_t k = 0; k < 3; ++k) {
            const int a = t[k], b = t[(k + 1) % 3];
            if (onBoundary(a, b)) continue;
            const double sag = chordSag(m_patch, a, b);
            if (sag > worst) {
                worst = sag;
                worstKey = key(a, b);
            }
            if (sag > m_limit) {
                m_middles[key(a, b)] = -1;
                marked = true;
            }
        }
        if (!marked && worst > 0.6 * m_deviation) m_middles[worstKey] = -1;
    }

    int middle(int a, int b) {
        const auto found = m_middles.find(key(a, b));
        if (found == m_middles.end()) return -1;
        if (found->second < 0) {
            const Vec2 at =
                (m_patch.uv[static_cast<std::size_t>(a)] + m_patch.uv[static_cast<std::size_t>(b)]) * 0.5;
            Vec3 p, n;
            m_surface.at(at.x, at.y, p, n);
            found->second = m_patch.add(p, n, at);
        }
        return found->second;
    }

    void split() {
        std::vector<std::array<int, 3>> made;
        made.reserve(m_patch.triangles.size() + 3 * m_middles.size());
        const auto apart = [&](int p, int q) {
            return length(m_patch.points[static_cast<std::size_t>(p)] -
                          m_patch.points[static_cast<std::size_t>(q)]);
        };
        for (const auto& t : m_patch.triangles)
            splitTriangle<int>(t, {middle(t[0], t[1]), middle(t[1], t[2]), middle(t[2], t[0])}, apart,
                               [&](int a, int b, int c) {
                                   made.push_back({a, b, c});
                               });
        m_patch.triangles.swap(made);
    }

    const SurfaceEval& m_surface;
    Patch& m_patch;
    double m_deviation, m_limit;
    std::unordered_map<std::uint64_t, int> m_uses;    // of edges between boundary points
    std::unordered_map<std::uint64_t, int> m_middles; // of the edges to split; -1 until made
};

} // namespace

void refine(const SurfaceEval& surface, Patch& patch, double deviation) {
    Refiner(surface, patch, deviation).run();
}

} // namespace gc
