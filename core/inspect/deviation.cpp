#include "core/inspect/deviation.hpp"

#include "core/base/triangle.hpp"
#include "core/inspect/ray_scene.hpp"
#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>
#include <numeric>
#include <unordered_map>

namespace gc {

namespace {

/// Which side of a mesh a place near it is on.
class Sides {
  public:
    explicit Sides(const TriangleMesh& mesh) : m_mesh(mesh), m_corners(mesh.points.size()) {
        for (std::uint32_t t = 0; t < mesh.triangles.size(); ++t) {
            const auto [a, b, c] = cornersOf(t);
            const Vec3 n = normalOf(t);
            m_corners[shared(t, 0)] = m_corners[shared(t, 0)] + n * angle(a, b, c);
            m_corners[shared(t, 1)] = m_corners[shared(t, 1)] + n * angle(b, c, a);
            m_corners[shared(t, 2)] = m_corners[shared(t, 2)] + n * angle(c, a, b);
            for (int k = 0; k < 3; ++k) {
                Vec3& side = m_sides[edgeKey(shared(t, k), shared(t, (k + 1) % 3))];
                side = side + n;
            }
        }
    }

    double signOf(const Vec3& p, const NearestHit& hit) const {
        return dot(p - hit.point, normalAt(hit)) < 0 ? -1 : 1;
    }

  private:
    /// Of the corner, side or triangle that the place lies on.
    Vec3 normalAt(const NearestHit& hit) const {
        constexpr double kOn = 1e-6; // of a triangle
        const auto [a, b, c] = cornersOf(hit.triangle);
        const Vec3 n = cross(b - a, c - a);
        const double whole = dot(n, n);
        if (whole <= 0) return normalOf(hit.triangle);
        const double share[] = {dot(cross(c - b, hit.point - b), n) / whole,
                                dot(cross(a - c, hit.point - c), n) / whole,
                                dot(cross(b - a, hit.point - a), n) / whole};
        int none = 0, k = 0;
        for (int i = 0; i < 3; ++i)
            if (share[i] < kOn) ++none, k = i;
        if (none == 0) return normalOf(hit.triangle);
        if (none == 1) // on the side that lies across from that corner
            return m_sides.at(edgeKey(shared(hit.triangle, (k + 1) % 3), shared(hit.triangle, (k + 2) % 3)));
        const int corner = static_cast<int>(std::max_element(share, share + 3) - share);
        return m_corners[shared(hit.triangle, corner)];
    }
    std::array<Vec3, 3> cornersOf(std::uint32_t t) const {
        const auto& i = m_mesh.triangles[t];
        return {m_mesh.points[i[0]], m_mesh.points[i[1]], m_mesh.points[i[2]]};
    }
    std::uint32_t shared(std::uint32_t t, int k) const {
        return m_mesh.shared[m_mesh.triangles[t][static_cast<std::size_t>(k)]];
    }
    Vec3 normalOf(std::uint32_t t) const {
        const auto [a, b, c] = cornersOf(t);
        return unit(cross(b - a, c - a));
    }
    static double angle(const Vec3& at, const Vec3& b, const Vec3& c) {
        return std::acos(std::clamp(dot(unit(b - at), unit(c - at)), -1.0, 1.0));
    }

    const TriangleMesh& m_mesh;
    std::vector<Vec3> m_corners;
    std::unordered_map<std::uint64_t, Vec3> m_sides;
};

/// What no more than a share of the area exceeds.
double exceededBy(double share, const std::vector<float>& away, const std::vector<double>& areas) {
    std::vector<std::size_t> order(away.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::sort(order.begin(), order.end(),
              [&](std::size_t a, std::size_t b) { return std::fabs(away[a]) > std::fabs(away[b]); });
    double left = share * std::accumulate(areas.begin(), areas.end(), 0.0);
    for (const std::size_t i : order) {
        left -= areas[i];
        if (left < 0) return std::fabs(away[i]);
    }
    return 0;
}

} // namespace

DeviationField deviationFrom(const SampledSurface& surface, const TriangleMesh& other, const Stop& stop) {
    constexpr double kReach = 1e6; // mm
    constexpr std::size_t kAsk = 1000;
    constexpr double kFew = 0.05;
    DeviationField out;
    const RayScene scene(other);
    const Sides sides(other);
    const auto& points = surface.mesh.points;
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (i % kAsk == 0 && stop && stop()) return {};
        const NearestHit hit = scene.nearest(points[i], kReach);
        const double away = hit.distance < 0 ? 0 : hit.distance * sides.signOf(points[i], hit);
        out.away.push_back(static_cast<float>(away));
        WallExtreme& most = away < 0 ? out.inside : out.outside;
        if (std::fabs(away) >= std::fabs(most.value))
            most = {away, points[i], surface.mesh.faces[surface.faceOf[i]].name};
    }
    out.within = exceededBy(kFew, out.away, surface.areas);
    return out;
}

bool isFaceted(const Body& body) {
    constexpr int kFewest = 60;
    const NamedShape& s = body.shape();
    if (s.faces.Extent() < kFewest) return false;
    for (int i = 1; i <= s.faces.Extent(); ++i)
        if (BRepAdaptor_Surface(TopoDS::Face(s.faces(i)), false).GetType() != GeomAbs_Plane) return false;
    return true;
}

} // namespace gc
