#include "core/steps/shared/laying.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"

#include <GeomAdaptor_Surface.hxx>

#include <algorithm>
#include <cmath>
#include <vector>

namespace gc {

namespace {

class Straight : public Laying {
  public:
    Straight(const Handle(Geom_Surface) & surface, const Plane& drawing, Vec2 place, const gp_Pnt2d& there)
        : m_surface(surface), m_drawing(drawing), m_known{{place, there}} {}

    /// By Newton's method from the nearest place that is known.
    std::optional<gp_Pnt2d> at(Vec2 place) const override {
        constexpr int kMost = 40;
        constexpr std::size_t kKept = 256;
        const Known* from = &m_known.front();
        double nearest = 1e300;
        for (const Known& k : m_known)
            if (const double d = dot(k.place - place, k.place - place); d < nearest) nearest = d, from = &k;
        const gp_Pnt to = placeIn(m_drawing.at(place));
        const gp_Vec x = directionIn(m_drawing.across), y = directionIn(m_drawing.up);
        gp_Pnt2d uv = from->there;                       // copied: what is known grows
        const double reach = 1 + 4 * std::sqrt(nearest); // mm
        for (int k = 0; k < kMost; ++k) {
            gp_Pnt p;
            gp_Vec du, dv;
            m_surface.D1(uv.X(), uv.Y(), p, du, dv);
            const gp_Vec off(p, to);
            const double ex = off.Dot(x), ey = off.Dot(y);
            if (ex * ex + ey * ey < 1e-20) {
                if (m_known.size() < kKept) m_known.push_back({place, uv});
                return uv;
            }
            const double ax = du.Dot(x), ay = du.Dot(y), bx = dv.Dot(x), by = dv.Dot(y),
                         area = ax * by - bx * ay;
            if (std::fabs(area) < 1e-6 * du.Magnitude() * dv.Magnitude()) return std::nullopt;
            double su = (ex * by - ey * bx) / area, sv = (ax * ey - ay * ex) / area;
            // Where the wall turns away a whole step leads far off.
            const double far = (du * su + dv * sv).Magnitude();
            if (far > reach) su *= reach / far, sv *= reach / far;
            uv.SetCoord(uv.X() + su, uv.Y() + sv);
        }
        return std::nullopt;
    }

  private:
    struct Known {
        Vec2 place;
        gp_Pnt2d there;
    };
    GeomAdaptor_Surface m_surface; // keeps what it worked out for the places near the last
    Plane m_drawing;
    mutable std::vector<Known> m_known;
};

/// The places of a grid over the drawing are worked out, the others lie between.
class Around : public Laying {
  public:
    Around(Handle(Geom_Surface) surface, Vec2 place, const LevelLine& level)
        : m_surface(std::move(surface)), m_lines(m_surface), m_place(place), m_base(level.going),
          m_mirrored(level.mirrored) {
        const SurfacePlace p = placeOf(*m_surface, m_base.at);
        m_scale = gp_Vec2d(p.du.Magnitude(), p.dv.Magnitude());
        m_known = std::min(m_scale.X(), m_scale.Y()) >= 1e-9;
    }

    bool fit(Vec2 low, Vec2 high) {
        constexpr double kFit = 1e-6;
        constexpr int kEnough = 16, kMost = 64; // where the wall's own bend jumps, more help no more
        if (!m_known) return false;
        const Vec2 wide = high - low;
        for (int spans = 2; spans <= kMost; spans *= 2) {
            const GridDirection x = evenly(low.x - 0.01 * wide.x - 0.1, high.x + 0.01 * wide.x + 0.1, spans),
                                y = evenly(low.y - 0.01 * wide.y - 0.1, high.y + 0.01 * wide.y + 0.1, spans);
            std::vector<std::vector<gp_Pnt>> places;
            for (const double px : x.points()) places.push_back(column(px, y.points()));
            for (const auto& row : places)
                for (const gp_Pnt& p : row)
                    if (!std::isfinite(p.X()) || !std::isfinite(p.Y())) return false;
            m_fitted = surfaceThrough(x, y, places);
            double off = 0;
            for (const double px : {0.11, 0.47, 0.77}) {
                const double at = low.x + px * wide.x;
                const std::vector<double> ys{low.y + 0.07 * wide.y, low.y + 0.55 * wide.y,
                                             low.y + 0.91 * wide.y};
                const auto exact = column(at, ys);
                for (std::size_t i = 0; i < ys.size(); ++i)
                    off = std::max(off, exact[i].Distance(m_fitted->Value(at, ys[i])));
            }
            if (off < kFit || (spans >= kEnough && off < kCurveFit)) return true;
        }
        return false;
    }

