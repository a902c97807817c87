#include "core/shape/mesher/patch.hpp"

#include <algorithm>
#include <map>
#include <numeric>

namespace gc {

namespace {

struct RailPoint {
    int id;
    double t;
};
using Rail = std::vector<RailPoint>;

double along(const BoundaryPoint& p, bool u) {
    return u ? p.u : p.v;
}

/// Triangles between two rails with rising parameters, always taking the step that lags.
void zip(const Rail& a, const Rail& b, bool turned, Patch& patch) {
    const auto add = [&](int x, int y, int z) {
        patch.triangles.push_back(turned ? std::array{x, z, y} : std::array{x, y, z});
    };
    std::size_t i = 0, j = 0;
    while (i + 1 < a.size() || j + 1 < b.size()) {
        const bool onA =
            i + 1 < a.size() && (j + 1 >= b.size() || a[i + 1].t + a[i].t <= b[j + 1].t + b[j].t);
        if (onA) {
            add(a[i].id, a[i + 1].id, b[j].id);
            ++i;
        } else {
            add(a[i].id, b[j + 1].id, b[j].id);
            ++j;
        }
    }
}

class Grid {
  public:
    Grid(const SurfaceEval& surface, const PatchSides& sides, const MeshBounds& bounds, Patch& patch)
        : m_surface(surface), m_sides(sides), m_bounds(bounds), m_patch(patch),
          m_density(measureDensity(surface, box(sides), bounds)) {}

    bool mesh() {
        if (m_density.tooFine()) return m_patch.fail("it would need too many triangles");
        if (oneStrip()) return true;
        chooseLines();
        chooseLevels();
        placeBoundary();
        placeInside();
        fillInside();
        const Rail low = rowRail(1), high = rowRail(rows() - 1);
        strip(0, low, false);
        strip(2, high, true);
        strip(3, columnRail(false), true);
        strip(1, columnRail(true), false);
        return true;
    }

  private:
    static UvBox box(const PatchSides& s) {
        return {s[0].points.front().u, s[0].points.back().u, s[3].points.front().v, s[3].points.back().v};
    }
    int rows() const { return static_cast<int>(m_v.size()) - 1; }
    int columns() const { return static_cast<int>(m_u.size()) - 1; }
    /// Steps that a side's own points make.
    int stepsOf(std::size_t side) const {
        return m_sides[side].degenerate ? 0 : static_cast<int>(m_sides[side].points.size()) - 1;
    }

    /// A face that needs no points inside: two opposite sides zipped together.
    bool oneStrip() {
        const bool anyPole =
            std::any_of(m_sides.begin(), m_sides.end(), [](auto& s) { return s.degenerate; });
        if (anyPole) return false;
        for (const bool alongU : {true, false}) {
            const std::size_t a = alongU ? 0 : 3, b = alongU ? 2 : 1, end1 = alongU ? 3 : 0,
                              end2 = alongU ? 1 : 2;
            const int across = alongU ? m_density.v.count() : m_density.u.count(),
                      needed = alongU ? m_density.u.count() : m_density.v.count();
            if (across != 1 || stepsOf(end1) > 1 || stepsOf(end2) > 1) continue;
            if (2 * std::max(stepsOf(a), stepsOf(b)) < needed) continue;
            Rail first, second;
            for (const auto& q : m_sides[a].points) first.push_back({m_patch.add(q), along(q, alongU)});
            for (const auto& q : m_sides[b].points) second.push_back({m_patch.add(q), along(q, alongU)});
            zip(first, second, !alongU, m_patch);
            return true;
        }
        return false;
    }

    /// The boundary's own parameters where it has about as many points as needed, else equal shares.
    std::vector<double> lines(bool alongU) const {
        const MeshDensity::Axis& axis = alongU ? m_density.u : m_density.v;
        const std::size_t a = alongU ? 0 : 3, b = alongU ? 2 : 1;
        const int n = std::max(2, axis.count()), most = std::max(stepsOf(a), stepsOf(b));
        if (most >= n && most <= 2 * n + 1) {
            std::vector<double> own;
            for (const auto& q : m_sides[stepsOf(a) >= stepsOf(b) ? a : b].points)
                own.push_back(along(q, alongU));
            if (std::adjacent_find(own.begin(), own.end(), std::greater_equal<>()) == own.end()) return own;
        }
        return axis.quantiles(n);
    }
    void chooseLines() {
        m_u = lines(true);
        m_v = lines(false);
    }

