#include "core/steps/fillet/rolled_rim.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/fillet/canal.hpp"
#include "core/steps/fillet/rim_crease.hpp"
#include "core/steps/fillet/round_arc.hpp"
#include "core/steps/shared/runs_through_itself.hpp"
#include "core/steps/shared/strip.hpp"
#include "core/steps/shared/worked_names.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>
#include <deque>
#include <set>

namespace gc {

namespace {

/// A rim of a face, its edges in the order and sense of the face.
struct Rim {
    TopoDS_Face face;
    std::vector<TopoDS_Edge> edges;
};

/// The first whole rim of a face among some edges.
std::optional<Rim> rimAmong(const NamedShape& s, const TopTools_IndexedMapOfShape& edges) {
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(s.faces(i));
        for (TopExp_Explorer x(face, TopAbs_WIRE); x.More(); x.Next()) {
            Rim rim{face, {}};
            bool whole = true;
            for (BRepTools_WireExplorer e(TopoDS::Wire(x.Current()), face); e.More() && whole; e.Next()) {
                whole = edges.Contains(e.Current());
                rim.edges.push_back(e.Current());
            }
            if (whole && !rim.edges.empty()) return rim;
        }
    }
    return std::nullopt;
}

/// A corner of a rim: where the crease between the walls before and after it goes down.
struct RimCorner {
    TopoDS_Vertex old;
    RimCrease crease;
    double topAt = 0;                 ///< of the crease
    std::optional<std::size_t> lower; ///< the edge whose round ends sooner on it than the other's
    double first[2]{}, last[2]{};     ///< of the edges before and after: where the mitre begins and ends
    std::optional<Mitre> mitre;
};

constexpr int kMostRimPoles = 300;

/// Shares of a way, its ends among them, rising.
std::vector<double> withEnds(const std::vector<double>& all, const std::function<double(double)>& shareOf) {
    constexpr double kApart = 1e-3;
    std::vector<double> out{0, 1};
    for (const double at : all) {
        const double u = shareOf(at);
        if (u > kApart && u < 1 - kApart) out.push_back(u);
    }
    std::sort(out.begin(), out.end());
    return out;
}

/// A rim rounded by a ball.
class RolledRim {
  public:
    RolledRim(const Body& body, const Rim& rim, double radius,
              const std::function<NamePtr(const TopoDS_Edge&)>& nameOf, const Progress& progress)
        : m_shape(body.shape()), m_body(body), m_rim(rim), m_radius(radius), m_nameOf(nameOf),
          m_progress(progress) {}

    std::optional<Body> make() {
        if (!takeWalls()) return std::nullopt;
        if (m_rim.edges.size() == 1) return makeRing();
        if (!takeCorners() || !findCanals()) return std::nullopt;
        Strip strip;
        strip.closed = true;
        const std::size_t n = m_rim.edges.size();
        for (std::size_t i = 0; i < n; ++i)
            if (!addJoint(i, strip)) return std::nullopt;
        for (std::size_t i = 0; i < n; ++i) {
            const auto surface = surfaceOf(i);
            if (!surface) return std::nullopt;
            strip.pieces.push_back(pieceOf(i, *surface));
        }
        return with(strip);
    }

  private:
    StripPiece pieceOf(std::size_t i, const Handle(Geom_BSplineSurface) & surface) const {
        const TopoDS_Edge& edge = m_rim.edges[i];
        return {surface, {m_rim.face, TopoDS::Face(m_walls[i].face)}, {edge, edge}, m_nameOf(edge)};
    }
    std::optional<Body> with(const Strip& strip) const {
        constexpr double kOff = 1e-3; // mm
        auto made = withStrips(m_body, {strip}, kOff);
        if (!made || runsThroughItself(*made)) return std::nullopt;
        return *made;
    }

