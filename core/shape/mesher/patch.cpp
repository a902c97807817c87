#include "core/shape/mesher/patch.hpp"

#include <algorithm>
#include <cstdint>
#include <unordered_map>

namespace gc {

namespace {

std::uint64_t edgeKey(int a, int b) {
    const auto low = static_cast<std::uint64_t>(std::min(a, b)),
               high = static_cast<std::uint64_t>(std::max(a, b));
    return low << 32 | high;
}

} // namespace

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

void refine(const SurfaceEval& surface, Patch& patch, double deviation) {
    const double limit = 1.1 * deviation;
    std::unordered_map<std::uint64_t, int> uses; // of edges between boundary points
    const auto onBoundary = [&](int a, int b) {
        if (patch.ids[static_cast<std::size_t>(a)] < 0 || patch.ids[static_cast<std::size_t>(b)] < 0)
            return false;
        const auto found = uses.find(edgeKey(a, b));
        return found != uses.end() && found->second == 1;
    };
    for (int pass = 0; pass < 5; ++pass) {
        std::vector<std::size_t> off;
        for (std::size_t i = 0; i < patch.triangles.size(); ++i)
            if (triangleSag(patch, patch.triangles[i]) > limit) off.push_back(i);
        if (off.empty()) break;
        if (pass == 0)
            for (const auto& t : patch.triangles)
                for (std::size_t k = 0; k < 3; ++k) {
                    const int a = t[k], b = t[(k + 1) % 3];
                    if (patch.ids[static_cast<std::size_t>(a)] >= 0 &&
                        patch.ids[static_cast<std::size_t>(b)] >= 0)
                        ++uses[edgeKey(a, b)];
                }
        std::unordered_map<std::uint64_t, int> middles; // of the edges to split; -1 until made
        for (const std::size_t i : off) {
            const auto& t = patch.triangles[i];
            double worst = 0;
            std::size_t worstSide = 0;
            bool marked = false;
            for (std::size_t k = 0; k < 3; ++k) {
                const int a = t[k], b = t[(k + 1) % 3];
                if (onBoundary(a, b)) continue;
                const double sag = chordSag(patch, a, b);
                if (sag > worst) {
                    worst = sag;
                    worstSide = k;
                }
                if (sag > limit) {
                    middles[edgeKey(a, b)] = -1;
                    marked = true;
                }
            }
            if (!marked && worst > 0.6 * deviation)
                middles[edgeKey(t[worstSide], t[(worstSide + 1) % 3])] = -1;
        }
        if (middles.empty()) break;
        const auto middle = [&](int a, int b) {
            const auto found = middles.find(edgeKey(a, b));
            if (found == middles.end()) return -1;
            if (found->second < 0) {
                const Vec2 at =
                    (patch.uv[static_cast<std::size_t>(a)] + patch.uv[static_cast<std::size_t>(b)]) * 0.5;
                Vec3 p, n;
                surface.at(at.x, at.y, p, n);
                found->second = patch.add(p, n, at);
            }
            return found->second;
        };
        std::vector<std::array<int, 3>> made;
        made.reserve(patch.triangles.size() + 3 * off.size());
        for (const auto& t : patch.triangles) {
            std::array<int, 3> m{};
            int count = 0;
            for (std::size_t k = 0; k < 3; ++k) count += (m[k] = middle(t[k], t[(k + 1) % 3])) >= 0;
            if (count == 0) {
                made.push_back(t);
            } else if (count == 3) {
                made.push_back({t[0], m[0], m[2]});
                made.push_back({m[0], t[1], m[1]});
                made.push_back({m[2], m[1], t[2]});
                made.push_back(m);
            } else if (count == 1) {
                std::size_t k = 0;
                while (m[k] < 0) ++k;
                made.push_back({t[k], m[k], t[(k + 2) % 3]});
                made.push_back({m[k], t[(k + 1) % 3], t[(k + 2) % 3]});
            } else {
                std::size_t k = 0; // the side that is not split
                while (m[k] >= 0) ++k;
                const int a = t[k], b = t[(k + 1) % 3], c = t[(k + 2) % 3], bc = m[(k + 1) % 3],
                          ca = m[(k + 2) % 3];
                const auto apart = [&](int p, int q) {
                    return length(patch.points[static_cast<std::size_t>(p)] -
                                  patch.points[static_cast<std::size_t>(q)]);
                };
                made.push_back({bc, c, ca});
                if (apart(a, bc) < apart(b, ca)) {
                    made.push_back({a, b, bc});
                    made.push_back({a, bc, ca});
                } else {
                    made.push_back({a, b, ca});
                    made.push_back({b, bc, ca});
                }
            }
        }
        patch.triangles.swap(made);
    }
    patch.estimate = 0;
    for (const auto& t : patch.triangles) patch.estimate = std::max(patch.estimate, triangleSag(patch, t));
}

} // namespace gc
