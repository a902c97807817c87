#include "core/shape/mesher/constrained_delaunay.hpp"
#include "core/shape/mesher/patch.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

using Int = ConstrainedDelaunay::Int;
constexpr double kMostAspect = 30; // of a step along u to a step along v, in space
constexpr double kClear = 0.3;     // steps that inner points keep from the boundary

/// (u, v) stretched so that one unit is one step, and from there to the triangulation's integers.
class Chart {
  public:
    Chart(const SurfaceEval& surface, const UvBox& box, const MeshBounds& bounds)
        : m_flat(surface.flat()), m_box(box) {
        if (m_flat) {
            m_width = box.u1 - box.u0;
            m_height = box.v1 - box.v0;
        } else {
            m_density = measureDensity(surface, box, bounds);
            m_nu = m_density.u.count();
            m_nv = m_density.v.count();
            limitAspect(surface);
            stretch(m_density.u, m_nu);
            stretch(m_density.v, m_nv);
            m_width = m_nu;
            m_height = m_nv;
        }
        m_scale =
            2.0 * static_cast<double>(ConstrainedDelaunay::kLimit) / std::max(m_width, m_height) * 0.999;
    }

    bool flat() const { return m_flat; }
    bool tooFine() const { return !m_flat && m_density.tooFine(); }
    int columns() const { return m_nu; }
    int rows() const { return m_nv; }
    Vec2 toSteps(double u, double v) const {
        if (m_flat) return {u - m_box.u0, v - m_box.v0};
        return {m_density.u.stepsTo(u), m_density.v.stepsTo(v)};
    }
    double u(double steps) const { return m_density.u.after(steps); }
    double v(double steps) const { return m_density.v.after(steps); }
    Int x(Vec2 steps) const { return static_cast<Int>(std::llround((steps.x - m_width / 2) * m_scale)); }
    Int y(Vec2 steps) const { return static_cast<Int>(std::llround((steps.y - m_height / 2) * m_scale)); }

  private:
    void limitAspect(const SurfaceEval& surface) {
        constexpr int kParts = 8;
        double alongU = 0, alongV = 0;
        const double midU = (m_box.u0 + m_box.u1) / 2, midV = (m_box.v0 + m_box.v1) / 2;
        Vec3 before, p, n;
        for (const bool isU : {true, false})
            for (int i = 0; i <= kParts; ++i) {
                const double f = static_cast<double>(i) / kParts;
                if (isU)
                    surface.at(m_box.u0 + (m_box.u1 - m_box.u0) * f, midV, p, n);
                else
                    surface.at(midU, m_box.v0 + (m_box.v1 - m_box.v0) * f, p, n);
                if (i > 0) (isU ? alongU : alongV) += length(p - before);
                before = p;
            }
        const double stepU = alongU / m_nu, stepV = alongV / m_nv;
        if (stepU > kMostAspect * stepV && stepV > 0)
            m_nu = static_cast<int>(std::ceil(alongU / (kMostAspect * stepV)));
        if (stepV > kMostAspect * stepU && stepU > 0)
            m_nv = static_cast<int>(std::ceil(alongV / (kMostAspect * stepU)));
    }

    /// Scales the steps to the count, mixed with an even share so that they rise everywhere.
    static void stretch(MeshDensity::Axis& axis, int count) {
        const double whole = axis.steps.back();
        const std::size_t n = axis.steps.size() - 1;
        for (std::size_t i = 0; i <= n; ++i) {
            const double even = static_cast<double>(i) / static_cast<double>(n);
            const double share = whole < 1e-3
                                     ? (axis.at[i] - axis.at.front()) / (axis.at.back() - axis.at.front())
                                     : axis.steps[i] / whole;
            axis.steps[i] = (0.9 * share + 0.1 * even) * count;
        }
    }

    bool m_flat;
    UvBox m_box;
    MeshDensity m_density;
    int m_nu = 1, m_nv = 1;
    double m_width = 1, m_height = 1, m_scale = 1;
};

