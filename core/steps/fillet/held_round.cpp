#include "core/steps/fillet/held_round.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/fillet/strip_round.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/worked_names.hpp"
#include "core/units/amount.hpp"

#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

Error nothingBetween() {
    return errorOf("held.apart",
                   "No face lies between these edges and this line. Pick a border of a face beside "
                   "the edges, on its other side.");
}

std::vector<TopoDS_Edge> edgesOf(const TopoDS_Shape& face) {
    std::vector<TopoDS_Edge> out;
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
        if (!BRep_Tool::Degenerated(TopoDS::Edge(x.Current()))) out.push_back(TopoDS::Edge(x.Current()));
    return out;
}

bool touch(const TopoDS_Edge& a, const TopoDS_Edge& b) {
    TopoDS_Vertex common;
    return TopExp::CommonVertex(a, b, common);
}

/// What lies between edges and a line: first the faces that have both for borders, then those that run on
/// from these smoothly, with what goes on there of the edges and of the line.
class Between {
  public:
    Between(const NamedShape& shape, const std::vector<int>& edges, const std::vector<int>& line)
        : m_shape(shape) {
        for (const int i : edges) m_edges.Add(shape.edges(i + 1));
        for (const int i : line) m_line.Add(shape.edges(i + 1));
    }

    std::vector<TopoDS_Face> find() {
        for (int i = 1; i <= m_line.Extent(); ++i)
            for (const TopoDS_Shape& f : facesBeside(m_shape, TopoDS::Edge(m_line(i)))) {
                const auto all = edgesOf(f);
                if (std::any_of(all.begin(), all.end(),
                                [&](const TopoDS_Edge& e) { return m_edges.Contains(e); }))
                    m_found.Add(f);
            }
        for (int i = 1; i <= m_found.Extent(); ++i) goOn(TopoDS::Face(m_found(i)));
        std::vector<TopoDS_Face> out;
        for (int i = 1; i <= m_found.Extent(); ++i) out.push_back(TopoDS::Face(m_found(i)));
        return out;
    }
    bool isLine(const TopoDS_Edge& e) const { return m_line.Contains(e); }
    bool isRounded(const TopoDS_Edge& e) const { return m_edges.Contains(e); }

  private:
    void goOn(const TopoDS_Face& face) {
        const auto borders = edgesOf(face);
        const auto ends = [&](const TopoDS_Edge& e, const TopTools_IndexedMapOfShape& among) {
            return std::any_of(borders.begin(), borders.end(),
                               [&](const TopoDS_Edge& b) { return among.Contains(b) && touch(b, e); });
        };
        for (const TopoDS_Edge& e : borders) {
            if (m_edges.Contains(e) || m_line.Contains(e) || !ends(e, m_edges) || !ends(e, m_line)) continue;
            const TopoDS_Face next = faceAcross(m_shape, e, face);
            if (next.IsNull() || m_found.Contains(next) || !isSmooth(m_shape, e)) continue;
            m_found.Add(next);
            continued(e, borders, edgesOf(next), m_edges);
            continued(e, borders, edgesOf(next), m_line);
        }
    }
    /// Which border of the next face goes on where one of this one ends.
    static void continued(const TopoDS_Edge& over, const std::vector<TopoDS_Edge>& here,
                          const std::vector<TopoDS_Edge>& there, TopTools_IndexedMapOfShape& chain) {
        for (const TopoDS_Edge& e : here) {
            TopoDS_Vertex end;
            if (!chain.Contains(e) || !TopExp::CommonVertex(e, over, end)) continue;
            for (const TopoDS_Edge& next : there)
                if (!next.IsSame(over) &&
                    (TopExp::FirstVertex(next).IsSame(end) || TopExp::LastVertex(next).IsSame(end))) {
                    chain.Add(next);
                    return;
                }
        }
    }

    const NamedShape& m_shape;
    TopTools_IndexedMapOfShape m_edges, m_line, m_found;
};

/// The ball that touches the faces of the strip at their first side, and the walls of the second.
class HeldRolling final : public Rolling {
  public:
    HeldRolling(const NamedShape& shape, const StripSides& sides)
        : m_sides(sides), m_in(isHollow(shape, sides.sides[1].edges.front()) ? -1 : 1) {
        for (const TopoDS_Face& f : sides.sides[0].overs) m_overs.emplace_back(f);
        for (const TopoDS_Face& f : sides.sides[1].walls) m_walls.emplace_back(f);
    }

