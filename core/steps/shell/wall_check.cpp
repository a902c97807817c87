#include "core/steps/shell/wall_check.hpp"

#include "core/shape/mesh.hpp"
#include "core/shape/mesher/body_mesher.hpp"
#include "core/steps/shell/triangle_soup.hpp"
#include "core/units/amount.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// A place of a face with its outward normal.
struct FacePlace {
    Vec3 at, normal;
};

/// Middles of the largest triangles of a face, and of some from all over it: within it, however it is
/// trimmed.
std::vector<FacePlace> placesWithin(const Patch& patch) {
    constexpr std::size_t kLargest = 6, kSpread = 12;
    constexpr double kTiny = 0.05; // of the largest
    std::vector<std::pair<double, FacePlace>> middles;
    for (const auto& t : patch.triangles) {
        const auto at = [&](std::size_t k) { return patch.points[static_cast<std::size_t>(t[k])]; };
        const Vec3 n = cross(at(1) - at(0), at(2) - at(0));
        middles.push_back({length(n), {(at(0) + at(1) + at(2)) * (1.0 / 3), unit(n)}});
    }
    std::vector<FacePlace> out;
    double most = 0;
    for (const auto& [area, place] : middles) most = std::max(most, area);
    const std::size_t step = middles.size() / kSpread + 1;
    for (std::size_t i = step / 2; i < middles.size(); i += step)
        if (middles[i].first > kTiny * most) out.push_back(middles[i].second);
    std::sort(middles.begin(), middles.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    for (std::size_t i = 0; i < std::min(kLargest, middles.size()); ++i) out.push_back(middles[i].second);
    return out;
}

/// What came of a shell, by places: the kernel may come out wrong without a word. Distances are taken from
/// triangles that stand off the faces by far less than the rest.
class WallCheck {
  public:
    WallCheck(const ShellPlan& plan, const NamedShape& now, double round)
        : m_plan(plan), m_now(now), m_wall(std::fabs(plan.offset)), m_round(round),
          m_deviation(0.004 * m_wall) {
        std::pair<int, std::string> fault;
        const MeshBounds options{m_deviation, 0.3, 0.6};
        m_known = meshBody(*plan.before, options, m_before, fault);
        m_meshed = m_known && meshBody(now, options, m_after, fault);
        if (!m_meshed) return;
        m_insideBefore.emplace(m_before);
        m_insideAfter.emplace(m_after);
        for (std::size_t f = 0; f < m_before.faces.size(); ++f)
            m_kept.push_back(isKept(f) ? std::optional<NearestOnPatch>(std::in_place, m_before.faces[f])
                                       : std::nullopt);
    }

    std::optional<Error> fault(const std::vector<TopoDS_Shape>& insides) const {
        if (!m_known) return std::nullopt;
        if (!m_meshed) // what cannot be looked at cannot be measured or made into anything later, either
            return errorOf("shell.wrong",
                           phrase("A wall of %1 comes out with a face that cannot be followed, so it "
                                  "is not used.",
                                  formatAmount(m_wall, "mm", 2)));
        if (auto thin = tooThin(insides)) return thin;
        return misses();
    }

  private:
    bool isKept(std::size_t face) const {
        return !m_plan.opened.Contains(m_plan.before->faces(static_cast<int>(face) + 1));
    }

    /// Of a kept face, mm.
    double wallOf(std::size_t face) const { return std::fabs(m_plan.offsetOf(static_cast<int>(face) + 1)); }
    /// By how much a place is farther from every kept face than the wall there, mm.
    double beyondWalls(Vec3 p) const {
        double least = 1e300;
        for (std::size_t f = 0; f < m_kept.size(); ++f)
            if (m_kept[f]) least = std::min(least, m_kept[f]->distance(p, least + wallOf(f)) - wallOf(f));
        return least;
    }

    /// A few points of every new face must lie at least 0.98 of the wall from the kept faces.
    std::optional<Error> tooThin(const std::vector<TopoDS_Shape>& insides) const {
        for (const TopoDS_Shape& face : insides) {
            const int number = m_now.faces.FindIndex(face);
            if (number < 1) continue; // it was used up
            for (const FacePlace& p : placesWithin(m_after.faces[static_cast<std::size_t>(number) - 1])) {
                const double beyond = beyondWalls(p.at);
                if (beyond >= -0.02 * m_wall - 3 * m_deviation) continue;
                return errorOf("shell.thin",
                               phrase("The wall came out at %1 instead of %2 somewhere, so it is not used.",
                                      formatAmount(m_wall + beyond, "mm", 2), formatAmount(m_wall, "mm", 2)));
            }
        }
        return std::nullopt;
    }

    /// Half a wall from every kept face it is solid; somewhat more than a wall from it, and from all others,
    /// it is hollow.
    std::optional<Error> misses() const {
        const double sense = m_plan.offset < 0 ? -1 : 1;
        // What was made round fills up less than its radius more than the wall.
        const double filled = std::max(0.05 * m_wall, m_round);
        for (std::size_t f = 0; f < m_before.faces.size(); ++f) {
            if (!isKept(f)) continue;
            for (const FacePlace& p : placesWithin(m_before.faces[f])) {
                const double more = std::max(0.2 * wallOf(f), 1.2 * m_round);
                const Vec3 within = p.at + p.normal * (sense * 0.5 * wallOf(f)),
                           beyond = p.at + p.normal * (sense * (wallOf(f) + more));
                const bool inward = sense < 0;
                const bool solid = inward == m_insideBefore->holds(within);
                const bool hollow = inward && m_insideBefore->holds(beyond) && beyondWalls(beyond) > filled;
                if ((!solid || m_insideAfter->holds(within)) && (!hollow || !m_insideAfter->holds(beyond)))
                    continue;
                Error e =
                    errorOf("shell.wrong",
                            phrase("A wall of %1 would be missing or filled up here, so it is not used.",
                                   formatAmount(wallOf(f), "mm", 2)));
                e.place = p.at;
                return e;
            }
        }
        return std::nullopt;
    }

    const ShellPlan& m_plan;
    const NamedShape& m_now;
    double m_wall, m_round, m_deviation; ///< mm; the round's radius, or 0
    MeshedBody m_before, m_after;
    bool m_known = false, m_meshed = false; ///< the body as it was, and as it is
    std::optional<InsideOfMesh> m_insideBefore, m_insideAfter;
    std::vector<std::optional<NearestOnPatch>> m_kept; ///< by face, of those that keep a wall
};

} // namespace

std::optional<Error> wallFault(const ShellPlan& plan, const NamedShape& now,
                               const std::vector<TopoDS_Shape>& insides, double round) {
    return WallCheck(plan, now, round).fault(insides);
}

} // namespace gc
