#include "core/steps/shell/fold_crease.hpp"

#include "core/base/tolerance.hpp"

#include <Eigen/Dense>
#include <gp_Ax3.hxx>

#include <algorithm>
#include <array>
#include <cmath>

namespace gc {

namespace {

using Four = Eigen::Vector4d;

/// Two places of one sheet as four numbers, in mm along u and v, about.
class Pair {
  public:
    Pair(const FoldSheets& sheets, const gp_Pnt2d& near) : m_wall(sheets.wall), m_sheet(sheets.deep) {
        const Sheet& sheet = m_sheet;
        const SurfacePlace p = placeOf(*sheet.surface, near);
        m_scale = {std::max(p.du.Magnitude(), 1e-9), std::max(p.dv.Magnitude(), 1e-9)};
        sheet.surface->Bounds(m_low[0], m_high[0], m_low[1], m_high[1]);
    }

    Four of(const gp_Pnt2d& a, const gp_Pnt2d& b) const {
        return {a.X() * m_scale[0], a.Y() * m_scale[1], b.X() * m_scale[0], b.Y() * m_scale[1]};
    }
    gp_Pnt2d side(const Four& x, int which) const {
        return {x[2 * which] / m_scale[0], x[2 * which + 1] / m_scale[1]};
    }
    bool within(const Four& x) const { return beyond(x) <= 0; }
    /// By how much it leaves the surface, mm; negative within it.
    double beyond(const Four& x) const {
        double out = -1e300;
        for (int k = 0; k < 4; ++k) {
            const auto& s = *m_sheet.surface;
            if (k % 2 == 0 ? s.IsUPeriodic() : s.IsVPeriodic()) continue;
            const auto i = static_cast<std::size_t>(k % 2);
            out = std::max({out, m_low[i] * m_scale[i] - x[k], x[k] - m_high[i] * m_scale[i]});
        }
        return out;
    }

    /// How far the two are from each other when they are moved, and how that changes.
    struct Gap {
        Eigen::Vector3d apart;
        Eigen::Matrix<double, 3, 4> changes;
        gp_Pnt middle;
    };
    std::optional<Gap> gap(const Four& x) const {
        const auto a = m_sheet.moved(side(x, 0)), b = m_sheet.moved(side(x, 1));
        if (!a || !b) return std::nullopt;
        Gap out;
        const auto put = [&](int column, const gp_Vec& v) { out.changes.col(column) << v.X(), v.Y(), v.Z(); };
        put(0, a->du / m_scale[0]);
        put(1, a->dv / m_scale[1]);
        put(2, -b->du / m_scale[0]);
        put(3, -b->dv / m_scale[1]);
        out.apart << a->at.X() - b->at.X(), a->at.Y() - b->at.Y(), a->at.Z() - b->at.Z();
        out.middle = gp_Pnt((a->at.XYZ() + b->at.XYZ()) / 2);
        return out;
    }

    /// The two in one place, as near to x as can be but for one direction, in which they stay. Newton's
    /// method.
    std::optional<Four> met(Four x, const Four& stays) const {
        constexpr int kSteps = 12;
        const Four from = x;
        for (int k = 0; k < kSteps; ++k) {
            const auto g = gap(x);
            if (!g) return std::nullopt;
            Eigen::Matrix4d m;
            m << g->changes, stays.transpose();
            Four wanted;
            wanted << -g->apart, stays.dot(from - x);
            const Four step = m.fullPivLu().solve(wanted);
            const double far = step.norm();
            if (!std::isfinite(far)) return std::nullopt;
            x += step;
            if (far < 1e-9) return x;
        }
        return std::nullopt;
    }
    /// Where both go on together.
    std::optional<Four> way(const Four& x) const {
        const auto g = gap(x);
        if (!g) return std::nullopt;
        const Eigen::JacobiSVD<Eigen::Matrix<double, 3, 4>> svd(g->changes, Eigen::ComputeFullV);
        return Four(svd.matrixV().col(3));
    }
    double separation(const Four& x) const { return std::hypot(x[0] - x[2], x[1] - x[3]); }
    /// \param folding how much, too, which takes the most time
    CreasePlace placeOfPair(const Four& x, bool folding = true) const {
        const auto g = gap(x);
        return {{side(x, 0), side(x, 1)}, g ? g->middle : gp_Pnt(), folding ? excess(x) : 0};
    }
    double wall() const { return std::fabs(m_sheet.by); }
    /// The excess of the wall where it folds over no more when it is moved by the radius, too.
    double meets() const { return m_wall.by / m_sheet.by - 1; }

