#include "core/steps/repeat/mouths.hpp"

#include "core/base/angles.hpp"
#include "core/steps/shared/loop_2d.hpp"
#include "core/steps/shared/turned_seam.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <Geom2d_Curve.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kSame = 1e-6;            // of a face's parameters
constexpr int kOnLine = 8, kOnCurve = 96; // places of each edge of a mouth

constexpr double kTurn = 2 * kPi;

double side(const gp_Pnt2d& a, const gp_Pnt2d& b, const gp_Pnt2d& c) {
    return (b.X() - a.X()) * (c.Y() - a.Y()) - (b.Y() - a.Y()) * (c.X() - a.X());
}
bool cross(const Outline2d& a, const Outline2d& b) {
    for (std::size_t i = 0; i < a.size(); ++i)
        for (std::size_t j = 0; j < b.size(); ++j) {
            const gp_Pnt2d &p = a[i], &q = a[(i + 1) % a.size()], &r = b[j], &s = b[(j + 1) % b.size()];
            if (side(p, q, r) * side(p, q, s) < 0 && side(r, s, p) * side(r, s, q) < 0) return true;
        }
    return false;
}

double away(const gp_Pnt2d& p, const gp_Pnt2d& a, const gp_Pnt2d& b) {
    const gp_Vec2d ab(a, b), ap(a, p);
    const double l = ab.SquareMagnitude();
    return l > 0 ? p.Distance(a.Translated(ab * std::clamp(ab * ap / l, 0.0, 1.0))) : p.Distance(a);
}
/// How far a loop reaches.
struct Reach {
    double x0 = 1e300, x1 = -1e300, y0 = 1e300, y1 = -1e300;
    explicit Reach(const Outline2d& loop) {
        for (const gp_Pnt2d& p : loop) {
            x0 = std::min(x0, p.X()), x1 = std::max(x1, p.X());
            y0 = std::min(y0, p.Y()), y1 = std::max(y1, p.Y());
        }
    }
    bool meets(const Reach& o) const { return x0 <= o.x1 && o.x0 <= x1 && y0 <= o.y1 && o.y0 <= y1; }
    bool holds(const gp_Pnt2d& p) const {
        return p.X() > x0 - kSame && p.X() < x1 + kSame && p.Y() > y0 - kSame && p.Y() < y1 + kSame;
    }
};

/// Is a place of one within the other or on its border? Loops whose sides lie in line have no border that
/// crosses the other's.
bool reachesInto(const Outline2d& one, const Outline2d& other, const Reach& reach) {
    return std::any_of(one.begin(), one.end(), [&](const gp_Pnt2d& p) {
        if (!reach.holds(p)) return false;
        if (holds(other, p)) return true;
        for (std::size_t i = 0; i < other.size(); ++i)
            if (away(p, other[i], other[(i + 1) % other.size()]) < kSame) return true;
        return false;
    });
}

} // namespace

std::vector<std::pair<int, int>> overlaps(const std::vector<std::pair<int, Outline2d>>& loops, bool round,
                                          bool first) {
    std::vector<std::pair<int, int>> out;
    std::vector<Reach> reach;
    for (const auto& [k, loop] : loops) reach.emplace_back(loop);
    // Once round a face the places are the same again.
    std::vector<double> turns{0};
    if (round) turns = {-kTurn, 0, kTurn};
    for (std::size_t i = 0; i < loops.size(); ++i)
        for (std::size_t j = 0; j < i; ++j)
            for (const double turn : turns) {
                Reach moved = reach[j];
                moved.x0 += turn, moved.x1 += turn;
                if (!reach[i].meets(moved)) continue;
                Outline2d other = loops[j].second;
                for (gp_Pnt2d& p : other) p.SetX(p.X() + turn);
                const Outline2d& own = loops[i].second;
                if (!reachesInto(own, other, moved) && !reachesInto(other, own, reach[i]) &&
                    !cross(own, other))
                    continue;
                out.emplace_back(loops[j].first, loops[i].first);
                if (first) return out;
            }
    return out;
}

/// One mouth, in the parameters of its face.
struct MouthPlan::Mouthed {
    TopoDS_Face host, filled; ///< the second without this detail's mouths
    Outline2d loop;
    std::vector<gp_Pnt> points;
    bool flat = false, round = false, closed = false;
    double low = 0; ///< parameter at which a round one begins

    /// Where the face closes up it has no border.
    bool isOnSeam(const gp_Pnt2d& p) const {
        return closed && std::fabs(std::remainder(p.X() - low, kTurn)) < kSame;
    }
    /// Where it lies after a motion; nothing where the face is not the same there.
    std::optional<Outline2d> movedBy(const gp_Trsf& by) const {
        Outline2d out;
        if (flat) {
            if (!shiftOn(host, by)) return std::nullopt;
            const gp_Pln plane = BRepAdaptor_Surface(host, false).Plane();
            for (const gp_Pnt& p : points) {
                double u = 0, v = 0;
                ElSLib::Parameters(plane, p.Transformed(by), u, v);
                out.emplace_back(u, v);
            }
            return out;
        }
        const auto shift = shiftOn(host, by);
        if (!shift) return std::nullopt;
        for (const gp_Pnt2d& p : loop) out.push_back(p.Translated(*shift));
        return out;
    }
};