    Ball near(std::size_t side, double s) const override {
        const StripSide &here = m_sides.sides[side], &there = m_sides.sides[1 - side];
        const gp_Pnt p = here.path->at(s);
        const double other = nearestOn(*there.path, p);
        Ball ball;
        ball.radius = p.Distance(there.path->at(other));
        ball.touches[0].uv = m_sides.sides[0].onStrip(side == 0 ? s : other);
        ball.touches[1].uv = m_sides.sides[1].onWall(side == 0 ? other : s);
        return ball;
    }

    std::optional<Ball> at(const WallPair& walls, const gp_Pnt& p, const gp_Vec&,
                           const Ball& from) const override {
        constexpr int kSteps = 60;
        const FaceSurface &over = m_overs[walls[0]], &wall = m_walls[walls[1]];
        Ball ball = from;
        const auto foot = footPoint(over.surface(), p, from.touches[0].uv);
        const auto out = foot ? over.outward(*foot) : std::nullopt;
        if (!out) return std::nullopt;
        ball.touches[0] = *foot;
        for (int k = 0; k < kSteps; ++k) {
            ball.centre = foot->at.Translated(*out * (-m_in * ball.radius));
            const auto there = footPoint(wall.surface(), ball.centre, ball.touches[1].uv);
            const auto beyond = there ? wall.outward(*there) : std::nullopt;
            if (!beyond) return std::nullopt;
            ball.touches[1] = *there;
            const double off = m_in * gp_Vec(ball.centre, there->at).Dot(*beyond) - ball.radius;
            if (std::fabs(off) < 0.01 * kKernelPoint) {
                // The middle of its arc.
                const gp_Vec way = gp_Vec(ball.centre, foot->at) + gp_Vec(ball.centre, there->at);
                if (way.Magnitude() < 1e-3 * ball.radius) return std::nullopt;
                ball.touches[2].at = ball.centre.Translated(way.Normalized() * ball.radius);
                return ball;
            }
            const double slope = out->Dot(*beyond) - 1;
            if (slope > -1e-6) return std::nullopt; // the faces are one
            ball.radius -= std::clamp(off / slope, -0.5 * ball.radius, 0.5 * ball.radius);
        }
        return std::nullopt;
    }

    std::optional<Ball> touchingDown(std::size_t side, std::size_t k) const override {
        const StripSide &first = m_sides.sides[0], &second = m_sides.sides[1];
        if (side == 0) {
            const double s = k < first.edges.size() ? first.startOf(k) : first.path->length();
            return ballAt(s, std::min(k, first.edges.size() - 1), std::nullopt);
        }
        const std::size_t wall = std::min(k, second.walls.size() - 1);
        const SideJoint& joint = second.joints[k];
        const gp_Pnt corner = BRep_Tool::Pnt(joint.corner);
        if (joint.down.IsNull()) {
            const double s = acrossFrom(joint.corner).value_or(nearestOn(*first.path, corner));
            return ballAt(s, first.edgeAt(s), wall);
        }
        double a = 0, b = 0;
        const Handle(Geom_Curve) down = BRep_Tool::Curve(joint.down, a, b);
        std::optional<Ball> ball;
        const auto off = [&](double s) -> std::optional<double> {
            const double at = wrappedOn(*first.path, s);
            ball = ballAt(at, first.edgeAt(at), wall);
            if (!ball) return std::nullopt;
            const SurfacePlace& foot = ball->touches[1];
            const GeomAPI_ProjectPointOnCurve nearest(foot.at, down);
            gp_Pnt p;
            gp_Vec d;
            down->D1(nearest.NbPoints() > 0 ? nearest.LowerDistanceParameter() : a, p, d);
            return gp_Vec(p, foot.at).Dot(foot.du.Crossed(foot.dv).Crossed(d).Normalized());
        };
        constexpr int kSteps = 40;
        double s = acrossFrom(joint.corner).value_or(nearestOn(*first.path, corner));
        double before = s - 1e-4 * first.path->length();
        auto was = off(before), now = off(s);
        for (int i = 0; i < kSteps && was && now && std::fabs(*now) > 0.1 * kKernelPoint && *now != *was;
             ++i) {
            const double next = s - *now * (s - before) / (*now - *was);
            before = std::exchange(s, next);
            was = std::exchange(now, off(next));
        }
        return now && std::fabs(*now) < kKernelPoint ? ball : std::nullopt;
    }

    TopoDS_Face touched(std::size_t side, std::size_t wall) const override {
        return side == 0 ? m_sides.sides[0].overs[wall] : m_sides.sides[1].walls[wall];
    }
    bool keepsFirst() const override { return true; }

