#include "core/steps/shared/placing.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/region.hpp"
#include "core/steps/shared/loop_2d.hpp"
#include "core/steps/shared/over_walls.hpp"
#include "core/steps/shared/turned_seam.hpp"

#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Iterator.hxx>
#include <gp_Lin.hxx>
#include <gp_Vec2d.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr int kAlongSide = 12; // along each side of an area

/// Shifted by whole turns to where the wall's face is.
class Shifted : public Laying {
  public:
    Shifted(std::shared_ptr<const Laying> of, gp_Vec2d by) : m_of(std::move(of)), m_by(by) {}
    std::optional<gp_Pnt2d> at(Vec2 place) const override {
        auto p = m_of->at(place);
        if (p) p->Translate(m_by);
        return p;
    }

  private:
    std::shared_ptr<const Laying> m_of;
    gp_Vec2d m_by;
};

struct Extent {
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
};
Extent extentOf(const std::vector<Region>& areas) {
    Extent out;
    for (const Region& r : areas)
        for (const gc::Side& s : r.outer.sides) {
            Vec2 a, b;
            s.curve.bounds(a, b);
            out.low = {std::min(out.low.x, a.x), std::min(out.low.y, a.y)};
            out.high = {std::max(out.high.x, b.x), std::max(out.high.y, b.y)};
        }
    return out;
}

/// How many of the areas have the walls before them.
int hitsOf(WallsAhead walls, const std::vector<Region>& areas) {
    return static_cast<int>(std::count_if(areas.begin(), areas.end(), [&](const Region& r) {
        return walls.under(r.outer.sides.front().curve.at(0.5)).has_value();
    }));
}

Error missed(const LayingBy& by, const std::vector<TopoDS_Face>& walls, Vec2 place,
             const std::vector<Region>& areas) {
    LayingBy other = by;
    other.ahead = !by.ahead;
    Error e;
    if (hitsOf(WallsAhead(walls, other), areas) > hitsOf(WallsAhead(walls, by), areas)) {
        e = errorOf("emboss.miss",
                    by.ahead ? "The wall does not lie ahead of the drawing, but behind it. Lay it back."
                             : "The wall does not lie behind the drawing, but ahead of it. Lay it ahead.");
        e.remedies.push_back({0, "way", by.ahead ? "back" : "ahead",
                              by.ahead ? "lay it back onto the wall" : "lay it ahead onto the wall", false});
    } else {
        e = errorOf("emboss.miss", "A part of the drawing does not come onto the wall. Pick more of its "
                                   "faces, or move the drawing.");
    }
    e.place = by.drawing.at(place);
    return e;
}

/// Whole turns of a period that bring a span nearest to the middle of a face.
double turnsTo(double from, double to, double low, double high, double period) {
    return period > 0 ? period * std::round((0.5 * (low + high) - 0.5 * (from + to)) / period) : 0;
}

/// Does it meet no border of the wall, and hold none?
bool liesWithin(const LaidArea& a) {
    const TopoDS_Face forward = TopoDS::Face(a.wall.Oriented(TopAbs_FORWARD));
    const BRepTopAdaptor_FClass2d inside(forward, 1e-7);
    for (const auto& loop : a.loops)
        for (const gp_Pnt2d& p : loop)
            if (inside.Perform(p) != TopAbs_IN) return false;
    for (TopoDS_Iterator w(forward, false); w.More(); w.Next())
        for (TopoDS_Iterator e(w.Value(), false); e.More(); e.Next()) {
            double from = 0, to = 0;
            const Handle(Geom2d_Curve) c =
                BRep_Tool::CurveOnSurface(TopoDS::Edge(e.Value()), forward, from, to);
            if (c.IsNull()) continue;
            for (int i = 0; i < kAlongSide; ++i) {
                const gp_Pnt2d p = c->Value(from + (to - from) * i / kAlongSide);
                // Within its outer border and in none of its counters.
                bool in = holds(a.loops.front(), p);
                for (std::size_t l = 1; in && l < a.loops.size(); ++l) in = !holds(a.loops[l], p);
                if (in) return false;
            }
        }
    return true;
}

