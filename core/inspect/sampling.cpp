#include "core/inspect/sampling.hpp"

#include "core/base/triangle.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <unordered_map>

namespace gc {

namespace {

using Triangle = std::array<std::uint32_t, 3>;

constexpr double kInset = 0.08; // of the way to the triangle's middle

double areaOf(const TriangleMesh& m, const Triangle& t) {
    return 0.5 * length(cross(m.points[t[1]] - m.points[t[0]], m.points[t[2]] - m.points[t[0]]));
}

/// Splits the triangles of a surface until no edge is longer than asked. An edge is halved at its middle and
/// its halves at theirs, whichever triangle is beside it, so that neighbours keep the same points. A triangle
/// that is narrow already gets points along its sides alone, and rungs between them: halved as a whole it
/// would grow ever narrower ones at its tip, three for each halving.
class Sampler {
  public:
    Sampler(SampledSurface& surface, double longest)
        : m_surface(surface), m_mesh(surface.mesh), m_longest(longest) {}

    void run() {
        std::vector<Triangle> out;
        for (MeshFace& f : m_mesh.faces) {
            const auto first = static_cast<std::uint32_t>(out.size());
            m_wide.assign(m_mesh.triangles.begin() + f.firstTriangle,
                          m_mesh.triangles.begin() + f.firstTriangle + f.triangleCount);
            while (!m_wide.empty()) {
                const Triangle t = m_wide.back();
                m_wide.pop_back();
                divide(t, out);
            }
            f.firstTriangle = first;
            f.triangleCount = static_cast<std::uint32_t>(out.size()) - first;
        }
        m_mesh.triangles = std::move(out);
    }

  private:
    double apart(std::uint32_t a, std::uint32_t b) const {
        return length(m_mesh.points[a] - m_mesh.points[b]);
    }

    /// The vertex at the middle of an edge; -1 where it is short enough.
    std::int64_t middle(std::uint32_t a, std::uint32_t b) {
        if (apart(a, b) <= m_longest) return -1;
        const auto [it, fresh] =
            m_middles.emplace(edgeKey(a, b), static_cast<std::uint32_t>(m_mesh.points.size()));
        if (fresh) {
            m_mesh.points.push_back((m_mesh.points[a] + m_mesh.points[b]) * 0.5);
            m_mesh.normals.push_back(unit(m_mesh.normals[a] + m_mesh.normals[b], m_mesh.normals[a]));
            m_surface.faceOf.push_back(m_surface.faceOf[a]);
        }
        return it->second;
    }

    void divide(const Triangle& t, std::vector<Triangle>& out) {
        const double sides[3] = {apart(t[0], t[1]), apart(t[1], t[2]), apart(t[2], t[0])};
        const double longest = *std::max_element(sides, sides + 3);
        if (longest <= m_longest) {
            out.push_back(t);
            return;
        }
        if (2 * areaOf(m_mesh, t) < m_longest * longest) { // its height over the longest side
            const auto k = static_cast<std::size_t>(std::max_element(sides, sides + 3) - sides);
            return ladder({t[k], t[(k + 1) % 3], t[(k + 2) % 3]}, out);
        }
        splitTriangle(
            t, {middle(t[0], t[1]), middle(t[1], t[2]), middle(t[2], t[0])},
            [&](std::uint32_t a, std::uint32_t b) { return apart(a, b); },
            [&](std::uint32_t x, std::uint32_t y, std::uint32_t z) {
                m_wide.push_back({x, y, z});
            });
    }

    /// The points along an edge after its first one, to its last.
    void along(std::uint32_t a, std::uint32_t b, std::vector<std::uint32_t>& chain) {
        const std::int64_t m = middle(a, b);
        if (m >= 0) {
            along(a, static_cast<std::uint32_t>(m), chain);
            along(static_cast<std::uint32_t>(m), b, chain);
        } else {
            chain.push_back(b);
        }
    }

