#include "core/steps/draft/leaning_loop.hpp"

#include "core/base/tolerance.hpp"
#include "core/model/model.hpp"
#include "core/shape/extremes.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/lean_of.hpp"
#include "core/steps/shared/leaning_prism.hpp"
#include "core/steps/shared/traced_edge.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS.hxx>
#include <gp_Ax3.hxx>
#include <gp_Trsf.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace gc {

namespace {

constexpr double kBeyond = 1; ///< mm: how far what cuts reaches beyond the walls' ends

/// What walls leave in a level; each stroke is of one wall.
struct WallLines {
    Outline outline;
    std::map<int, int> wallOf; ///< of a stroke
    double low = 0, high = 0;  ///< where the walls end, over the level, mm
};

/// Strokes are drawn, then what they enclose is found.
class LinesDrawn {
  public:
    explicit LinesDrawn(const Plane& plane) { m_lines.outline.plane = plane; }
    /// \return whether it left anything
    bool add(const std::vector<TopoDS_Edge>& edges, int wall) {
        for (const TopoDS_Edge& e : edges)
            if (const Trace t = projected(e, m_lines.outline.plane); t.kind != StrokeKind::Point)
                m_lines.wallOf[m_drawing.draw(t.kind, t.at, t.sizes)] = wall;
        return !edges.empty();
    }
    /// Nothing where they are not closed.
    std::optional<WallLines> closed(double low, double high) {
        ClosednessOptions options;
        options.closeAlongAxis = false;
        const Closedness found = findRegions(m_drawing, options);
        if (!found.troubles.empty()) return std::nullopt;
        for (const Region& r : found.regions)
            if (r.depth % 2 == 0) m_lines.outline.regions.push_back(r);
        if (m_lines.outline.regions.empty()) return std::nullopt;
        m_lines.low = low;
        m_lines.high = high;
        return m_lines;
    }