    /// One edge all round, its wall closes up: from where the ball touches the seam of that once round.
    std::optional<Body> makeRing() {
        const MovedBorder& border = m_borders.front();
        const TopoDS_Vertex corner = TopExp::FirstVertex(m_rim.edges.front());
        const auto seam = onlyDownFrom(corner, m_rim.edges.front(), m_rim.edges.front());
        if (!border.isRing() || !seam || !BRep_Tool::IsClosed(*seam, m_walls.front().face))
            return std::nullopt;
        const RimCrease crease(*seam, corner);
        const auto top = crease.crossedBy({border, false}, m_radius);
        if (!top || !crease.isWithin(top->Y())) return std::nullopt;
        const double whole = border.last() - border.first(), more = 1e-3 * whole;
        const auto canal = Canal::along(border, top->X() - more, top->X() + whole + more, m_radius);
        if (!canal) return std::nullopt;
        const bool back = m_rim.edges.front().Orientation() == TopAbs_REVERSED;
        const auto shareOf = [&](double along) {
            const double u = (along - top->X()) / whole;
            return back ? 1 - u : u;
        };
        const auto surface =
            skinned([&](double u, double v) { return canal->at(top->X() + whole * (back ? 1 - u : u), v); },
                    withEnds(canal->breaks(), shareOf), {0, 1}, kMostRimPoles);
        if (!surface || m_progress.stopped() || !touchesWithin(0, corner, **surface)) return std::nullopt;
        const TopoDS_Vertex up = BRepBuilderAPI_MakeVertex(crease.at(top->Y())).Vertex();
        Strip strip;
        strip.closed = true;
        strip.joints.push_back({BRepBuilderAPI_MakeVertex((*surface)->Value(0, 0)).Vertex(), up});
        strip.cut.emplace_back(crease.edge(), cutOff(crease.edge(), corner, up, top->Y()));
        strip.pieces.push_back(pieceOf(0, *surface));
        return with(strip);
    }

    /// The one edge at a corner besides two others.
    std::optional<TopoDS_Edge> onlyDownFrom(const TopoDS_Vertex& corner, const TopoDS_Edge& one,
                                            const TopoDS_Edge& other) {
        if (m_edgesAt.IsEmpty())
            TopExp::MapShapesAndAncestors(m_shape.shape, TopAbs_VERTEX, TopAbs_EDGE, m_edgesAt);
        TopTools_IndexedMapOfShape down;
        for (const TopoDS_Shape& e : toVector(m_edgesAt.FindFromKey(corner)))
            if (!e.IsSame(one) && !e.IsSame(other)) down.Add(e);
        return down.Extent() == 1 ? std::optional(TopoDS::Edge(down(1))) : std::nullopt;
    }

    /// The corner before an edge.
    RimCorner& before(std::size_t edge) { return m_corners[edge]; }
    RimCorner& after(std::size_t edge) { return m_corners[(edge + 1) % m_corners.size()]; }

    bool addJoint(std::size_t i, Strip& strip) {
        const RimCorner& c = m_corners[i];
        const TopoDS_Vertex bottom = BRepBuilderAPI_MakeVertex(c.mitre->bottom()).Vertex(),
                            top = BRepBuilderAPI_MakeVertex(c.crease.at(c.topAt)).Vertex();
        strip.joints.push_back({bottom, top});
        strip.cut.emplace_back(c.crease.edge(), cutOff(c.crease.edge(), c.old, top, c.topAt));
        if (!c.lower) return true;
        const auto corner = c.mitre->corner();
        if (!corner) return false;
        StripSpur spur;
        spur.after = *c.lower == 0;
        spur.share = c.mitre->shared();
        spur.corner = BRepBuilderAPI_MakeVertex(*corner).Vertex();
        spur.face = m_walls[*c.lower == 0 ? previous(i) : i].face;
        spur.cut = strip.cut.size() - 1;
        strip.spurs[i] = spur;
        return true;
    }