    /// \param t its longest side is that from the first corner to the second
    void ladder(const Triangle& t, std::vector<Triangle>& out) {
        m_near.assign(1, t[0]);
        along(t[0], t[1], m_near);
        m_far.assign(1, t[0]);
        along(t[0], t[2], m_far);
        along(t[2], t[1], m_far);
        const Vec3 from = m_mesh.points[t[0]], way = m_mesh.points[t[1]] - from;
        const auto place = [&](std::uint32_t v) { return dot(m_mesh.points[v] - from, way); };
        std::size_t i = 0,
                    j = 0; // the last rung is between these two; both chains begin and end at one point
        while (i + 1 < m_near.size() || j + 1 < m_far.size()) {
            const bool onNear = j + 1 == m_far.size() ||
                                (i + 1 < m_near.size() && place(m_near[i + 1]) < place(m_far[j + 1]));
            const Triangle rung{m_near[i], m_near[onNear ? i + 1 : i], m_far[onNear ? j : j + 1]};
            const Triangle next = onNear ? rung : Triangle{m_near[i], m_far[j + 1], m_far[j]};
            (onNear ? i : j) += 1;
            if (next[0] != next[1] && next[1] != next[2] && next[2] != next[0]) out.push_back(next);
        }
    }

    SampledSurface& m_surface;
    TriangleMesh& m_mesh;
    double m_longest;
    std::unordered_map<std::uint64_t, std::uint32_t> m_middles;
    std::vector<Triangle> m_wide;             ///< of the face at hand, not looked at yet
    std::vector<std::uint32_t> m_near, m_far; ///< of a narrow triangle
};

/// About how many vertices there will be with edges of that length: each triangle has half a vertex, and is
/// half of what lies along its longest side.
double expected(const TriangleMesh& mesh, double longest) {
    const auto halves = [](double length) {
        return length <= 1 ? 1 : std::exp2(std::ceil(std::log2(length)));
    };
    double sum = static_cast<double>(mesh.points.size());
    for (const Triangle& t : mesh.triangles) {
        double side = 0;
        for (std::size_t k = 0; k < 3; ++k)
            side = std::max(side, length(mesh.points[t[k]] - mesh.points[t[(k + 1) % 3]]));
        if (side <= longest) continue;
        sum += halves(side / longest) * halves(2 * areaOf(mesh, t) / side / longest);
    }
    return sum;
}

} // namespace

SampledSurface sampleSurface(const TriangleMesh& mesh, double longestEdge, std::size_t most) {
    SampledSurface s;
    const double bound = std::max(static_cast<double>(most), 2.0 * static_cast<double>(mesh.points.size()));
    for (s.apart = longestEdge; expected(mesh, s.apart) > bound; s.apart *= 1.2) s.coarse = true;
    s.mesh = mesh;
    s.mesh.shared.clear();
    s.faceOf.resize(mesh.points.size());
    for (std::uint32_t f = 0; f < mesh.faces.size(); ++f)
        std::fill_n(s.faceOf.begin() + mesh.faces[f].firstVertex, mesh.faces[f].vertexCount, f);
    Sampler(s, s.apart).run();
    const std::size_t n = s.mesh.points.size();
    s.areas.assign(n, 0);
    s.samples.assign(n, {});
    std::vector<double> weight(n, 0);
    for (const auto& t : s.mesh.triangles) {
        const Vec3 a = s.mesh.points[t[0]], b = s.mesh.points[t[1]], c = s.mesh.points[t[2]],
                   centre = (a + b + c) / 3;
        const double area = areaOf(s.mesh, t);
        for (const std::uint32_t v : t) {
            s.areas[v] += area / 3;
            s.samples[v] += (s.mesh.points[v] + (centre - s.mesh.points[v]) * kInset) * area;
            weight[v] += area;
        }
    }
    for (std::size_t i = 0; i < n; ++i)
        s.samples[i] = weight[i] > 0 ? s.samples[i] / weight[i] : s.mesh.points[i];
    return s;
}

} // namespace gc