UvBox boxOf(const std::vector<BoundaryLoop>& loops) {
    UvBox box{1e99, -1e99, 1e99, -1e99};
    for (const auto& loop : loops)
        for (const auto& q : loop.points) {
            box.u0 = std::min(box.u0, q.u), box.u1 = std::max(box.u1, q.u);
            box.v0 = std::min(box.v0, q.v), box.v1 = std::max(box.v1, q.v);
        }
    return box;
}

class FreeMesher {
  public:
    FreeMesher(const SurfaceEval& surface, const std::vector<BoundaryLoop>& loops, const MeshBounds& bounds,
               Patch& patch)
        : m_surface(surface), m_loops(loops), m_bounds(bounds), m_patch(patch),
          m_chart(surface, boxOf(loops), bounds), m_cdt(2000),
          m_vertexOf(ConstrainedDelaunay::kFarPoints, -1) {}

    bool mesh() {
        if (m_chart.tooFine()) return m_patch.fail("it would need too many triangles");
        if (!insertBoundary()) return false;
        if (!m_chart.flat() && m_chart.columns() * m_chart.rows() > 1 && !insertGrid()) return false;
        completeNormals(m_surface, m_patch);
        if (!m_chart.flat() && !insertWhereItSags()) return false;
        return takeTriangles();
    }
    /// The points of the patch along the boundary.
    const std::vector<std::vector<int>>& borders() const { return m_borders; }

  private:
    bool insertBoundary() {
        std::vector<std::vector<int>> numbers(m_loops.size());
        for (std::size_t l = 0; l < m_loops.size(); ++l) {
            auto& steps = m_steps.emplace_back();
            for (const auto& q : m_loops[l].points) {
                steps.push_back(m_chart.toSteps(q.u, q.v));
                const std::size_t before = m_cdt.pointCount();
                const int k = m_cdt.insert(m_chart.x(steps.back()), m_chart.y(steps.back()));
                if (k < 0) return m_patch.fail("a boundary point could not be placed");
                if (m_cdt.pointCount() > before) m_vertexOf.push_back(m_patch.add(q));
                numbers[l].push_back(k);
            }
            auto& border = m_borders.emplace_back();
            for (const int k : numbers[l]) border.push_back(vertexOf(k));
        }
        for (const auto& loop : numbers)
            for (std::size_t i = 0; i < loop.size(); ++i) {
                const int a = loop[i], b = loop[(i + 1) % loop.size()];
                m_area += static_cast<double>(m_cdt.x(a)) * static_cast<double>(m_cdt.y(b)) -
                          static_cast<double>(m_cdt.x(b)) * static_cast<double>(m_cdt.y(a));
                if (!m_cdt.constrain(a, b)) return m_patch.fail("the boundary crosses itself");
            }
        return m_area > 0 || m_patch.fail("the boundary runs the wrong way round");
    }

    bool insert(Vec2 steps, Vec2 at, Vec3 point, Vec3 normal) {
        const std::size_t before = m_cdt.pointCount();
        if (m_cdt.insert(m_chart.x(steps), m_chart.y(steps)) < 0)
            return m_patch.fail("an inner point could not be placed");
        if (m_cdt.pointCount() > before) m_vertexOf.push_back(m_patch.add(point, normal, at));
        return true;
    }