MouthPlan::MouthPlan(const Detail& detail) {
    for (const Mouth& m : detail.mouths) {
        auto one = std::make_shared<Mouthed>();
        one->host = m.host;
        const BRepAdaptor_Surface surface(m.host, false);
        one->flat = surface.GetType() == GeomAbs_Plane;
        one->round = !one->flat && surface.IsUPeriodic();
        double high = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(m.host, one->low, high, v0, v1);
        one->closed = one->round && high - one->low > kTurn - kSame;
        BRep_Builder builder;
        one->filled = TopoDS::Face(m.host.EmptyCopied().Oriented(TopAbs_FORWARD));
        for (TopoDS_Iterator w(m.host.Oriented(TopAbs_FORWARD), false); w.More(); w.Next()) {
            const bool mouth = std::any_of(detail.mouths.begin(), detail.mouths.end(),
                                           [&](const Mouth& o) { return o.loop.IsSame(w.Value()); });
            if (!mouth) builder.Add(one->filled, w.Value());
        }
        const TopoDS_Face forward = TopoDS::Face(m.host.Oriented(TopAbs_FORWARD));
        for (BRepTools_WireExplorer x(m.loop, forward); x.More(); x.Next()) {
            double a = 0, b = 0;
            const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(x.Current(), forward, a, b);
            const bool line = BRepAdaptor_Curve(x.Current()).GetType() == GeomAbs_Line;
            const int places = line ? kOnLine : kOnCurve;
            for (int i = 0; i < places; ++i) {
                const double share = static_cast<double>(i) / places;
                const bool back = x.Current().Orientation() == TopAbs_REVERSED;
                const gp_Pnt2d p = on->Value(back ? b - share * (b - a) : a + share * (b - a));
                one->loop.push_back(p);
                one->points.push_back(surface.Value(p.X(), p.Y()));
            }
        }
        m_mouths.push_back(std::move(one));
    }
}

Misfits MouthPlan::misfits(const std::vector<Placement>& placements, bool first) const {
    Misfits out;
    for (const auto& mouth : m_mouths) {
        BRepTopAdaptor_FClass2d inside(mouth->filled, 1e-7);
        std::vector<std::pair<int, Outline2d>> loops{{-1, mouth->loop}};
        for (std::size_t k = 0; k < placements.size(); ++k) {
            const int number = static_cast<int>(k);
            auto loop = mouth->movedBy(placements[k].by);
            int in = 0;
            if (loop)
                for (const gp_Pnt2d& p : *loop)
                    in += inside.Perform(p, true) == TopAbs_IN || mouth->isOnSeam(p);
            if (!loop || in == 0)
                out.off.push_back(number);
            else if (in < static_cast<int>(loop->size()))
                out.across.push_back(number);
            if (loop) loops.emplace_back(number, std::move(*loop));
            if (first && !out.none()) return out;
        }
        const auto pairs = overlaps(loops, mouth->round, first);
        out.overlapping.insert(out.overlapping.end(), pairs.begin(), pairs.end());
        if (first && !pairs.empty()) return out;
    }
    // A detail through a wall has two mouths.
    const auto onceEach = [](auto& list) {
        std::sort(list.begin(), list.end());
        list.erase(std::unique(list.begin(), list.end()), list.end());
    };
    onceEach(out.off), onceEach(out.across), onceEach(out.overlapping);
    return out;
}

namespace {

Span spanOf(const Outline2d& loop) {
    const Reach r(loop);
    return {r.x0, r.x1};
}

} // namespace

std::optional<MouthPlan::SeamMove> MouthPlan::seamInTheWay(const std::vector<Placement>& placements) const {
    for (const auto& mouth : m_mouths) {
        if (!mouth->closed) continue;
        const double low = mouth->low;
        std::vector<Span> spans = spansIn(mouth->host);
        bool over = false;
        for (const auto& other : m_mouths)
            for (const Placement& p : placements)
                if (const auto loop = other->host.IsSame(mouth->host) ? other->movedBy(p.by) : std::nullopt) {
                    spans.push_back(spanOf(*loop));
                    const auto turnOf = [&](double u) { return std::floor((u - low) / kTurn + 1e-9); };
                    over = over || turnOf(spans.back().first) != turnOf(spans.back().second - 2e-9);
                }
        if (!over) continue;
        const auto gap = widestGap(spans, low);
        return SeamMove{mouth->host, gap ? *gap - low : 0};
    }
    return std::nullopt;
}

} // namespace gc
