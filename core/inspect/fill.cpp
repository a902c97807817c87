#include "core/inspect/fill.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>
#include <unordered_map>

namespace gc {

namespace {

constexpr std::array<double, 4> kNodes{-0.8611363115940526, -0.3399810435848563, 0.3399810435848563,
                                       0.8611363115940526};
constexpr std::array<double, 4> kWeights{0.3478548451374538, 0.6521451548625461, 0.6521451548625461,
                                         0.3478548451374538};

/// One closed curve of a level section. The signed area is positive around material, negative around a void.
struct Loop {
    std::vector<Vec2> points;
    double area = 0;
    double low[2], high[2];

    bool contains(Vec2 p) const {
        if (p.x < low[0] || p.x > high[0] || p.y < low[1] || p.y > high[1]) return false;
        bool in = false;
        for (std::size_t i = 0, j = points.size() - 1; i < points.size(); j = i++) {
            const Vec2 a = points[i], b = points[j];
            if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x) in = !in;
        }
        return in;
    }
};

/// Sections of a watertight mesh at any height.
class Slicer {
  public:
    explicit Slicer(const TriangleMesh& mesh) : m_mesh(mesh) {}

    std::vector<Loop> at(double z) const {
        struct Segment {
            Vec2 from, to, normalFrom, normalTo;
            std::uint64_t toKey;
        };
        std::unordered_map<std::uint64_t, Segment> byStart;
        for (const auto& t : m_mesh.triangles) {
            bool above[3];
            int count = 0;
            for (std::size_t k = 0; k < 3; ++k) count += above[k] = m_mesh.points[t[k]].z > z;
            if (count == 0 || count == 3) continue;
            Segment s{};
            std::uint64_t fromKey = 0;
            for (std::size_t k = 0; k < 3; ++k) {
                const auto a = t[k], b = t[(k + 1) % 3];
                if (above[k] == above[(k + 1) % 3]) continue;
                // Seen from outside the triangle runs counter-clockwise: where it goes down through the level
                // the section begins, so that material is on the left.
                if (above[k]) {
                    crossing(a, b, z, s.from, s.normalFrom);
                    fromKey = key(a, b);
                } else {
                    crossing(a, b, z, s.to, s.normalTo);
                    s.toKey = key(a, b);
                }
            }
            byStart.emplace(fromKey, s);
        }
        std::vector<Loop> loops;
        while (!byStart.empty()) {
            Loop loop;
            std::uint64_t at = byStart.begin()->first;
            double area = 0;
            for (auto it = byStart.find(at); it != byStart.end(); it = byStart.find(at)) {
                const Segment s = it->second;
                byStart.erase(it);
                loop.points.push_back(s.from);
                const Vec2 chord = s.to - s.from;
                // Between chord and arc lies L^2 delta / 12, delta being the turn of the normal.
                area +=
                    0.5 * cross(s.from, s.to) + length(chord) * dot(s.normalTo - s.normalFrom, chord) / 12;
                at = s.toKey;
            }
            if (loop.points.size() < 3) continue;
            loop.area = area;
            bound(loop);
            loops.push_back(std::move(loop));
        }
        return loops;
    }

  private:
    std::uint64_t key(std::uint32_t a, std::uint32_t b) const {
        const std::uint64_t x = m_mesh.shared[a], y = m_mesh.shared[b];
        return x < y ? x << 32 | y : y << 32 | x;
    }

    /// Where a triangle's edge crosses the level, moved from the chord onto the surface: with the parabola
    /// over the edge that has the exact normals at its ends.
    void crossing(std::uint32_t a, std::uint32_t b, double z, Vec2& point, Vec2& normal) const {
        if (m_mesh.shared[a] > m_mesh.shared[b]) std::swap(a, b); // the same arithmetic from both sides
        const Vec3 p = m_mesh.points[a], q = m_mesh.points[b], n = m_mesh.normals[a], m = m_mesh.normals[b];
        const double t = std::clamp((z - p.z) / (q.z - p.z), 0.0, 1.0);
        Vec3 x = p + (q - p) * t;
        const Vec3 normal3 = unit(n + (m - n) * t, n);
        const double bulge = 0.5 * t * (1 - t) * dot(q - p, m - n);
        const Vec2 flat{normal3.x, normal3.y};
        const double level = length(flat);
        normal = level > 1e-9 ? flat * (1 / level) : Vec2{};
        // The surface is bulge away along the normal; within the level that is bulge / cos.
        if (level > 0.1) x = x + Vec3{normal.x, normal.y, 0} * (bulge / level);
        point = {x.x, x.y};
    }