  private:
    /// How far the wall folds over between the two, at most.
    double excess(const Four& x) const {
        constexpr int kLooks = 12;
        double out = -1;
        for (int i = 0; i <= kLooks; ++i) {
            const double t = double(i) / kLooks;
            const auto fold = foldAt(m_wall, gp_Pnt2d(side(x, 0).XY() * (1 - t) + side(x, 1).XY() * t));
            out = std::max(out, fold ? fold->excess : 0);
        }
        return out;
    }

    const Sheet &m_wall, &m_sheet;
    std::array<double, 2> m_scale{}; ///< mm per parameter
    std::array<double, 2> m_low{}, m_high{};
};

/// A place of a section through the moved sheet.
struct Cut {
    gp_Pnt2d uv;
    double x = 0, y = 0; ///< in the plane, mm
};

/// The section of the moved sheet with a plane, from where it is folded over to one side.
std::vector<Cut> section(const Sheet& sheet, const gp_Ax3& plane, gp_Pnt2d uv, gp_Vec2d way) {
    constexpr double kStep = 0.05, kFar = 5; // of the wall
    const gp_Vec square(plane.Direction()), x(plane.XDirection()), y(plane.YDirection());
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    sheet.surface->Bounds(u0, u1, v0, v1);
    std::vector<Cut> out;
    const double step = kStep * std::fabs(sheet.by);
    for (int k = 0; k <= static_cast<int>(kFar / kStep); ++k) {
        std::optional<SheetPlace> here;
        for (int newton = 0; newton < 6; ++newton) {
            here = sheet.moved(uv);
            if (!here) return out;
            const double off = gp_Vec(plane.Location(), here->at) * square;
            const gp_Vec2d slope(here->du * square, here->dv * square);
            if (std::fabs(off) < 1e-7 || slope.SquareMagnitude() < 1e-18) break;
            uv.Translate(slope * (-off / slope.SquareMagnitude()));
        }
        if (!sheet.surface->IsUPeriodic() && (uv.X() < u0 || uv.X() > u1)) return out;
        if (!sheet.surface->IsVPeriodic() && (uv.Y() < v0 || uv.Y() > v1)) return out;
        const gp_Vec from(plane.Location(), here->at);
        out.push_back({uv, from * x, from * y});
        gp_Vec2d on(-(here->dv * square), here->du * square);
        const SurfacePlace p = placeOf(*sheet.surface, uv);
        const double size = (p.du * on.X() + p.dv * on.Y()).Magnitude();
        if (size < kNoDirection) return out;
        on *= step / size;
        const gp_Vec before = p.du * way.X() + p.dv * way.Y(), now = p.du * on.X() + p.dv * on.Y();
        if (before * now < 0) on.Reverse();
        way = on;
        uv.Translate(on);
    }
    return out;
}

/// Where the two sides of a section cross farthest out.
std::optional<std::pair<gp_Pnt2d, gp_Pnt2d>> crossing(const std::vector<Cut>& a, const std::vector<Cut>& b) {
    std::optional<std::pair<gp_Pnt2d, gp_Pnt2d>> out;
    std::size_t farthest = 0;
    for (std::size_t i = 1; i + 1 < a.size(); ++i)
        for (std::size_t j = 1; j + 1 < b.size(); ++j) {
            const double px = a[i + 1].x - a[i].x, py = a[i + 1].y - a[i].y;
            const double qx = b[j + 1].x - b[j].x, qy = b[j + 1].y - b[j].y;
            const double d = px * qy - py * qx;
            if (std::fabs(d) < 1e-15) continue;
            const double rx = b[j].x - a[i].x, ry = b[j].y - a[i].y;
            const double s = (rx * qy - ry * qx) / d, t = (rx * py - ry * px) / d;
            if (s < 0 || s > 1 || t < 0 || t > 1 || i + j <= farthest) continue;
            farthest = i + j;
            out.emplace(gp_Pnt2d(a[i].uv.XY() * (1 - s) + a[i + 1].uv.XY() * s),
                        gp_Pnt2d(b[j].uv.XY() * (1 - t) + b[j + 1].uv.XY() * t));
        }
    return out;
}

/// One way along a crease.
class Walk {
  public:
    Walk(const Pair& pair, const Four& from, const Four& way) : m_pair(pair), m_now(from), m_way(way) {}

