#include "core/steps/fillet/full_round.hpp"

#include "core/steps/fillet/mitred_round.hpp"
#include "core/steps/fillet/strip_round.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/turned_seam.hpp"
#include "core/steps/shared/without_seam.hpp"
#include "core/units/amount.hpp"

#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <numbers>
#include <utility>

namespace gc {

namespace {

/// The ball that touches both walls and the face between them from within.
class FullRolling final : public Rolling {
  public:
    explicit FullRolling(const StripSides& sides) : m_sides(sides), m_over(sides.sides[0].overs.front()) {
        for (std::size_t s = 0; s < 2; ++s)
            for (const TopoDS_Face& w : m_sides.sides[s].walls) m_walls[s].emplace_back(w);
    }

    Ball near(std::size_t side, double s) const override {
        const StripSide &here = m_sides.sides[side], &there = m_sides.sides[1 - side];
        const gp_Pnt p = here.path->at(s);
        const double other = nearestOn(*there.path, p);
        const gp_Pnt q = there.path->at(other);
        Ball ball;
        ball.radius = 0.5 * p.Distance(q);
        ball.touches[side].uv = here.onWall(s);
        ball.touches[1 - side].uv = there.onWall(other);
        ball.touches[2].uv = here.onStrip(s);
        const auto out = m_over.outward(gc::placeOf(m_over.surface(), ball.touches[2].uv));
        ball.centre = gp_Pnt(0.5 * (p.XYZ() + q.XYZ()));
        if (out) ball.centre.Translate(*out * -ball.radius);
        return ball;
    }

    std::optional<Ball> at(const WallPair& walls, const gp_Pnt& p, const gp_Vec& d,
                           const Ball& from) const override {
        return ballWithin(three(walls), from, [&](const Ball& b) {
            return BallRule{gp_Vec(p, b.centre).Dot(d), d};
        });
    }

    std::optional<Ball> touchingDown(std::size_t side, std::size_t k) const override {
        const StripSide& all = m_sides.sides[side];
        const double s = k < all.edges.size() ? all.startOf(k) : all.path->length();
        Ball ball = near(side, s);
        const std::size_t wall = std::min(k, all.walls.size() - 1);
        const LengthCurve& curve = all.path->pieces()[wall].curve;
        ball.touches[side].uv =
            placeBeside(all.edges[wall], all.walls[wall], k < all.edges.size() ? curve.from() : curve.to());
        const std::size_t other =
            m_sides.sides[1 - side].edgeAt(nearestOn(*m_sides.sides[1 - side].path, all.path->at(s)));
        const WallPair walls = side == 0 ? WallPair{wall, other} : WallPair{other, wall};
        if (all.joints[k].down.IsNull()) return at(walls, all.path->at(s), all.path->tangent(s), ball);
        double a = 0, b = 0;
        const Handle(Geom_Curve) down = BRep_Tool::Curve(all.joints[k].down, a, b);
        return ballWithin(three(walls), ball, [&](const Ball& now) {
            const SurfacePlace& foot = now.touches[side];
            const GeomAPI_ProjectPointOnCurve at(foot.at, down);
            gp_Pnt p;
            gp_Vec d;
            down->D1(at.NbPoints() > 0 ? at.LowerDistanceParameter() : a, p, d);
            const gp_Vec across = foot.du.Crossed(foot.dv).Crossed(d).Normalized();
            return BallRule{gp_Vec(p, foot.at).Dot(across), across};
        });
    }

    TopoDS_Face touched(std::size_t side, std::size_t wall) const override {
        return m_sides.sides[side].walls[wall];
    }

    Error low(const Ball& ball) const override { return fullRoundLow(ball.radius, ball.touches[2].at); }
    Error unfit(const gp_Pnt& at) const override {
        Error e = errorOf("fullround.shape", "No ball touches this face and both walls beside it.");
        e.place = toVec(at);
        return e;
    }
    Error noEnd(const gp_Pnt& at) const override {
        Error e = errorOf("fullround.ends", "The round cannot be carried on to the face at this end. Make "
                                            "that face flatter, or less aslant.");
        e.place = toVec(at);
        return e;
    }

  private:
    std::array<const FaceSurface*, 3> three(const WallPair& walls) const {
        return {&m_walls[0][walls[0]], &m_walls[1][walls[1]], &m_over};
    }

    const StripSides& m_sides;
    FaceSurface m_over;
    std::array<std::vector<FaceSurface>, 2> m_walls;
};

Result<Body> roundedOnce(const Body& body, int face, int step) {
    const NamedShape& s = body.shape();
    const TopoDS_Face over = TopoDS::Face(s.faces(face + 1));
    const auto sides = sidesOf(s, {over});
    if (!sides) return sides.error();
    const auto strip = roundAlong(s, *sides, FullRolling(*sides), [&](const WallPair&) {
        const NamePtr name = firstName(s, over);
        return internName(step, "full round", name ? NameList{name} : NameList{});
    });
    if (!strip) return strip.error();
    return withStrips(body, {*strip}, kRailOff);
}

} // namespace

Error fullRoundLow(double radius, const gp_Pnt& at) {
    Error e =
        errorOf("fullround.low",
                phrase("A full round here has a radius of %1: the walls beside it are not as high as that.",
                       formatAmount(radius, "mm", 2)));
    e.place = toVec(at);
    return e;
}

Result<Body> roundedOver(const Body& body, int face, int step) {
    return guarded("fullround.failed", "This face cannot be rounded fully.", [&]() -> Result<Body> {
        const auto plain = roundedOnce(body, face, step);
        if (!plain && (plain.error().code == "fullround.corner" || plain.error().code == "fullround.shape"))
            if (auto mitred = roundedMitred(body, face, step)) return std::move(*mitred);
        if (plain || plain.error().code != "fullround.ends") return plain;
        // A round wall that closes up just where the strip ends at it closes up elsewhere as well.
        const auto seam = seamAtEnd(body.shape(), TopoDS::Face(body.shape().faces(face + 1)));
        for (const double turn : {std::numbers::pi, std::numbers::pi / 2, -std::numbers::pi / 2}) {
            const auto turned = seam ? withSeamTurned(body, seam->face, turn) : std::nullopt;
            if (!turned) continue;
            const int there = turned->faces[static_cast<std::size_t>(face)];
            const NamedShape& s = turned->body.shape();
            const auto left = seamAtEnd(s, TopoDS::Face(s.faces(there + 1)));
            const auto plainly = left ? withoutCorners(turned->body, left->corners, step) : turned->body;
            if (!plainly) continue;
            if (auto made = roundedOnce(*plainly, there, step)) return made;
        }
        return plain;
    });
}

} // namespace gc