  private:
    Drawing m_drawing;
    WallLines m_lines;
};

bool liesIn(const TopoDS_Edge& edge, const Plane& plane) {
    if (BRep_Tool::Degenerated(edge)) return false;
    const BRepAdaptor_Curve c(edge);
    for (const double t : {0.0, 0.31, 0.5, 0.77, 1.0})
        if (std::fabs(plane.before(toVec(
                c.Value(c.FirstParameter() + (c.LastParameter() - c.FirstParameter()) * t)))) > kKernelPoint)
            return false;
    return true;
}

/// Where a wall meets the plane: edges of its own, if it ends there.
std::vector<TopoDS_Edge> linesOf(const TopoDS_Face& wall, const Plane& plane) {
    std::vector<TopoDS_Edge> out;
    for (TopExp_Explorer x(wall, TopAbs_EDGE); x.More(); x.Next())
        if (liesIn(TopoDS::Edge(x.Current()), plane)) out.push_back(TopoDS::Edge(x.Current()));
    if (!out.empty()) return out;
    return cutThrough(wall, plane);
}

/// How far a face's borders reach below and above the plane.
std::pair<double, double> reachOf(const TopoDS_Face& face, const Plane& plane) {
    // Along the plane's own axes: there the box's z is the height.
    gp_Trsf turned;
    const Vec3 n = plane.normal(), o = plane.origin, x = plane.across;
    turned.SetTransformation(gp_Ax3(gp_Pnt(o.x, o.y, o.z), gp_Dir(n.x, n.y, n.z), gp_Dir(x.x, x.y, x.z)));
    Box box;
    const TopoDS_Shape there = face.Moved(TopLoc_Location(turned));
    for (TopExp_Explorer e(there, TopAbs_EDGE); e.More(); e.Next())
        if (!BRep_Tool::Degenerated(TopoDS::Edge(e.Current()))) addExtremes(box, TopoDS::Edge(e.Current()));
    return {box.low.z, box.high.z};
}

Error notRound() {
    return errorOf(
        "draft.loop",
        "Walls that are neither flat nor round lean only together with all walls around them. Pick "
        "all of them, or let the step that makes them lean.");
}

Result<WallLines> linesIn(const NamedShape& s, const std::vector<int>& walls, const Plane& plane) {
    LinesDrawn drawn(plane);
    double low = 1e300, high = -1e300;
    for (const int wall : walls) {
        const TopoDS_Face face = TopoDS::Face(s.faces(wall + 1));
        if (!drawn.add(linesOf(face, plane), wall)) {
            Error e =
                errorOf("draft.level", "The walls do not meet this level, so it is not known where they "
                                       "keep their size. Choose a level that runs through them.");
            e.culprits.push_back(s.wordsFor(face));
            return e;
        }
        const auto [from, to] = reachOf(face, plane);
        low = std::min(low, from);
        high = std::max(high, to);
    }
    auto lines = drawn.closed(low, high);
    if (!lines) return notRound();
    return *lines;
}

/// The halves of a prism that has its drawing in the level and ends at two heights over that.
std::vector<LeanHalf> halvesFor(double low, double high, double angle, bool bothWays) {
    std::vector<LeanHalf> out;
    if (high > kKernelPoint) out.push_back({1, high, angle});
    if (low < -kKernelPoint) out.push_back({-1, -low, bothWays ? angle : -angle});
    return out;
}

/// Leaning walls over one area.
Result<LeaningPrism> prismOver(const WallLines& lines, const Region& area,
                               const std::vector<LeanHalf>& halves, double angle) {
    const auto made = leaningPrism(lines.outline, area, 0, halves);
    if (!made) return made.error();
    if (std::holds_alternative<LeanStop>(*made)) return leanTooLarge(angle);
    return std::get<LeaningPrism>(*made);
}

/// Flat faces square to the pull at both ends, by their heights; nothing where the body has other faces.
struct FlatEnds {
    TopoDS_Face low, high;
};
std::optional<FlatEnds> flatEnds(const NamedShape& s, const std::vector<int>& walls, const Plane& plane,
                                 const WallLines& lines) {
    FlatEnds out;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        if (std::find(walls.begin(), walls.end(), i - 1) != walls.end()) continue;
        const TopoDS_Face face = TopoDS::Face(s.faces(i));
        const auto [low, high] = reachOf(face, plane);
        if (BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Plane || high - low > kKernelPoint)
            return std::nullopt;
        if (std::fabs(low - lines.low) < kKernelPoint && out.low.IsNull())
            out.low = face;
        else if (std::fabs(low - lines.high) < kKernelPoint && out.high.IsNull())
            out.high = face;
        else
            return std::nullopt;
    }
    if (out.low.IsNull() || out.high.IsNull()) return std::nullopt;
    return out;
}

/// The lines once more, at the lower end of the walls, where a lean from the level has brought them: leaning
/// from there the walls are of one piece.
Result<WallLines> movedToEnd(const WallLines& lines, double angle) {
    const auto half = prismOver(lines, lines.outline.regions.front(), {{-1, -lines.low, -angle}}, angle);
    if (!half) return half.error();
    const Plane end = moved(lines.outline.plane, lines.low);
    LinesDrawn drawn(end);
    for (const LeaningPrism::Side& side : half->sides)
        drawn.add(linesOf(side.face, end), lines.wallOf.at(side.stroke));
    auto out = drawn.closed(0, lines.high - lines.low);
    if (!out) return leanTooLarge(angle);
    return *out;
}

/// The walls and two flat ends are all there is: they are made anew.
Result<Body> madeAnew(const NamedShape& s, const WallLines& lines, const FlatEnds& ends, double angle,
                      bool bothWays) {
    const bool through = lines.low < -kKernelPoint && lines.high > kKernelPoint;
    WallLines from = lines;
    if (through && !bothWays) {
        auto moved = movedToEnd(lines, angle);
        if (!moved) return moved.error();
        from = std::move(*moved);
    }
    const auto prism =
        prismOver(from, from.outline.regions.front(), halvesFor(from.low, from.high, angle, bothWays), angle);
    if (!prism) return prism.error();
    NameBuilder names(prism->solid);
    names.inherit(s);
    names.add(prism->before, s.namesOf(ends.high));
    names.add(prism->behind, s.namesOf(ends.low));
    for (const LeaningPrism::Side& side : prism->sides)
        names.add(side.face, s.namesOf(s.faces(from.wallOf.at(side.stroke) + 1)));
    return names.finish();
}