    static void bound(Loop& loop) {
        loop.low[0] = loop.low[1] = 1e300;
        loop.high[0] = loop.high[1] = -1e300;
        for (const Vec2 p : loop.points) {
            loop.low[0] = std::min(loop.low[0], p.x);
            loop.low[1] = std::min(loop.low[1], p.y);
            loop.high[0] = std::max(loop.high[0], p.x);
            loop.high[1] = std::max(loop.high[1], p.y);
        }
    }

    const TriangleMesh& m_mesh;
};

/// A void of one section with the voids right below it that it opens into.
struct Void {
    Loop loop;
    double area = 0; ///< without the islands of material in it
    Vec2 inner;      ///< a point in the void
    std::vector<std::size_t> below;
    bool reached = false, leaks = false;
};

/// A point inside the loop and outside of all others.
Vec2 pointInside(const Loop& loop, const std::vector<Loop>& all) {
    const double width = loop.high[0] - loop.low[0], depth = loop.high[1] - loop.low[1];
    for (int n = 3; n <= 48; n *= 2)
        for (int i = 1; i < n; ++i)
            for (int j = 1; j < n; ++j) {
                const Vec2 p{loop.low[0] + width * i / n, loop.low[1] + depth * j / n};
                if (!loop.contains(p)) continue;
                if (std::none_of(all.begin(), all.end(), [&](const Loop& o) {
                        return std::fabs(o.area) < std::fabs(loop.area) && o.contains(p);
                    }))
                    return p;
            }
    return loop.points.front();
}

std::vector<Void> voidsAt(const Slicer& slicer, double z) {
    const auto loops = slicer.at(z);
    std::vector<Void> voids;
    for (const Loop& loop : loops) {
        if (loop.area >= 0) continue;
        Void v;
        v.loop = loop;
        v.area = -loop.area;
        for (const Loop& island : loops) {
            if (island.area <= 0 || !loop.contains(island.points.front())) continue;
            // Only islands right in this void, not those inside a void of an island.
            const bool deeper = std::any_of(loops.begin(), loops.end(), [&](const Loop& other) {
                return other.area < 0 && &other != &loop && std::fabs(other.area) < v.area &&
                       other.contains(island.points.front());
            });
            if (!deeper) v.area -= island.area;
        }
        v.inner = pointInside(loop, loops);
        voids.push_back(std::move(v));
    }
    return voids;
}

bool overlap(const Void& a, const Void& b) {
    return a.loop.contains(b.inner) || b.loop.contains(a.inner) || a.loop.contains(b.loop.points.front()) ||
           b.loop.contains(a.loop.points.front());
}

/// Heights at which the sections change their kind: ends of edges, and every local top and bottom of the
/// mesh.
std::vector<double> breaksOf(const TriangleMesh& mesh, double low, double high) {
    std::set<double> heights{low, high};
    auto add = [&](double z) {
        if (z > low + 1e-6 && z < high - 1e-6) heights.insert(z);
    };
    for (const MeshEdge& e : mesh.edges)
        if (!e.points.empty()) {
            add(e.points.front().z);
            add(e.points.back().z);
        }
    struct Range {
        double z = 0, low = 1e300, high = -1e300;
    };
    std::unordered_map<std::uint32_t, Range> around;
    for (const auto& t : mesh.triangles)
        for (std::size_t k = 0; k < 3; ++k) {
            Range& r = around[mesh.shared[t[k]]];
            r.z = mesh.points[t[k]].z;
            for (const std::size_t j : {(k + 1) % 3, (k + 2) % 3}) {
                r.low = std::min(r.low, mesh.points[t[j]].z);
                r.high = std::max(r.high, mesh.points[t[j]].z);
            }
        }
    for (const auto& [id, r] : around)
        if (r.z <= r.low + 1e-7 || r.z >= r.high - 1e-7) add(r.z);
    std::vector<double> out;
    for (const double z : heights)
        if (out.empty() || z - out.back() > 1e-5) out.push_back(z);
    out.back() = high;
    return out;
}

struct Level {
    double z, weight;
    std::vector<Void> voids;
};

std::vector<Level> levelsBetween(const TriangleMesh& mesh, double low, double high) {
    const Slicer slicer(mesh);
    const auto breaks = breaksOf(mesh, low, high);
    std::vector<Level> levels;
    for (std::size_t i = breaks.size() - 1; i-- > 0;) {
        const double a = breaks[i], b = breaks[i + 1];
        const int parts = std::max(1, static_cast<int>(std::ceil((b - a) / (high - low) * 16)));
        for (int k = parts - 1; k >= 0; --k) {
            const double c = a + (b - a) * k / parts, d = a + (b - a) * (k + 1) / parts;
            for (std::size_t g = 4; g-- > 0;) {
                const double z = 0.5 * (c + d) + 0.5 * (d - c) * kNodes[g];
                levels.push_back({z, 0.5 * (d - c) * kWeights[g], voidsAt(slicer, z)});
            }
        }
    }
    return levels;
}

bool isOpen(const RayScene& scene, const Void& v, double z, double direction) {
    // A necked cavity is open if any point of it sees the sky.
    const Loop& l = v.loop;
    for (int i = 1; i < 6; ++i)
        for (int j = 1; j < 6; ++j) {
            const Vec2 p{l.low[0] + (l.high[0] - l.low[0]) * i / 6,
                         l.low[1] + (l.high[1] - l.low[1]) * j / 6};
            if (l.contains(p) && !scene.cast({p.x, p.y, z}, {0, 0, direction}).hit()) return true;
        }
    return !scene.cast({v.inner.x, v.inner.y, z}, {0, 0, direction}).hit();
}

} // namespace