/// Where the area comes to lie, near and far.
Result<LaidArea> laid(const Region& area, const TopoDS_Face& wall, std::shared_ptr<const Laying> laying,
                      const LayingBy& by, const ReliefShape& shape, const std::vector<TopoDS_Face>& walls,
                      const std::vector<Region>& areas) {
    const auto sides = FarSides::of(area, shape);
    if (!sides) return sides.error();
    LaidArea out;
    out.area = &area;
    out.wall = wall;
    Window near;
    for (std::size_t l = 0; l < sides->loops().size(); ++l) {
        out.loops.emplace_back();
        for (std::size_t i = 0; i < sides->loops()[l].size(); ++i)
            for (int k = 0; k < kAlongSide; ++k)
                for (const bool far : {false, true}) {
                    const double t = double(k) / kAlongSide;
                    const Vec2 place = far ? sides->far(l, i, t) : sides->near(l, i, t);
                    const auto at = laying->at(place);
                    if (!at) return missed(by, walls, place, areas);
                    out.window.add(*at);
                    if (far) continue;
                    near.add(*at);
                    out.loops.back().push_back(*at);
                }
    }
    const Handle(Geom_Surface) s = BRep_Tool::Surface(wall);
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(wall, u0, u1, v0, v1);
    const double uPeriod = s->IsUPeriodic() ? s->UPeriod() : 0, vPeriod = s->IsVPeriodic() ? s->VPeriod() : 0;
    out.unrolled = near;
    const gp_Vec2d shift(turnsTo(near.u0, near.u1, u0, u1, uPeriod),
                         turnsTo(near.v0, near.v1, v0, v1, vPeriod));
    out.laying = std::make_shared<Shifted>(std::move(laying), shift);
    for (auto& loop : out.loops)
        for (gp_Pnt2d& p : loop) p.Translate(shift);
    out.window.u0 += shift.X(), out.window.u1 += shift.X();
    out.window.v0 += shift.Y(), out.window.v1 += shift.Y();
    const bool closesUp = uPeriod > 0 && u1 - u0 > uPeriod - 1e-6;
    out.overSeam = closesUp && (near.u0 + shift.X() < u0 || near.u1 + shift.X() > u1);
    out.within = liesWithin(out);
    return out;
}

Error goneAround() {
    return errorOf("emboss.around",
                   "Wrapped so, the drawing meets itself on the other side of the wall. Make it shorter.");
}
/// Does the whole of it go round the wall and over itself?
bool goesAround(const std::vector<LaidArea>& areas) {
    for (const LaidArea& first : areas) {
        Window all;
        for (const LaidArea& a : areas) {
            if (!a.wall.IsSame(first.wall)) continue;
            all.add({a.unrolled.u0, a.unrolled.v0});
            all.add({a.unrolled.u1, a.unrolled.v1});
        }
        const Handle(Geom_Surface) s = BRep_Tool::Surface(first.wall);
        if ((s->IsUPeriodic() && all.u1 - all.u0 > s->UPeriod()) ||
            (s->IsVPeriodic() && all.v1 - all.v0 > s->VPeriod()))
            return true;
    }
    return false;
}
/// Does its level line come back to where it was, over several walls?
bool comesBack(const AroundWalls& around, double from, double to) {
    constexpr double kStep = 0.5, kApart = 5; // mm
    std::vector<gp_Pnt> places;
    for (double x = from; x < to; x += kStep) {
        const auto on = around.levelAt(x);
        const gp_Pnt p = around.wall(on.wall).surface()->Value(on.going.at.X(), on.going.at.Y());
        const std::size_t near = static_cast<std::size_t>(kApart / kStep);
        for (std::size_t i = 0; i + near < places.size(); ++i)
            if (places[i].Distance(p) < kStep) return true;
        places.push_back(p);
    }
    return false;
}

/// One of the walls with the areas that lie on it.
struct WrappedOn {
    AroundWalls::On level;
    double x = 0; ///< of the drawing at that place of the level line
    Vec2 low, high;
    std::shared_ptr<const Laying> laying;
};

class Wrapping {
  public:
    Wrapping(std::shared_ptr<const AroundWalls> around, Vec2 place)
        : m_around(std::move(around)), m_place(place) {}