    std::size_t previous(std::size_t i) const { return (i + m_rim.edges.size() - 1) % m_rim.edges.size(); }

    /// All edges round it are hollow or none is: the ball rolls on one side.
    bool takeWalls() {
        const bool hollow = isHollow(m_shape, m_rim.edges.front());
        const double by = hollow ? m_radius : -m_radius;
        m_face = movedFace(m_rim.face, by, 3 * m_radius);
        std::set<int> walls;
        for (const TopoDS_Edge& e : m_rim.edges) {
            const TopoDS_Face wall = faceAcross(m_shape, e, m_rim.face);
            if (wall.IsNull() || isHollow(m_shape, e) != hollow || BRep_Tool::IsClosed(e, wall)) return false;
            walls.insert(m_shape.faces.FindIndex(wall));
            m_walls.push_back(movedFace(wall, by, 3 * m_radius));
        }
        if (walls.size() != m_walls.size()) return false;
        for (std::size_t i = 0; i < m_walls.size(); ++i)
            m_borders.emplace_back(m_rim.edges[i], m_face, m_walls[i]);
        return true;
    }

    bool takeCorners() {
        const std::size_t n = m_rim.edges.size();
        for (std::size_t i = 0; i < n; ++i) {
            const TopoDS_Edge &one = m_rim.edges[(i + n - 1) % n], &other = m_rim.edges[i];
            RimCorner c;
            c.old = TopExp::FirstVertex(other, true);
            if (!c.old.IsSame(TopExp::LastVertex(one, true))) return false;
            const auto down = onlyDownFrom(c.old, one, other);
            if (!down) return false;
            c.crease = RimCrease(*down, c.old);
            if (BRep_Tool::IsClosed(c.crease.edge(), m_walls[i].face)) return false;
            m_corners.push_back(c);
        }
        for (std::size_t i = 0; i < n; ++i)
            if (!findCorner(i)) return false;
        return true;
    }

    /// Where the mitre at a corner begins and ends along both edges.
    bool findCorner(std::size_t i) {
        const std::size_t sides[2] = {previous(i), i};
        RimCorner& c = m_corners[i];
        double tops[2] = {0, 0};
        for (std::size_t s = 0; s < 2; ++s) {
            const RimEnd end{m_borders[sides[s]], isAtLast(sides[s], c.old)};
            const auto at = c.crease.touchesBoth(m_shape, end, m_walls[sides[1 - s]]);
            const auto top = c.crease.crossedBy(end, m_radius);
            if (!at || !top) return false;
            c.first[s] = *at;
            c.last[s] = top->X();
            tops[s] = top->Y();
        }
        constexpr double kOne = 1e-3; // of the radius: nearer places on the crease are taken for one
        c.topAt = c.crease.farther(tops[0], tops[1]);
        if (c.crease.at(tops[0]).Distance(c.crease.at(tops[1])) > kOne * m_radius)
            c.lower = c.topAt == tops[0] ? 1 : 0;
        return c.crease.isWithin(c.topAt);
    }

    bool isAtLast(std::size_t edge, const TopoDS_Vertex& v) const {
        return TopExp::LastVertex(TopoDS::Edge(m_rim.edges[edge].Oriented(TopAbs_FORWARD))).IsSame(v);
    }