std::optional<double> brimHeight(const TriangleMesh& mesh, const Box& box) {
    const Slicer slicer(mesh);
    auto enclosed = [&](double z) {
        const auto loops = slicer.at(z);
        return std::any_of(loops.begin(), loops.end(), [](const Loop& l) { return l.area < -1; });
    };
    const double height = box.size().z, top = box.high.z - 1e-7 * height;
    if (enclosed(top)) return box.high.z;
    constexpr int kSteps = 160;
    for (int i = 1; i < kSteps; ++i) {
        double z = box.high.z - height * i / kSteps;
        if (!enclosed(z)) continue;
        double over = z + height / kSteps;
        while (over - z > 1e-7 * height) (enclosed(0.5 * (z + over)) ? z : over) = 0.5 * (z + over);
        return z;
    }
    return std::nullopt;
}

FillResult fillVolume(const TriangleMesh& mesh, const RayScene& scene, const Box& box,
                      std::optional<double> level) {
    FillResult result;
    const auto brim = brimHeight(mesh, box);
    if (!brim) {
        result.note = "Nothing encloses a cavity.";
        return result;
    }
    result.level = level ? std::min(*level, *brim) : *brim;
    if (level && *level > *brim + 1e-6) result.note = "The line is over the brim; measured to the brim.";
    if (result.level <= box.low.z + 1e-6) return result;
    auto levels = levelsBetween(mesh, box.low.z, result.level);
    if (levels.empty()) return result;
    for (Void& v : levels.front().voids) v.reached = isOpen(scene, v, levels.front().z, 1);
    for (std::size_t i = 0; i + 1 < levels.size(); ++i)
        for (Void& upper : levels[i].voids) {
            if (!upper.reached) continue;
            for (std::size_t k = 0; k < levels[i + 1].voids.size(); ++k)
                if (overlap(upper, levels[i + 1].voids[k])) {
                    levels[i + 1].voids[k].reached = true;
                    upper.below.push_back(k);
                }
        }
    int stoppered = 0;
    for (std::size_t i = levels.size(); i-- > 0;)
        for (Void& v : levels[i].voids) {
            if (!v.reached) continue;
            if (v.below.empty()) v.leaks = isOpen(scene, v, levels[i].z, -1);
            for (const std::size_t k : v.below) {
                const Void& lower = levels[i + 1].voids[k];
                if (!lower.leaks) continue;
                if (lower.area > 0.5 * v.area)
                    v.leaks = true;
                else
                    ++stoppered;
            }
        }
    for (const Level& l : levels)
        for (const Void& v : l.voids)
            if (v.reached && !v.leaks) result.volume += l.weight * v.area;
    result.holdsAnything = result.volume > 0;
    if (stoppered > 0) {
        const Message holes =
            stoppered == 1 ? Message("1 hole below is taken as stoppered.")
                           : phrase("%1 holes below are taken as stoppered.", std::to_string(stoppered));
        result.note = result.note.empty() ? holes : phrase("%1 %2", result.note, holes);
    }
    if (!result.holdsAnything) result.note = "It is open below and holds nothing.";
    return result;
}

} // namespace gc