    /// Where the boundary crosses the rows of whole steps, and what of it is near each of these.
    struct Rows {
        /// In steps along u: of the boundary as it is straight in steps, and as it is straight in the
        /// parameters, which is not the same. A point must lie within both.
        std::vector<std::vector<double>> across, straight;
        std::vector<std::vector<Vec2>> near;
    };
    std::size_t cell(int i, int j) const {
        const int nu = m_chart.columns(), nv = m_chart.rows();
        return static_cast<std::size_t>(std::clamp(j, 0, nv)) * static_cast<std::size_t>(nu + 1) +
               static_cast<std::size_t>(std::clamp(i, 0, nu));
    }
    Rows crossRows() const {
        const int nu = m_chart.columns(), nv = m_chart.rows();
        Rows out;
        out.across.resize(static_cast<std::size_t>(nv));
        out.straight.resize(static_cast<std::size_t>(nv));
        out.near.resize(static_cast<std::size_t>(nu + 1) * static_cast<std::size_t>(nv + 1));
        for (std::size_t l = 0; l < m_steps.size(); ++l)
            for (std::size_t i = 0; i < m_steps[l].size(); ++i) {
                const std::size_t next = (i + 1) % m_steps[l].size();
                const BoundaryPoint &from = m_loops[l].points[i], &to = m_loops[l].points[next];
                const Vec2 a = m_steps[l][i], b = m_steps[l][next];
                const int parts = std::max(1, static_cast<int>(std::ceil(length(b - a) / 0.5)));
                for (int k = 0; k < parts; ++k) {
                    const Vec2 q = a + (b - a) * (static_cast<double>(k) / parts);
                    out.near[cell(static_cast<int>(q.x), static_cast<int>(q.y))].push_back(q);
                }
                if (a.y == b.y) continue;
                const double low = std::min(a.y, b.y), high = std::max(a.y, b.y);
                for (int j = std::max(1, static_cast<int>(std::ceil(low))); j < nv && j < high; ++j) {
                    const auto row = static_cast<std::size_t>(j);
                    out.across[row].push_back(a.x + (b.x - a.x) * (j - a.y) / (b.y - a.y));
                    const double share =
                        to.v == from.v ? 0 : std::clamp((m_chart.v(j) - from.v) / (to.v - from.v), 0.0, 1.0);
                    out.straight[row].push_back(m_chart.toSteps(from.u + (to.u - from.u) * share, from.v).x);
                }
            }
        for (auto* rows : {&out.across, &out.straight})
            for (auto& row : *rows) std::sort(row.begin(), row.end());
        return out;
    }

    /// Points on whole steps inside the boundary, row by row, a little away from it.
    bool insertGrid() {
        const int nu = m_chart.columns(), nv = m_chart.rows();
        const Rows rows = crossRows();
        const auto tooNear = [&](int i, int j) {
            for (const int dy : {-1, 0})
                for (const int dx : {-1, 0})
                    for (const Vec2 q : rows.near[cell(i + dx, j + dy)])
                        if (dot(q - Vec2{double(i), double(j)}, q - Vec2{double(i), double(j)}) < kClear)
                            return true;
            return false;
        };
        RowPlan plan;
        for (int i = 1; i < nu; ++i) plan.u.push_back(m_chart.u(i));
        m_surface.prepare(plan);
        std::vector<Vec3> points(plan.u.size()), normals(plan.u.size());
        for (int j = 1; j < nv; ++j) {
            const auto &across = rows.across[static_cast<std::size_t>(j)],
                       &also = rows.straight[static_cast<std::size_t>(j)];
            std::vector<int> keep;
            for (std::size_t q = 0; q + 1 < across.size(); q += 2) {
                const double from = std::max(across[q], also[q]) + kClear,
                             to = std::min(across[q + 1], also[q + 1]) - kClear;
                for (int i = std::max(1, static_cast<int>(std::ceil(from))); i < nu && i <= to; ++i)
                    if (!tooNear(i, j)) keep.push_back(i);
            }
            if (keep.empty()) continue;
            const double v = m_chart.v(j);
            const auto first = static_cast<std::size_t>(keep.front() - 1),
                       last = static_cast<std::size_t>(keep.back());
            m_surface.row(plan, v, first, last, points.data(), normals.data());
            if (j % 2 == 1)
                std::reverse(keep.begin(), keep.end()); // to and fro: the next point is always near
            for (const int i : keep) {
                const auto k = static_cast<std::size_t>(i - 1);
                if (!insert({double(i), double(j)}, {plan.u[k], v}, points[k - first], normals[k - first]))
                    return false;
            }
        }
        return true;
    }

    int vertexOf(int point) const { return m_vertexOf[static_cast<std::size_t>(point)]; }