/// Does the material lie outside of an area, as around a hole?
bool isHole(const NamedShape& s, const WallLines& lines, const Region& area) {
    const Plane& plane = lines.outline.plane;
    const int wall = lines.wallOf.at(area.strokes().front());
    gp_Pnt at;
    const auto normal = outwardIn(TopoDS::Face(s.faces(wall + 1)), at);
    if (!normal) return false;
    const Vec2 out = unit(plane.alongside({normal->X(), normal->Y(), normal->Z()}));
    const double step = std::sqrt(std::fabs(area.area())) / 50; // beyond what an outline in chords is off
    return area.contains(plane.foot(toVec(at)) + out * step);
}

/// What lies beyond the leaning walls is cut off; the rest of the body stays.
Result<Body> cutOffBy(const Body& body, const WallLines& lines, double angle) {
    const NamedShape& s = body.shape();
    Body out = body;
    for (const Region& area : lines.outline.regions) {
        const bool hole = isHole(s, lines, area);
        const double lean = hole ? -angle : angle;
        std::vector<LeanHalf> halves{{1, lines.high + kBeyond, lean}, {-1, kBeyond - lines.low, 0}};
        const auto prism = prismOver(lines, area, halves, angle);
        if (!prism) return prism.error();
        NamedTool tool;
        tool.shape = prism->solid;
        const NamePtr none = internName(0, "beyond");
        tool.names = {{prism->before, none}, {prism->behind, none}};
        for (const LeaningPrism::Side& side : prism->sides)
            tool.names.emplace_back(side.face, firstName(s, s.faces(lines.wallOf.at(side.stroke) + 1)));
        auto made = combine(out, tool, hole ? Combine::Take : Combine::Common);
        if (!made) return made.error();
        out = std::move(*made);
    }
    return out;
}

} // namespace

Error leanTooLarge(double angle) {
    return errorOf("draft.too-large",
                   phrase("A lean of %1 is too much here: walls would run into each other, or a round beside "
                          "them would be used up. A smaller lean may work.",
                          formatAmount(std::fabs(angle), "°", 2)));
}

Result<Body> leaningLoop(const Body& body, const std::vector<int>& walls, const gp_Dir& pull, double angle,
                         const gp_Pln& level, bool bothWays) {
    const NamedShape& s = body.shape();
    const Vec3 n{pull.X(), pull.Y(), pull.Z()};
    const Plane plane = planeFacing(toVec(level.Location()), n);
    const auto lines = linesIn(s, walls, plane);
    if (!lines) return lines.error();
    auto made = [&]() -> Result<Body> {
        const auto ends = flatEnds(s, walls, plane, *lines);
        if (ends && lines->outline.regions.size() == 1) return madeAnew(s, *lines, *ends, angle, bothWays);
        if (angle < 0 || bothWays || lines->low < -kKernelPoint)
            return errorOf("draft.details",
                           "Beside other details of the body, walls that are neither flat nor round can only "
                           "be cut: let them narrow from a level at their lower end, or draft before the "
                           "details are made.");
        return cutOffBy(body, *lines, angle);
    }();
    if (!made) return made.error();
    const BodyCheck check = checkBody(*made);
    if (!check.faults.empty() || check.solids != solidsIn(s.shape)) return leanTooLarge(angle);
    for (const int wall : walls) {
        const NamePtr name = firstName(s, s.faces(wall + 1));
        for (int i = 1; i <= made->shape().faces.Extent(); ++i) {
            const TopoDS_Face now = TopoDS::Face(made->shape().faces(i));
            if (firstName(made->shape(), now) != name) continue;
            gp_Pnt at;
            const auto lean = leanOf(now, pull, at);
            const bool turned = bothWays && plane.before(toVec(at)) < 0;
            const double asked = turned ? -angle : angle;
            if (lean &&
                (std::fabs(lean->first - asked) > kTrueLean || std::fabs(lean->second - asked) > kTrueLean))
                return leanTooLarge(angle);
        }
    }
    return made;
}

} // namespace gc