    /// Where its middle comes to lie; with all else that does on the same side of the same wall, if the whole
    /// of it does.
    void add(const Region& area) {
        const Extent its = extentOf({area});
        const double x = 0.5 * (its.low.x + its.high.x);
        m_middles.push_back({m_around->levelAt(x), x, its.low, its.high, {}});
        const AroundWalls::On& level = m_middles.back().level;
        m_of.emplace_back();
        if (!isOnOne(area, level)) return;
        auto known = std::find_if(m_on.begin(), m_on.end(),
                                  [&](const WrappedOn& w) { return isBeside(w.level, level); });
        if (known == m_on.end()) {
            const auto begin = m_around->levelAt(m_place.x);
            m_on.push_back(m_middles.back());
            if (isBeside(begin, level)) m_on.back().level = begin, m_on.back().x = m_place.x;
            known = m_on.end() - 1;
        }
        known->low = {std::min({known->low.x, its.low.x, known->x}), std::min(known->low.y, its.low.y)};
        known->high = {std::max({known->high.x, its.high.x, known->x}), std::max(known->high.y, its.high.y)};
        m_of.back() = static_cast<std::size_t>(known - m_on.begin());
    }

    /// All on a wall together, or each by itself where the wall is too uneven for that. Null where it cannot
    /// be laid.
    std::shared_ptr<const Laying> layingOf(std::size_t area) {
        WrappedOn& w = m_on[*m_of[area]];
        if (!w.laying && !m_uneven) w.laying = fit(w);
        if (!w.laying) m_uneven = true;
        return w.laying ? w.laying : fit(m_middles[area]);
    }
    bool isOnOne(std::size_t area) const { return m_of[area].has_value(); }
    const AroundWalls::On& middleOf(std::size_t area) const { return m_middles[area].level; }

  private:
    static bool isBeside(const AroundWalls::On& a, const AroundWalls::On& b) {
        return a.wall == b.wall && a.rounds == b.rounds;
    }
    bool isOnOne(const Region& area, const AroundWalls::On& level) const {
        for (const Vec2 p : placesOf(area)) {
            const auto there = m_around->column(p.x, {p.y});
            if (there.empty() || there.front().beyond || there.front().wall != level.wall ||
                there.front().rounds != level.rounds)
                return false;
        }
        return true;
    }
    std::shared_ptr<const Laying> fit(const WrappedOn& w) const {
        return laidAround(m_around->wall(w.level.wall).surface(), {w.x, m_place.y},
                          m_around->levelOn(w.level), w.low, w.high);
    }

    std::shared_ptr<const AroundWalls> m_around;
    Vec2 m_place;
    std::vector<WrappedOn> m_middles, m_on;
    std::vector<std::optional<std::size_t>> m_of;
    bool m_uneven = false;
};

/// What lies over a border: only by all walls at once.
LaidArea laidOver(const Region& area, const AroundWalls& around, const AroundWalls::On& middle) {
    LaidArea out;
    out.area = &area;
    out.wall = around.wall(middle.wall).face();
    out.window.add(middle.going.at);
    out.unrolled = out.window;
    out.loops = {{middle.going.at}};
    return out;
}

/// From the drawing's upright line on, wherever that is in front of a wall: there it lies as drawn, so that
/// what is written beside it stays in its place while letters are added. Else from its middle.
Result<std::vector<LaidArea>> wrapAreas(const std::vector<Region>& areas,
                                        const std::vector<TopoDS_Face>& walls, const LayingBy& by,
                                        const ReliefShape& shape) {
    const auto uneven = errorOf("emboss.uneven", "The drawing cannot be wrapped around this wall: it ends "
                                                 "before, or is too uneven. Lay it straight.");
    WallsAhead ahead(walls, by);
    const Extent all = extentOf(areas);
    const Vec2 centre = (all.low + all.high) * 0.5;
    Vec2 place{0, centre.y};
    auto first = ahead.under(place);
    if (!first) first = ahead.under(place = centre);
    if (!first) return missed(by, walls, centre, areas);
    std::shared_ptr<const AroundWalls> around = AroundWalls::from(walls, by.drawing, place, *first);
    if (!around) return uneven;
    if (comesBack(*around, std::min(all.low.x, place.x), std::max(all.high.x, place.x))) return goneAround();
    Wrapping wrapping(around, place);
    for (const Region& area : areas) wrapping.add(area);
    std::vector<LaidArea> out;
    for (std::size_t i = 0; i < areas.size(); ++i) {
        const AroundWalls::On& middle = wrapping.middleOf(i);
        const auto laying = wrapping.isOnOne(i) ? wrapping.layingOf(i) : nullptr;
        if (wrapping.isOnOne(i) && !laying) return uneven;
        auto one = laying ? laid(areas[i], around->wall(middle.wall).face(), laying, by, shape, walls, areas)
                          : Result<LaidArea>(laidOver(areas[i], *around, middle));
        if (!one) return one.error();
        one->over = around;
        out.push_back(std::move(*one));
    }
    if (goesAround(out)) return goneAround();
    return out;
}

} // namespace

