#include "core/steps/shared/over_walls.hpp"

#include "core/shape/foot_point.hpp"

#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Quaternion.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

class StraightOver : public OverWalls {
  public:
    StraightOver(const std::vector<std::pair<Vec2, Hit>>& met, const Plane& drawing) {
        for (const auto& [place, hit] : met) {
            m_walls.emplace_back(hit.face);
            m_layings.push_back(laidStraight(m_walls.back().surface(), drawing, place, hit.there));
        }
    }

    std::vector<Place> column(double x, const std::vector<double>& ys) const override {
        std::vector<Place> out;
        for (const double y : ys) {
            const auto one = at({x, y});
            if (!one) return {};
            out.push_back(*one);
        }
        return out;
    }

  private:
    /// On the wall of the last place, else on the first that has it; beyond all of them the last goes on.
    std::optional<Place> at(Vec2 p) const {
        std::optional<Place> beyond;
        for (std::size_t k = 0; k < m_walls.size(); ++k) {
            const std::size_t w = (m_last + k) % m_walls.size();
            const auto uv = m_layings[w]->at(p);
            const auto out = uv ? m_walls[w].outAt(*uv) : std::nullopt;
            if (!out) continue;
            const Place here{w, m_walls[w].surface()->Value(uv->X(), uv->Y()), *out, !m_walls[w].holds(*uv),
                             0};
            if (!here.beyond) {
                m_last = w;
                return here;
            }
            if (!beyond) beyond = here;
        }
        return beyond;
    }

    std::vector<WallBeside> m_walls;
    std::vector<std::unique_ptr<Laying>> m_layings;
    mutable std::size_t m_last = 0;
};

/// The way of going on at a place where it lies on the next wall.
gp_Vec turnedOver(const gp_Vec& way, const gp_Vec& from, const gp_Vec& to) {
    return gp_Vec(gp_Quaternion(from, to).Multiply(way));
}

} // namespace

WallBeside::WallBeside(const TopoDS_Face& face)
    : m_face(face), m_surface(BRep_Tool::Surface(face)), m_lines(m_surface),
      m_inside(std::make_shared<BRepTopAdaptor_FClass2d>(TopoDS::Face(face.Oriented(TopAbs_FORWARD)), 1e-7)) {
}

std::optional<gp_Vec> WallBeside::outAt(const gp_Pnt2d& uv) const {
    auto n = placeOf(*m_surface, uv).normal();
    if (n && m_face.Orientation() == TopAbs_REVERSED) n->Reverse();
    return n;
}

std::unique_ptr<OverWalls> straightOver(const std::vector<std::pair<Vec2, Hit>>& met, const Plane& drawing) {
    return std::make_unique<StraightOver>(met, drawing);
}

AroundWalls::AroundWalls(const std::vector<TopoDS_Face>& walls, Vec2 place) : m_place(place) {
    for (const TopoDS_Face& w : walls) m_walls.emplace_back(w);
}

std::unique_ptr<AroundWalls> AroundWalls::from(const std::vector<TopoDS_Face>& walls, const Plane& drawing,
                                               Vec2 place, const Hit& there) {
    const auto first =
        std::find_if(walls.begin(), walls.end(), [&](const TopoDS_Face& w) { return w.IsSame(there.face); });
    const auto level = levelLine(BRep_Tool::Surface(there.face), drawing, there.there);
    if (first == walls.end() || !level) return nullptr;
    std::unique_ptr<AroundWalls> out(new AroundWalls(walls, place));
    const bool reversed = first->Orientation() == TopAbs_REVERSED;
    out->m_turn = level->mirrored != reversed ? -1 : 1;
    out->m_level.emplace_back(place.x, On{static_cast<std::size_t>(first - walls.begin()), level->going});
    return out;
}

std::optional<gp_Vec> AroundWalls::upAt(const On& on) const {
    const auto out = m_walls[on.wall].outAt(on.going.at);
    if (!out) return std::nullopt;
    return out->Crossed(m_walls[on.wall].lines().inSpaceOf(on.going)) * m_turn;
}

LevelLine AroundWalls::levelOn(const On& on) const {
    const bool reversed = m_walls[on.wall].face().Orientation() == TopAbs_REVERSED;
    return {on.going, (m_turn < 0) != reversed};
}

AroundWalls::On AroundWalls::levelAt(double x) const {
    constexpr std::size_t kKept = 512;
    const auto nearest = *std::min_element(m_level.begin(), m_level.end(), [&](const auto& a, const auto& b) {
        return std::fabs(a.first - x) < std::fabs(b.first - x);
    });
    const On on = along(nearest.second, x - nearest.first);
    if (m_level.size() < kKept) m_level.emplace_back(x, on);
    return on;
}