    bool findCanals() {
        const std::size_t n = m_rim.edges.size();
        for (std::size_t i = 0; i < n; ++i) {
            const RimCorner &a = before(i), &b = after(i);
            // Nothing is left of it between its corners?
            const bool ahead = isAtLast(i, b.old);
            const auto gap = [&](double from, double to) { return ahead ? to - from : from - to; };
            if (gap(a.first[1], b.first[0]) <= 0 || gap(a.last[1], b.last[0]) <= 0) return false;
            const auto [low, high] = std::minmax({a.first[1], a.last[1], b.first[0], b.last[0]});
            gp_Pnt on;
            gp_Vec way;
            m_borders[i].along(low, on, way);
            // A mitre may bulge beyond both of its ends.
            std::optional<Canal> canal;
            for (const double more : {0.3 * m_radius / way.Magnitude(), 1e-3 * (high - low)})
                if (!canal) canal = Canal::along(m_borders[i], low - more, high + more, m_radius);
            if (!canal) return false;
            m_canals.push_back(std::move(*canal));
        }
        for (std::size_t i = 0; i < n; ++i) {
            RimCorner& c = m_corners[i];
            Mitre::Side sides[2] = {{&m_canals[previous(i)], c.first[0], c.last[0]},
                                    {&m_canals[i], c.first[1], c.last[1]}};
            if (c.lower) {
                const MovedFace& wall = m_walls[*c.lower == 0 ? previous(i) : i];
                sides[*c.lower].wall = &wall;
                sides[*c.lower].near = BRep_Tool::Parameters(c.old, wall.face);
            }
            c.mitre.emplace(sides[0], sides[1]);
            if (!c.mitre->findEnd()) return false;
        }
        return true;
    }

    std::optional<Handle(Geom_BSplineSurface)> surfaceOf(std::size_t i) {
        const Canal& canal = m_canals[i];
        bool lost = false;
        const double first = before(i).last[1], last = after(i).last[0];
        const auto breaks = breaksOn(i);
        const EndZone zones[2] = {zoneAt(i, breaks, false), zoneAt(i, breaks, true)};
        const auto place = [&](double u, double v) {
            const auto from = before(i).mitre->on(1, v), to = after(i).mitre->on(0, v);
            lost = lost || !from || !to || m_progress.stopped();
            if (lost) return gp_Pnt();
            const double a = zones[0].left(u), b = zones[1].left(1 - u);
            const double along = first + (last - first) * u + (from->X() - first) * a + (to->X() - last) * b;
            return canal.at(along, v + (from->Y() - v) * a + (to->Y() - v) * b);
        };
        const auto surface = skinned(place, breaks, breaksAcross(i), kMostRimPoles);
        return lost || !surface || !touchesWithin(i, before(i).old, **surface) ? std::nullopt : surface;
    }

    /// From an end up to where the slant of its mitre is felt.
    struct EndZone {
        double size = 1; ///< of the way
        double left(double u) const {
            if (size == 1) return 1 - u;
            return u < size ? (1 - u / size) * (1 - u / size) * (1 - u / size) : 0;
        }
    };
    /// Up to where the canal is less smooth, if that is far enough: from there on the round has its edges
    /// square to the way, where that is less smooth.
    EndZone zoneAt(std::size_t i, const std::vector<double>& breaks, bool end) {
        constexpr double kSteepest = 4; // times the slant
        const RimCorner& c = end ? after(i) : before(i);
        const std::size_t side = end ? 0 : 1;
        const double slant = std::fabs(c.first[side] - c.last[side]),
                     way = std::fabs(after(i).last[0] - before(i).last[1]);
        EndZone out;
        for (const double at : breaks) {
            const double size = end ? 1 - at : at;
            if (size * way > kSteepest * slant && size > 0 && size < out.size) out.size = size;
        }
        return out;
    }

    /// Where the canal is less smooth, as shares of the way on its wall.
    std::vector<double> breaksOn(std::size_t i) {
        const double from = before(i).last[1], to = after(i).last[0];
        return withEnds(m_canals[i].breaks(), [&](double at) { return (at - from) / (to - from); });
    }

    /// Where its ends leave the round beside them.
    std::vector<double> breaksAcross(std::size_t i) {
        constexpr double kApart = 1e-3;
        std::vector<double> out{0, 1};
        for (const auto& [mitre, side] : {std::pair{&*before(i).mitre, 1}, std::pair{&*after(i).mitre, 0}})
            if (!mitre->isLower(side) && mitre->shared() < 1 - kApart) out.push_back(mitre->shared());
        std::sort(out.begin(), out.end());
        out.erase(std::unique(out.begin(), out.end(), [](double a, double b) { return b - a < kApart; }),
                  out.end());
        return out;
    }