    Error low(const Ball& ball) const override {
        return at(
            ball.touches[1].at,
            errorOf("held.wide",
                    phrase("Up to this line the round has a radius of %1 here: the face across the edges "
                           "ends before it touches that. Choose a nearer line, or give a radius.",
                           formatAmount(ball.radius, "mm", 2))));
    }
    Error unfit(const gp_Pnt& place) const override {
        return at(place,
                  errorOf("held.shape", "No ball that touches the face at this line rolls onto the face "
                                        "across the edges."));
    }
    Error noEnd(const gp_Pnt& place) const override {
        return at(place, errorOf("held.ends", "The round cannot be carried on to the face at this end. Make "
                                              "that face flatter, or less aslant."));
    }

  private:
    static Error at(const gp_Pnt& place, Error e) {
        e.place = toVec(place);
        return e;
    }
    /// By the length along the line. \param wall nothing for the nearest one
    std::optional<Ball> ballAt(double s, std::size_t edge, std::optional<std::size_t> wall) const {
        const StripSide &first = m_sides.sides[0], &second = m_sides.sides[1];
        const gp_Pnt p = first.path->at(s);
        Ball from = near(0, s);
        const LengthCurve& curve = first.path->pieces()[edge].curve;
        const double along = std::clamp(s - first.startOf(edge), 0.0, curve.length());
        from.touches[0].uv = placeBeside(first.edges[edge], first.overs[edge], curve.parameterAt(along));
        const std::size_t there = wall.value_or(second.edgeAt(nearestOn(*second.path, p)));
        if (wall) {
            const LengthCurve& border = second.path->pieces()[there].curve;
            const double on = nearestOn(*second.path, p) - second.startOf(there);
            from.touches[1].uv = placeBeside(second.edges[there], second.walls[there],
                                             border.parameterAt(std::clamp(on, 0.0, border.length())));
        }
        return at({edge, there}, p, first.path->tangent(s), from);
    }
    /// Where an edge of the strip leads from a corner of the second side to the line.
    std::optional<double> acrossFrom(const TopoDS_Vertex& corner) const {
        const StripSide& first = m_sides.sides[0];
        for (const TopoDS_Face& f : first.overs)
            for (const TopoDS_Edge& e : edgesOf(f)) {
                const TopoDS_Vertex a = TopExp::FirstVertex(e), b = TopExp::LastVertex(e);
                if (!a.IsSame(corner) && !b.IsSame(corner)) continue;
                for (std::size_t k = 0; k < first.joints.size(); ++k)
                    if (first.joints[k].corner.IsSame(a.IsSame(corner) ? b : a))
                        return k < first.edges.size() ? first.startOf(k) : first.path->length();
            }
        return std::nullopt;
    }

    const StripSides& m_sides;
    double m_in; ///< 1 where the ball lies within the body, -1 where outside
    std::vector<FaceSurface> m_overs, m_walls;
};

/// With the line first.
Result<StripSides> lineFirst(const NamedShape& s, const Between& between,
                             const std::vector<TopoDS_Face>& faces) {
    auto sides = sidesOf(s, faces);
    if (!sides) {
        Error e = errorOf("held.strip",
                          "What lies between the edges and the line must have two sides along it, the "
                          "edges and the line, and be a ring or have two ends. This is another "
                          "shape; give a radius instead.");
        e.place = sides.error().place;
        return e;
    }
    const auto has = [](const StripSide& side, const auto& which) {
        return std::any_of(side.edges.begin(), side.edges.end(), which);
    };
    const auto isLine = [&](const TopoDS_Edge& e) { return between.isLine(e); };
    const auto isRounded = [&](const TopoDS_Edge& e) { return between.isRounded(e); };
    if (!has(sides->sides[0], isLine)) std::swap(sides->sides[0], sides->sides[1]);
    if (!has(sides->sides[0], isLine) || !has(sides->sides[1], isRounded)) return nothingBetween();
    return sides;
}

} // namespace

Result<Body> roundedHeldAt(const Body& body, const std::vector<int>& edges, const std::vector<int>& line,
                           int step) {
    return guarded("held.failed", "These edges cannot be rounded up to that line.", [&]() -> Result<Body> {
        const NamedShape& s = body.shape();
        Between between(s, edges, line);
        const auto faces = between.find();
        if (faces.empty()) return nothingBetween();
        const auto sides = lineFirst(s, between, faces);
        if (!sides) return sides.error();
        const auto strip = roundAlong(s, *sides, HeldRolling(s, *sides), [&](const WallPair& walls) {
            return nameAlong(s, sides->sides[1].edges[walls[1]], step, "held round", {});
        });
        if (!strip) return strip.error();
        return withStrips(body, {*strip}, kRailOff);
    });
}

} // namespace gc