    /// Rows that need far fewer points (towards poles) get half as many, a quarter, ...; neighbours differ by
    /// one halving at most.
    void chooseLevels() {
        const int n = rows();
        m_level.assign(static_cast<std::size_t>(n) + 1, 0);
        const auto& need = m_density.rowSteps;
        if (*std::max_element(need.begin(), need.end()) > 8)
            for (int j = 1; j < n; ++j) {
                double most = interpolate(m_density.v.at, need, v(j));
                for (std::size_t k = 0; k < need.size(); ++k)
                    if (m_density.v.at[k] >= v(j - 1) - 1e-12 && m_density.v.at[k] <= v(j + 1) + 1e-12)
                        most = std::max(most, need[k]);
                int level = 0;
                while (level < 6 && columns() >> (level + 1) >= std::max(4.0, most)) ++level;
                m_level[static_cast<std::size_t>(j)] = level;
            }
        for (int j = 2; j < n; ++j) level(j) = std::min(level(j), level(j - 1) + 1);
        for (int j = n - 2; j >= 1; --j) level(j) = std::min(level(j), level(j + 1) + 1);
    }
    int& level(int j) { return m_level[static_cast<std::size_t>(j)]; }
    double v(int j) const { return m_v[static_cast<std::size_t>(j)]; }

    void placeBoundary() {
        for (std::size_t k = 0; k < 4; ++k) {
            const auto& points = m_sides[k].points;
            for (std::size_t i = 0; i < points.size(); ++i) {
                if (m_sides[k].degenerate && i > 0 && i + 1 < points.size()) continue;
                m_rails[k].push_back({m_patch.add(points[i]), along(points[i], k % 2 == 0)});
            }
        }
        // Corners are one vertex.
        m_rails[1].front().id = m_rails[0].back().id;
        m_rails[2].back().id = m_rails[1].back().id;
        m_rails[3].front().id = m_rails[0].front().id;
        m_rails[2].front().id = m_rails[3].back().id;
    }

    void placeInside() {
        for (int j = 1; j < rows(); ++j) {
            RowPlan& plan = m_plans[level(j)];
            if (!plan.u.empty()) continue;
            const int n = columns() >> level(j);
            for (int i = 1; i < n; ++i) {
                const double q = static_cast<double>(i) * columns() / n;
                const auto k = static_cast<std::size_t>(std::min(static_cast<int>(q), columns() - 1));
                plan.u.push_back(m_u[k] + (q - static_cast<double>(k)) * (m_u[k + 1] - m_u[k]));
            }
            m_surface.prepare(plan);
        }
        m_first.assign(static_cast<std::size_t>(rows()) + 1, 0);
        std::vector<Vec3> points, normals;
        for (int j = 1; j < rows(); ++j) {
            const RowPlan& plan = m_plans[level(j)];
            points.resize(plan.u.size());
            normals.resize(plan.u.size());
            m_surface.row(plan, v(j), 0, plan.u.size(), points.data(), normals.data());
            m_first[static_cast<std::size_t>(j)] = static_cast<int>(m_patch.points.size());
            for (std::size_t i = 0; i < plan.u.size(); ++i)
                m_patch.add(points[i], normals[i], {plan.u[i], v(j)});
        }
    }

    Rail rowRail(int j) {
        Rail out;
        const RowPlan& plan = m_plans[level(j)];
        for (std::size_t i = 0; i < plan.u.size(); ++i)
            out.push_back({m_first[static_cast<std::size_t>(j)] + static_cast<int>(i), plan.u[i]});
        return out;
    }
    Rail columnRail(bool last) {
        Rail out;
        for (int j = 1; j < rows(); ++j) {
            const int n = static_cast<int>(m_plans[level(j)].u.size());
            out.push_back({m_first[static_cast<std::size_t>(j)] + (last ? n - 1 : 0), v(j)});
        }
        return out;
    }

    void fillInside() {
        for (int j = 1; j + 1 < rows(); ++j) {
            if (level(j) != level(j + 1)) {
                zip(rowRail(j), rowRail(j + 1), false, m_patch);
                continue;
            }
            const int n = static_cast<int>(m_plans[level(j)].u.size());
            const int below = m_first[static_cast<std::size_t>(j)],
                      above = m_first[static_cast<std::size_t>(j + 1)];
            for (int i = 0; i + 1 < n; ++i) quad(below + i, below + i + 1, above + i, above + i + 1);
        }
    }