    /// New points in the middle of inner edges that sag too much, or of triangles that only do so in the
    /// middle.
    bool insertWhereItSags() {
        const double limit = kSagTaken * m_bounds.deviation;
        for (int pass = 0; pass < 4; ++pass) {
            const auto in = m_cdt.inside();
            std::vector<Vec2> wanted;
            for (std::size_t t = 0; t < in.size(); ++t) {
                if (!in[t]) continue;
                const auto& q = m_cdt.triangles()[t];
                const std::array<int, 3> corner{vertexOf(q.corner[0]), vertexOf(q.corner[1]),
                                                vertexOf(q.corner[2])};
                if (*std::min_element(corner.begin(), corner.end()) < 0)
                    return m_patch.fail("the boundary is not closed");
                // In steps, in which the triangles lie rightly: long ones turn over in (u, v).
                const auto at = [&](std::size_t k) {
                    const Vec2 uv = m_patch.uv[static_cast<std::size_t>(corner[k % 3])];
                    return m_chart.toSteps(uv.x, uv.y);
                };
                double worst = 0;
                std::size_t side = 0;
                for (std::size_t k = 0; k < 3; ++k) {
                    const double sag =
                        q.constrained[k] ? 0 : chordSag(m_patch, corner[(k + 1) % 3], corner[(k + 2) % 3]);
                    if (sag > worst) {
                        worst = sag;
                        side = k;
                    }
                }
                if (worst > limit) {
                    if (q.beyond[side] > static_cast<int>(t))
                        wanted.push_back((at(side + 1) + at(side + 2)) * 0.5);
                } else if (triangleSag(m_patch, corner) > limit) {
                    wanted.push_back((at(0) + at(1) + at(2)) * (1.0 / 3));
                }
            }
            if (wanted.empty()) break;
            for (const Vec2 steps : wanted) {
                const Vec2 at{m_chart.u(steps.x), m_chart.v(steps.y)};
                Vec3 p, n;
                m_surface.at(at.x, at.y, p, n);
                if (!insert(steps, at, p, n)) return false;
            }
        }
        return true;
    }

    bool takeTriangles() {
        const auto in = m_cdt.inside();
        double area = 0;
        for (std::size_t t = 0; t < in.size(); ++t) {
            if (!in[t]) continue;
            const auto& c = m_cdt.triangles()[t].corner;
            const std::array<int, 3> corner{vertexOf(c[0]), vertexOf(c[1]), vertexOf(c[2])};
            if (*std::min_element(corner.begin(), corner.end()) < 0)
                return m_patch.fail("the boundary is not closed");
            area += static_cast<double>(m_cdt.orientation(c[0], c[1], c[2]));
            m_patch.triangles.push_back(corner);
        }
        // Both sums are of exact integers: they differ when wires overlap.
        return std::fabs(area - m_area) <= 1e-9 * std::fabs(m_area) + 1 || m_patch.fail("the wires overlap");
    }

    const SurfaceEval& m_surface;
    const std::vector<BoundaryLoop>& m_loops;
    const MeshBounds& m_bounds;
    Patch& m_patch;
    Chart m_chart;
    ConstrainedDelaunay m_cdt;
    std::vector<int> m_vertexOf; // patch vertex of each point of the triangulation
    std::vector<std::vector<Vec2>> m_steps;
    std::vector<std::vector<int>> m_borders;
    double m_area = 0; // twice, in the triangulation's units
};

} // namespace

bool meshFreely(const SurfaceEval& surface, const std::vector<BoundaryLoop>& loops, const MeshBounds& bounds,
                Patch& patch) {
    const UvBox box = boxOf(loops);
    if (!(box.u1 > box.u0) || !(box.v1 > box.v0)) return patch.fail("the face has no width");
    FreeMesher mesher(surface, loops, bounds, patch);
    if (!mesher.mesh()) return false;
    unfold(patch);
    completeNormals(surface, patch);
    if (foldedShare(patch) > 0) layFlat(patch, mesher.borders());
    if (!surface.flat()) refine(surface, patch, bounds.deviation);
    return true;
}

} // namespace gc