    std::optional<gp_Pnt2d> at(Vec2 place) const override {
        double x0 = 0, x1 = 0, y0 = 0, y1 = 0;
        m_fitted->Bounds(x0, x1, y0, y1);
        if (place.x < x0 || place.x > x1 || place.y < y0 || place.y > y1) return std::nullopt;
        const gp_Pnt p = m_fitted->Value(place.x, place.y);
        return gp_Pnt2d(p.X() / m_scale.X(), p.Y() / m_scale.Y());
    }

  private:
    static GridDirection evenly(double from, double to, int spans) {
        std::vector<double> breaks;
        for (int i = 0; i <= spans; ++i) breaks.push_back(from + (to - from) * i / spans);
        return {from, to, FitDirection(breaks, std::vector<int>(breaks.size(), FitDirection::kDegree - 1))};
    }
    /// Places above and below one of the level line, with parameters about as long as what they stand for.
    std::vector<gp_Pnt> column(double x, const std::vector<double>& ys) const {
        const Going foot = m_lines.along(m_base, x - m_place.x);
        const SurfacePlace p = placeOf(*m_surface, foot.at);
        const auto normal = p.normal();
        std::vector<gp_Pnt> out;
        if (!normal) return std::vector(ys.size(), gp_Pnt(NAN, NAN, 0));
        gp_Vec up = normal->Crossed(m_lines.inSpaceOf(foot));
        if (m_mirrored) up.Reverse();
        out.resize(ys.size());
        const Going start{foot.at, m_lines.wayOf(foot.at, up)};
        // From the level line on upward, then downward, from each place to the next.
        const auto above = std::lower_bound(ys.begin(), ys.end(), m_place.y) - ys.begin();
        Going g = start;
        double y = m_place.y;
        const auto go = [&](std::size_t i) {
            g = m_lines.along(g, ys[i] - y);
            y = ys[i];
            out[i] = gp_Pnt(g.at.X() * m_scale.X(), g.at.Y() * m_scale.Y(), 0);
        };
        for (std::size_t i = static_cast<std::size_t>(above); i < ys.size(); ++i) go(i);
        g = start, y = m_place.y;
        for (std::size_t i = static_cast<std::size_t>(above); i-- > 0;) go(i);
        return out;
    }

    Handle(Geom_Surface) m_surface;
    Geodesics m_lines;
    Vec2 m_place;
    Going m_base;
    gp_Vec2d m_scale;
    bool m_mirrored, m_known;
    Handle(Geom_BSplineSurface) m_fitted;
};

} // namespace

std::unique_ptr<Laying> laidStraight(const Handle(Geom_Surface) & surface, const Plane& drawing, Vec2 place,
                                     const gp_Pnt2d& there) {
    return std::make_unique<Straight>(surface, drawing, place, there);
}

std::optional<LevelLine> levelLine(const Handle(Geom_Surface) & surface, const Plane& drawing,
                                   const gp_Pnt2d& there) {
    const SurfacePlace p = placeOf(*surface, there);
    const auto normal = p.normal();
    if (!normal) return std::nullopt;
    const gp_Vec level = directionIn(drawing.across), up = directionIn(drawing.up),
                 along = level - *normal * level.Dot(*normal);
    // A wall that stands square to the drawing has no level line to go on along.
    if (along.Magnitude() < 1e-3) return std::nullopt;
    return LevelLine{{there, Geodesics(surface).wayOf(there, along)}, normal->Crossed(along).Dot(up) < 0};
}

std::unique_ptr<Laying> laidAround(const Handle(Geom_Surface) & surface, Vec2 place, const LevelLine& level,
                                   Vec2 low, Vec2 high) {
    auto out = std::make_unique<Around>(surface, place, level);
    if (!out->fit(low, high)) return nullptr;
    return out;
}

} // namespace gc