    /// a b below, c d above: split along the shorter diagonal, unless the other follows the surface much
    /// better.
    void quad(int a, int b, int c, int d) {
        const auto squared = [&](int p, int q) {
            const Vec3 e =
                m_patch.points[static_cast<std::size_t>(q)] - m_patch.points[static_cast<std::size_t>(p)];
            return dot(e, e);
        };
        const double ad = squared(a, d), bc = squared(b, c);
        bool useAd = ad <= bc;
        if (std::max(ad, bc) < 2.5 * std::min(ad, bc)) {
            const double sagAd = 8 * chordSag(m_patch, a, d), sagBc = 8 * chordSag(m_patch, b, c);
            if (std::fabs(sagAd - sagBc) > m_bounds.deviation) useAd = sagAd < sagBc;
        }
        if (useAd) {
            m_patch.triangles.push_back({a, b, d});
            m_patch.triangles.push_back({a, d, c});
        } else {
            m_patch.triangles.push_back({a, b, c});
            m_patch.triangles.push_back({b, d, c});
        }
    }

    /// From a side to the row or column beside it. At a pole every step inside gets a vertex of its own, with
    /// its own normal, all in one place.
    void strip(std::size_t k, const Rail& inside, bool turned) {
        if (!m_sides[k].degenerate) {
            zip(m_rails[k], inside, turned, m_patch);
            return;
        }
        for (std::size_t i = 0; i + 1 < inside.size(); ++i) {
            BoundaryPoint pole = m_sides[k].points.front();
            (k % 2 == 0 ? pole.u : pole.v) = (inside[i].t + inside[i + 1].t) / 2;
            const int z = m_patch.add(pole), x = inside[i + 1].id, y = inside[i].id;
            m_patch.triangles.push_back(turned ? std::array{z, y, x} : std::array{z, x, y});
        }
    }

    const SurfaceEval& m_surface;
    const PatchSides& m_sides;
    const MeshBounds& m_bounds;
    Patch& m_patch;
    MeshDensity m_density;
    std::vector<double> m_u, m_v;   // lines of the grid
    std::vector<int> m_level;       // halvings of each row
    std::map<int, RowPlan> m_plans; // by level
    std::vector<int> m_first;       // first vertex of each inner row
    std::array<Rail, 4> m_rails;
};

} // namespace

bool meshGrid(const SurfaceEval& surface, const PatchSides& sides, const MeshBounds& bounds, Patch& patch) {
    if (!Grid(surface, sides, bounds, patch).mesh()) return false;
    completeNormals(surface, patch);
    refine(surface, patch, bounds.deviation);
    return true;
}

bool findSides(const BoundaryLoop& loop, PatchSides& sides) {
    const auto& points = loop.points;
    const std::size_t n = points.size(), m = loop.segments.size();
    double u0 = 1e99, u1 = -1e99, v0 = 1e99, v1 = -1e99;
    for (const auto& q : points) {
        u0 = std::min(u0, q.u), u1 = std::max(u1, q.u);
        v0 = std::min(v0, q.v), v1 = std::max(v1, q.v);
    }
    const double slackU = 1e-6 * (u1 - u0), slackV = 1e-6 * (v1 - v0);
    std::vector<std::size_t> sideOf(m);
    for (std::size_t k = 0; k < m; ++k) {
        std::array<bool, 4> on{true, true, true, true};
        for (std::size_t i = loop.segments[k].from; i <= loop.segments[k].to; ++i) {
            const auto& q = points[i % n];
            on[0] &= std::fabs(q.v - v0) <= slackV;
            on[1] &= std::fabs(q.u - u1) <= slackU;
            on[2] &= std::fabs(q.v - v1) <= slackV;
            on[3] &= std::fabs(q.u - u0) <= slackU;
        }
        if (std::count(on.begin(), on.end(), true) != 1) return false;
        sideOf[k] = static_cast<std::size_t>(std::find(on.begin(), on.end(), true) - on.begin());
    }
    std::size_t start = m;
    for (std::size_t k = 0; k < m && start == m; ++k)
        if (sideOf[k] == 0 && sideOf[(k + m - 1) % m] != 0) start = k;
    if (start == m) return false;
    std::size_t side = 0;
    for (std::size_t q = 0; q < m; ++q) {
        const std::size_t k = (start + q) % m;
        if (sideOf[k] != side && sideOf[k] != ++side) return false;
        PatchSide& out = sides[side];
        const auto& segment = loop.segments[k];
        if (out.degenerate || (segment.degenerate && !out.points.empty())) return false;
        if (!out.points.empty()) out.points.pop_back();
        for (std::size_t i = segment.from; i <= segment.to; ++i) out.points.push_back(points[i % n]);
        out.degenerate = segment.degenerate;
    }
    if (side != 3) return false;
    for (const std::size_t k : {2u, 3u}) std::reverse(sides[k].points.begin(), sides[k].points.end());
    for (std::size_t k = 0; k < 4; ++k)
        for (std::size_t i = 1; i < sides[k].points.size(); ++i)
            if (along(sides[k].points[i], k % 2 == 0) <= along(sides[k].points[i - 1], k % 2 == 0))
                return false;
    return true;
}

} // namespace gc
