// Faces that are nearly flat, triangulated as they lie in space. A border that bends one way in the
// parameters may bend the other way in space, and one that is straight in them bend: there triangles of three
// places of it turn over.

#include "core/shape/mesher/constrained_delaunay.hpp"
#include "core/shape/mesher/patch.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The places of a patch, seen along the mean of its normals.
class FlatChart {
  public:
    explicit FlatChart(const Patch& patch) : m_patch(patch) {
        Vec3 sum;
        for (const Vec3& n : patch.normals) sum = sum + n;
        m_up = length(sum) > 0 ? unit(sum) : Vec3{0, 0, 1};
        m_x = unit(cross(m_up, std::fabs(m_up.x) < 0.6 ? Vec3{1, 0, 0} : Vec3{0, 1, 0}));
        m_y = cross(m_up, m_x);
        double low = 1e300, high = -1e300;
        for (const Vec3& p : patch.points)
            for (const double t : {dot(p, m_x), dot(p, m_y)})
                low = std::min(low, t), high = std::max(high, t);
        m_middle = (low + high) / 2;
        m_scale = 0.999 * 2 * static_cast<double>(ConstrainedDelaunay::kLimit) / std::max(high - low, 1e-9);
    }
    bool isFlat() const {
        constexpr double kMostTurned = 0.5; // cosine
        return std::all_of(m_patch.normals.begin(), m_patch.normals.end(),
                           [&](const Vec3& n) { return dot(n, m_up) > kMostTurned; });
    }
    std::pair<ConstrainedDelaunay::Int, ConstrainedDelaunay::Int> at(std::size_t point) const {
        const Vec3 p = m_patch.points[point];
        const auto whole = [&](double t) { return std::llround((t - m_middle) * m_scale); };
        return {whole(dot(p, m_x)), whole(dot(p, m_y))};
    }

  private:
    const Patch& m_patch;
    Vec3 m_up, m_x, m_y;
    double m_middle = 0, m_scale = 1;
};

} // namespace

double foldedShare(const Patch& patch) {
    double folded = 0, area = 0;
    for (const auto& t : patch.triangles) {
        const auto at = [&](std::size_t k) { return static_cast<std::size_t>(t[k]); };
        const Vec3 n =
            cross(patch.points[at(1)] - patch.points[at(0)], patch.points[at(2)] - patch.points[at(0)]);
        const double m = length(n);
        area += m;
        if (dot(n, patch.normals[at(0)] + patch.normals[at(1)] + patch.normals[at(2)]) < -1e-9 * m)
            folded += m;
    }
    return area > 0 ? folded / area : 1;
}

bool layFlat(Patch& patch, const std::vector<std::vector<int>>& borders) {
    const FlatChart chart(patch);
    if (!chart.isFlat()) return false;
    ConstrainedDelaunay cdt(2 * patch.points.size());
    std::vector<int> number(patch.points.size(), -1), pointOf(ConstrainedDelaunay::kFarPoints, -1);
    const auto insert = [&](int point) {
        auto& n = number[static_cast<std::size_t>(point)];
        if (n >= 0) return true;
        const std::size_t before = cdt.pointCount();
        const auto [x, y] = chart.at(static_cast<std::size_t>(point));
        n = cdt.insert(x, y);
        if (n < 0 || cdt.pointCount() == before) return false; // as good as another
        pointOf.push_back(point);
        return true;
    };
    for (const auto& border : borders)
        for (const int point : border)
            if (!insert(point)) return false;
    ConstrainedDelaunay::Int wanted = 0, area = 0;
    for (const auto& border : borders)
        for (std::size_t i = 0; i < border.size(); ++i) {
            const int a = number[static_cast<std::size_t>(border[i])],
                      b = number[static_cast<std::size_t>(border[(i + 1) % border.size()])];
            wanted += cdt.x(a) * cdt.y(b) - cdt.x(b) * cdt.y(a);
            if (!cdt.constrain(a, b)) return false;
        }
    for (int point = 0; point < static_cast<int>(patch.points.size()); ++point)
        if (!insert(point)) return false;
    std::vector<std::array<int, 3>> triangles;
    const auto in = cdt.inside();
    for (std::size_t t = 0; t < in.size(); ++t) {
        if (!in[t]) continue;
        const auto& c = cdt.triangles()[t].corner;
        std::array<int, 3> corner{};
        for (std::size_t k = 0; k < 3; ++k) corner[k] = pointOf[static_cast<std::size_t>(c[k])];
        if (*std::min_element(corner.begin(), corner.end()) < 0) return false;
        area += cdt.orientation(c[0], c[1], c[2]);
        triangles.push_back(corner);
    }
    if (area != wanted) return false; // wires overlap, or a place within lies on a border
    patch.triangles = std::move(triangles);
    return true;
}

} // namespace gc