    /// Do its borders lie within the face and the wall?
    bool touchesWithin(std::size_t i, const TopoDS_Vertex& corner, const Geom_BSplineSurface& surface) const {
        constexpr int kPlaces = 24;
        const MovedFace* faces[2] = {&m_face, &m_walls[i]};
        for (std::size_t s = 0; s < 2; ++s) {
            BRepTopAdaptor_FClass2d within(faces[s]->face, kKernelPoint);
            auto near = BRep_Tool::Parameters(corner, faces[s]->face);
            for (int k = 0; k < kPlaces; ++k) {
                const gp_Pnt p = surface.Value((k + 0.5) / kPlaces, double(s));
                const auto foot = footPoint(*faces[s]->surface, p, near);
                if (!foot || within.Perform(foot->uv) == TopAbs_OUT) return false;
                near = foot->uv;
            }
        }
        return true;
    }

    const NamedShape& m_shape;
    const Body& m_body;
    const Rim& m_rim;
    double m_radius;
    const std::function<NamePtr(const TopoDS_Edge&)>& m_nameOf;
    const Progress& m_progress;
    TopTools_IndexedDataMapOfShapeListOfShape m_edgesAt; ///< by the corner
    MovedFace m_face;
    std::deque<MovedFace> m_walls; ///< of the edges
    std::deque<MovedBorder> m_borders;
    std::vector<RimCorner> m_corners; ///< before the edges
    std::deque<Canal> m_canals;
};

} // namespace

bool fadesAt(const Body& body, const std::vector<EdgeChain>& chains) {
    constexpr double kBeside = 0.002; // of an edge
    const NamedShape& s = body.shape();
    TopTools_IndexedMapOfShape own, corners;
    for (const EdgeChain& c : chains)
        for (const TopoDS_Edge& e : c.edges) {
            own.Add(e);
            TopExp::MapShapes(e, TopAbs_VERTEX, corners);
        }
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i).Oriented(TopAbs_FORWARD));
        const bool first = corners.Contains(TopExp::FirstVertex(edge));
        if (own.Contains(edge) || (!first && !corners.Contains(TopExp::LastVertex(edge)))) continue;
        const auto here = kinkAt(s, edge, first ? kBeside : 1 - kBeside), on = kinkAt(s, edge);
        if (here && on && *here<kFadedKink&& * on> kClearKink) return true;
    }
    return false;
}

std::optional<Body> roundedRims(const Body& body, const std::vector<EdgeChain>& chains, int step,
                                const Progress& progress) {
    const double radius = chains.front().first;
    TopTools_IndexedMapOfShape left;
    for (const EdgeChain& c : chains) {
        if (c.first != radius || c.second != radius || !c.via.empty()) return std::nullopt;
        for (const TopoDS_Edge& e : c.edges) left.Add(e);
    }
    const auto made = guarded("fillet.too-large", "It cannot be rounded there.", [&]() -> Result<Body> {
        const Error failed = errorOf("fillet.too-large", "It cannot be rounded there.");
        Body now = body;
        const std::function<NamePtr(const TopoDS_Edge&)> nameOf = [&](const TopoDS_Edge& e) {
            return nameAlong(body.shape(), e, step, "fillet", chains);
        };
        while (!left.IsEmpty()) {
            const auto rim = rimAmong(now.shape(), left);
            auto rounded = rim ? RolledRim(now, *rim, radius, nameOf, progress).make() : std::nullopt;
            if (!rounded) return failed;
            for (const TopoDS_Edge& e : rim->edges) left.RemoveKey(e);
            now = std::move(*rounded);
        }
        return now;
    });
    return made ? std::optional(*made) : std::nullopt;
}

} // namespace gc