WallsAhead::WallsAhead(const std::vector<TopoDS_Face>& walls, const LayingBy& by)
    : m_walls(walls), m_drawing(by.drawing), m_way(by.drawing.normal() * (by.ahead ? 1.0 : -1.0)) {
    TopoDS_Compound all;
    BRep_Builder builder;
    builder.MakeCompound(all);
    for (const TopoDS_Face& f : walls) builder.Add(all, f);
    m_lines.Load(all, kKernelPoint);
}

std::optional<Hit> WallsAhead::under(Vec2 place) {
    constexpr double kOn = 1e-4, kFar = 1e5; // mm: on it counts as ahead
    m_lines.Perform(gp_Lin(placeIn(m_drawing.at(place)), gp_Dir(m_way.x, m_way.y, m_way.z)), -kOn, kFar);
    std::optional<Hit> out;
    for (int i = 1; i <= m_lines.NbPnt(); ++i)
        if (!out || m_lines.WParameter(i) < out->far)
            out = Hit{m_lines.Face(i), {m_lines.UParameter(i), m_lines.VParameter(i)}, m_lines.WParameter(i)};
    if (out) // as it is turned among the walls
        for (const TopoDS_Face& f : m_walls)
            if (f.IsSame(out->face)) out->face = f;
    return out;
}

std::vector<Vec2> placesOf(const Region& area) {
    constexpr int kAcross = 7, kAlong = 5;
    std::vector<Vec2> out;
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    const auto along = [&](const Loop& loop) {
        for (const gc::Side& s : loop.sides)
            for (int i = 0; i < kAlong; ++i) {
                const Vec2 p = s.curve.at(double(i) / kAlong);
                out.push_back(p);
                low = {std::min(low.x, p.x), std::min(low.y, p.y)};
                high = {std::max(high.x, p.x), std::max(high.y, p.y)};
            }
    };
    along(area.outer);
    for (const Loop& hole : area.holes) along(hole);
    for (int i = 1; i < kAcross; ++i)
        for (int j = 1; j < kAcross; ++j) {
            const Vec2 p{low.x + (high.x - low.x) * i / kAcross, low.y + (high.y - low.y) * j / kAcross};
            if (area.contains(p)) out.push_back(p);
        }
    return out;
}

Result<LaidArea> layOn(const Region& area, Vec2 place, const Hit& hit, const LayingBy& by,
                       const ReliefShape& shape) {
    return laid(area, hit.face, laidStraight(BRep_Tool::Surface(hit.face), by.drawing, place, hit.there), by,
                shape, {hit.face}, {area});
}

Result<std::vector<LaidArea>> layAreas(const std::vector<Region>& areas,
                                       const std::vector<TopoDS_Face>& walls, const LayingBy& by,
                                       const ReliefShape& shape) {
    if (by.wrapped) return wrapAreas(areas, walls, by, shape);
    std::vector<LaidArea> out;
    WallsAhead ahead(walls, by);
    for (const Region& area : areas) {
        const Vec2 place = area.outer.sides.front().curve.at(0.5);
        const auto hit = ahead.under(place);
        if (!hit) return missed(by, walls, place, areas);
        auto one =
            laid(area, hit->face, laidStraight(BRep_Tool::Surface(hit->face), by.drawing, place, hit->there),
                 by, shape, walls, areas);
        if (!one) return one.error();
        out.push_back(std::move(*one));
    }
    return out;
}

std::optional<double> seamTurn(const TopoDS_Face& wall, const std::vector<LaidArea>& areas) {
    double low = 0, high = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(wall, low, high, v0, v1);
    std::vector<Span> taken = spansIn(wall);
    for (const LaidArea& a : areas)
        if (a.wall.IsSame(wall)) taken.emplace_back(a.window.u0, a.window.u1);
    const auto gap = taken.empty() ? std::nullopt : widestGap(taken, low);
    return gap ? std::optional(*gap - low) : std::nullopt;
}

} // namespace gc