AroundWalls::On AroundWalls::along(On on, double by) const {
    constexpr double kStep = 0.5, kNear = 1e-9, kOver = 1e-4; // mm
    constexpr int kBorders = 200;
    const double way = by < 0 ? -1 : 1;
    double left = std::fabs(by);
    for (int borders = 0; left > kNear;) {
        const double step = std::min(left, kStep);
        const WallBeside& wall = m_walls[on.wall];
        const auto after = [&](double length) { return wall.lines().along(on.going, way * length); };
        const Going next = after(step);
        if (borders < kBorders && wall.holds(on.going.at) && !wall.holds(next.at)) {
            double in = 0, out = step;
            while (out - in > kNear) (wall.holds(after(0.5 * (in + out)).at) ? in : out) = 0.5 * (in + out);
            if (auto over = overBorder({on.wall, after(out)})) {
                ++borders;
                left -= out;
                // A little farther, so that it surely lies on the next.
                const double more = std::min(kOver, std::max(left, 0.0));
                on = *over;
                on.going = m_walls[on.wall].lines().along(on.going, way * more);
                left -= more;
                continue;
            }
        }
        on.going = next; // beyond the last wall it goes on as that does
        left -= step;
    }
    return on;
}

std::optional<AroundWalls::On> AroundWalls::overBorder(const On& at) const {
    constexpr double kOn = 2e-3; // mm: how far apart walls may be
    const WallBeside& from = m_walls[at.wall];
    const gp_Pnt p = from.surface()->Value(at.going.at.X(), at.going.at.Y());
    double least = kOn;
    std::optional<On> out;
    const auto look = [&](const TopoDS_Edge& edge, std::size_t w) {
        double first = 0, last = 0;
        const Handle(Geom_Curve) line = BRep_Tool::Curve(edge, first, last);
        const Handle(Geom2d_Curve) laid = BRep_Tool::CurveOnSurface(edge, m_walls[w].face(), first, last);
        if (line.IsNull() || laid.IsNull()) return;
        const GeomAPI_ProjectPointOnCurve near(p, line, first, last);
        for (int i = 1; i <= near.NbPoints(); ++i) {
            if (near.Distance(i) >= least) continue;
            const gp_Pnt2d uv = laid->Value(near.Parameter(i));
            const auto a = from.outAt(at.going.at), b = m_walls[w].outAt(uv);
            if (!a || !b) continue;
            least = near.Distance(i);
            const gp_Vec ahead = turnedOver(from.lines().inSpaceOf(at.going), *a, *b);
            out = On{w, {uv, m_walls[w].lines().wayOf(uv, ahead)}, at.rounds};
            if (w == at.wall) // from one side of it to the other
                out->rounds += uv.X() + uv.Y() < at.going.at.X() + at.going.at.Y() ? 1 : -1;
        }
    };
    for (TopExp_Explorer e(from.face(), TopAbs_EDGE); e.More(); e.Next()) {
        const TopoDS_Edge edge = TopoDS::Edge(e.Current());
        if (BRep_Tool::Degenerated(edge)) continue;
        if (BRep_Tool::IsClosed(edge, from.face())) {
            // Met once for each of its sides: that which lies away from here is where it goes on.
            double first = 0, last = 0;
            const TopoDS_Edge other = TopoDS::Edge(edge.Reversed());
            const auto middle = [&](const TopoDS_Edge& side) {
                const Handle(Geom2d_Curve) c = BRep_Tool::CurveOnSurface(side, from.face(), first, last);
                return c->Value(0.5 * (first + last));
            };
            const gp_Pnt2d one = middle(edge), two = middle(other);
            const bool alongV = std::fabs(one.X() - two.X()) > std::fabs(one.Y() - two.Y());
            const auto apart = [&](const gp_Pnt2d& q) {
                return alongV ? std::fabs(q.X() - at.going.at.X()) : std::fabs(q.Y() - at.going.at.Y());
            };
            if (apart(one) > apart(two)) look(edge, at.wall);
            continue;
        }
        for (std::size_t w = 0; w < m_walls.size(); ++w)
            if (const TopoDS_Edge there = w == at.wall ? TopoDS_Edge() : asIn(m_walls[w].face(), edge);
                !there.IsNull())
                look(there, w);
    }
    return out;
}

std::vector<OverWalls::Place> AroundWalls::column(double x, const std::vector<double>& ys) const {
    const On foot = levelAt(x);
    const auto up = upAt(foot);
    if (!up) return {};
    const On start{
        foot.wall, {foot.going.at, m_walls[foot.wall].lines().wayOf(foot.going.at, *up)}, foot.rounds};
    std::vector<Place> out(ys.size());
    const auto above = std::lower_bound(ys.begin(), ys.end(), m_place.y) - ys.begin();
    On on = start;
    double y = m_place.y;
    bool known = true;
    const auto go = [&](std::size_t i) {
        on = along(on, ys[i] - y);
        y = ys[i];
        const auto n = m_walls[on.wall].outAt(on.going.at);
        known = known && n;
        out[i] = {on.wall, m_walls[on.wall].surface()->Value(on.going.at.X(), on.going.at.Y()),
                  n.value_or(gp_Vec()), !m_walls[on.wall].holds(on.going.at), on.rounds};
    };
    for (std::size_t i = static_cast<std::size_t>(above); i < ys.size(); ++i) go(i);
    on = start, y = m_place.y;
    for (std::size_t i = static_cast<std::size_t>(above); i-- > 0;) go(i);
    return known ? out : std::vector<Place>();
}

} // namespace gc