    /// False where it gets lost. \param places to which it adds \param within whether it ends within the
    /// surface
    bool go(std::vector<CreasePlace>& places, bool& within) {
        constexpr int kMost = 3000;
        constexpr double kUsual = 0.15, kLeast = 1e-4; // of the wall
        // Bent by a good deal less than would fold over; where it gets no farther, by a little less. As
        // shares of where its two lines come together.
        const double calm = 0.5 * m_pair.meets(), nearly = 0.2 * m_pair.meets();
        double step = kUsual * m_pair.wall();
        for (int k = 0; k < kMost; ++k) {
            const auto next = ahead(step);
            if (!next) {
                step /= 2;
                if (step > kLeast * m_pair.wall()) continue;
                // The last places crowd where one of its lines turns: it had better end before that.
                while (places.size() > 1 && places[places.size() - 2].excess < nearly) places.pop_back();
                return within = !places.empty() && places.back().excess < nearly;
            }
            if (!m_pair.within(*next)) {
                toBorder(step, places);
                within = false;
                return true;
            }
            m_way = (*next - m_now).normalized();
            m_now = *next;
            places.push_back(m_pair.placeOfPair(m_now));
            if (places.back().excess < calm) return within = true;
            step = std::min(1.5 * step, kUsual * m_pair.wall());
        }
        return false;
    }

  private:
    std::optional<Four> ahead(double step) const {
        constexpr double kTurn = 0.5; // rad
        const auto along = m_pair.way(m_now);
        if (!along) return std::nullopt;
        const Four way = along->dot(m_way) < 0 ? Four(-*along) : *along;
        const auto next = m_pair.met(m_now + way * step, way);
        if (!next || (*next - m_now).norm() > 2 * step) return std::nullopt;
        const double turn = std::acos(std::clamp((*next - m_now).normalized().dot(m_way), -1.0, 1.0));
        // Where both come to the same place it is no crease any more.
        if (turn > kTurn || m_pair.separation(*next) < 1e-3 * m_pair.wall()) return std::nullopt;
        return next;
    }
    void toBorder(double step, std::vector<CreasePlace>& places) const {
        double low = 0, high = step;
        std::optional<Four> last;
        for (int half = 0; half < 40; ++half) {
            const double middle = 0.5 * (low + high);
            const auto there = ahead(middle);
            if (there && m_pair.within(*there)) {
                low = middle;
                last = there;
            } else {
                high = middle;
            }
        }
        if (last && low > 1e-6 * m_pair.wall()) places.push_back(m_pair.placeOfPair(*last));
    }

    const Pair& m_pair;
    Four m_now, m_way;
};

} // namespace

std::optional<FoldCrease> creaseFrom(const FoldSheets& sheets, const gp_Pnt2d& folded) {
    const Sheet& deep = sheets.deep;
    const auto fold = foldAt(deep, folded);
    const auto moved = deep.moved(folded);
    const SurfacePlace on = placeOf(*deep.surface, folded);
    if (!fold || !moved) return std::nullopt;
    const gp_Vec along = on.du * fold->along.X() + on.dv * fold->along.Y(),
                 across = on.du * fold->across.X() + on.dv * fold->across.Y();
    const gp_Ax3 plane(moved->at, gp_Dir(along), gp_Dir(across));
    const auto meet =
        crossing(section(deep, plane, folded, fold->across), section(deep, plane, folded, -fold->across));
    if (!meet) return std::nullopt;
    const Pair pair(sheets, folded);
    const Four guess = pair.of(meet->first, meet->second);
    const auto guessWay = pair.way(guess);
    const auto begin = guessWay ? pair.met(guess, *guessWay) : std::nullopt;
    const auto way = begin ? pair.way(*begin) : std::nullopt;
    if (!way || !pair.within(*begin)) return std::nullopt;
    FoldCrease out;
    std::vector<CreasePlace> back;
    if (!Walk(pair, *begin, *way).go(out.places, out.within[1])) return std::nullopt;
    if (!Walk(pair, *begin, -*way).go(back, out.within[0])) return std::nullopt;
    std::reverse(back.begin(), back.end());
    back.push_back(pair.placeOfPair(*begin));
    out.places.insert(out.places.begin(), back.begin(), back.end());
    return out.places.size() < 3 ? std::nullopt : std::optional(out);
}

std::optional<CreasePlace> creaseNear(const FoldSheets& sheets, const gp_Pnt2d uv[2],
                                      const gp_Vec2d ways[2]) {
    const Pair pair(sheets, uv[0]);
    const Four stays = pair.of(gp_Pnt2d(ways[0].XY()), gp_Pnt2d(ways[1].XY()));
    if (stays.norm() < kNoDirection) return std::nullopt;
    const auto met = pair.met(pair.of(uv[0], uv[1]), stays.normalized());
    return met ? std::optional(pair.placeOfPair(*met, false)) : std::nullopt;
}

} // namespace gc
