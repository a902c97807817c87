#include "core/steps/fillet/full_round.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/fillet/round_arc.hpp"
#include "core/steps/fillet/strip_sides.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/strip.hpp"
#include "core/steps/shared/turned_seam.hpp"
#include "core/steps/shared/without_seam.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <TopoDS.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <utility>

namespace gc {

namespace {

constexpr int kMostPoles = 300;     // along
constexpr double kRailOff = 1e-4;   // mm: its borders from the walls
constexpr double kSquareOff = 1e-5; // mm: an end arc from the flat end

/// A place where the round goes from one wall to the next on a side, or ends.
struct Joint {
    double s = 0; ///< along the first side
    Ball ball;
    std::array<std::optional<std::size_t>, 2> at; ///< the side's joint that it is
    bool aslant = false;                          ///< an end whose face does not lie in the arc there
};

/// The round from one joint to the next.
struct Stretch {
    double from = 0, to = 1;            ///< along the first side
    std::array<std::size_t, 2> walls{}; ///< on both sides
    std::map<double, Ball> known;       ///< by the share of the way
};

class FullRound {
  public:
    FullRound(const NamedShape& shape, const TopoDS_Face& face, StripSides sides)
        : m_shape(shape), m_face(face), m_sides(std::move(sides)), m_over(face) {
        for (std::size_t s = 0; s < 2; ++s)
            for (const TopoDS_Face& w : m_sides.sides[s].walls) m_walls[s].emplace_back(w);
    }

    Result<Strip> make(NamePtr name) {
        if (auto fault = findJoints()) return *fault;
        const std::size_t n = m_joints.size() - (m_sides.closed ? 0 : 1);
        for (std::size_t i = 0; i < n; ++i) m_stretches.push_back(stretchAfter(i));
        Strip out;
        out.closed = m_sides.closed;
        out.ends = m_sides.ends;
        out.gone = {m_face};
        for (std::size_t i = 0; i < m_joints.size(); ++i) {
            const Joint& j = m_joints[i];
            std::array<TopoDS_Vertex, 2> corners;
            for (std::size_t s = 0; s < 2; ++s) {
                const gp_Pnt corner = j.aslant ? endPlace(i == 0 ? 0 : 1, s) : j.ball.touches[s].at;
                if (m_fault) return *m_fault;
                corners[s] = BRepBuilderAPI_MakeVertex(corner).Vertex();
                if (!j.at[s]) continue;
                const SideJoint& side = m_sides.sides[s].joints[*j.at[s]];
                const auto at = downTo(side, corner, kRailOff);
                if (!at) return low(j.ball);
                out.cut.emplace_back(side.down, cutOff(side.down, side.corner, corners[s], *at));
            }
            out.joints.push_back(corners);
        }
        for (std::size_t i = 0; i < n; ++i) {
            auto piece = pieceAt(i);
            if (!piece) return piece.error();
            piece->name = name;
            out.pieces.push_back(std::move(*piece));
        }
        return out;
    }

  private:
    Error low(const Ball& ball) const {
        Error e =
            errorOf("fullround.low",
                    phrase("A full round here has a radius of %1: the walls beside it are not as high as "
                           "that.",
                           formatAmount(ball.radius, "mm", 2)));
        e.place = toVec(ball.touches[2].at);
        return e;
    }
    Error unfit(const gp_Pnt& at) const {
        Error e = errorOf("fullround.shape", "No ball touches this face and both walls beside it.");
        e.place = toVec(at);
        return e;
    }

    /// The place of a wall where a border of it is, by the length along the side.
    gp_Pnt2d placeOn(std::size_t side, double s) const {
        const StripSide& all = m_sides.sides[side];
        const auto [piece, from] = all.path->pieceAt(s);
        return placeBeside(all.edges[piece], all.walls[piece],
                           all.path->pieces()[piece].curve.parameterAt(from));
    }
    gp_Pnt2d placeOver(std::size_t side, double s) const {
        const StripSide& all = m_sides.sides[side];
        const auto [piece, from] = all.path->pieceAt(s);
        return placeBeside(all.edges[piece], m_face, all.path->pieces()[piece].curve.parameterAt(from));
    }

    double nearest(std::size_t side, const gp_Pnt& p) const {
        return nearestOn(*m_sides.sides[side].path, p);
    }
    double wrapped(std::size_t side, double s) const { return wrappedOn(*m_sides.sides[side].path, s); }

    /// A ball that may be the one at a place of a side.
    Ball near(std::size_t side, double s) const {
        const gp_Pnt p = m_sides.sides[side].path->at(s);
        const double other = nearest(1 - side, p);
        const gp_Pnt q = m_sides.sides[1 - side].path->at(other);
        Ball ball;
        ball.radius = 0.5 * p.Distance(q);
        ball.touches[side].uv = placeOn(side, s);
        ball.touches[1 - side].uv = placeOn(1 - side, other);
        ball.touches[2].uv = placeOver(side, s);
        const auto out = m_over.outward(gc::placeOf(m_over.surface(), ball.touches[2].uv));
        ball.centre = gp_Pnt(0.5 * (p.XYZ() + q.XYZ()));
        if (out) ball.centre.Translate(*out * -ball.radius);
        return ball;
    }
    std::array<const FaceSurface*, 3> three(std::size_t first, std::size_t second) const {
        return {&m_walls[0][first], &m_walls[1][second], &m_over};
    }

    std::optional<Ball> touchingDown(std::size_t side, std::size_t k) const {
        const StripSide& all = m_sides.sides[side];
        const double s = k < all.edges.size() ? startOf(side, k) : all.path->length();
        Ball ball = near(side, s);
        const std::size_t wall = std::min(k, all.walls.size() - 1);
        ball.touches[side].uv =
            placeBeside(all.edges[wall], all.walls[wall],
                        k < all.edges.size() ? parameterAtStart(side, wall) : parameterAtEnd(side, wall));
        const std::size_t other = m_sides.sides[1 - side].edgeAt(nearest(1 - side, all.path->at(s)));
        double a = 0, b = 0;
        const Handle(Geom_Curve) down = BRep_Tool::Curve(all.joints[k].down, a, b);
        const auto rule = [&](const Ball& now) {
            const SurfacePlace& foot = now.touches[side];
            const GeomAPI_ProjectPointOnCurve at(foot.at, down);
            gp_Pnt p;
            gp_Vec d;
            down->D1(at.NbPoints() > 0 ? at.LowerDistanceParameter() : a, p, d);
            const gp_Vec across = foot.du.Crossed(foot.dv).Crossed(d).Normalized();
            return BallRule{gp_Vec(p, foot.at).Dot(across), across};
        };
        return ballWithin(side == 0 ? three(wall, other) : three(other, wall), ball, rule);
    }
    double startOf(std::size_t side, std::size_t k) const {
        double s = 0;
        for (std::size_t i = 0; i < k; ++i) s += m_sides.sides[side].path->pieces()[i].curve.length();
        return s;
    }
    double parameterAtStart(std::size_t side, std::size_t k) const {
        return m_sides.sides[side].path->pieces()[k].curve.from();
    }
    double parameterAtEnd(std::size_t side, std::size_t k) const {
        return m_sides.sides[side].path->pieces()[k].curve.to();
    }

    std::optional<Error> findJoints() { return m_sides.closed ? findRound() : findBetweenEnds(); }
    std::optional<Error> addJoint(std::size_t side, std::size_t k) {
        const auto ball = touchingDown(side, k);
        const StripSide& all = m_sides.sides[side];
        if (!ball) return unfit(BRep_Tool::Pnt(all.joints[k].corner));
        if (!downTo(all.joints[k], ball->touches[side].at, kRailOff)) return low(*ball);
        Joint j{nearest(0, ball->centre), *ball, {}};
        j.at[side] = k;
        m_joints.push_back(j);
        return std::nullopt;
    }
    /// In the order along the strip; what is in the same place on both sides is one.
    void sortJoints() {
        constexpr double kOne = 0.5 * kRailOff; // seams of fitted walls lie no truer
        std::sort(m_joints.begin(), m_joints.end(), [](const Joint& a, const Joint& b) { return a.s < b.s; });
        const auto isOne = [](const Joint& a, const Joint& b) {
            return a.ball.centre.Distance(b.ball.centre) < kOne;
        };
        std::vector<Joint> merged;
        for (const Joint& j : m_joints) {
            const auto same =
                std::find_if(merged.begin(), merged.end(), [&](const Joint& m) { return isOne(m, j); });
            if (same == merged.end()) {
                merged.push_back(j);
                continue;
            }
            for (std::size_t s = 0; s < 2; ++s)
                if (j.at[s]) same->at[s] = j.at[s];
        }
        m_joints = std::move(merged);
    }
    std::optional<Error> findRound() {
        for (std::size_t s = 0; s < 2; ++s)
            for (std::size_t k = 0; k < m_sides.sides[s].joints.size(); ++k)
                if (auto fault = addJoint(s, k)) return fault;
        sortJoints();
        return std::nullopt;
    }
    std::optional<Error> findBetweenEnds() {
        for (std::size_t s = 0; s < 2; ++s)
            for (std::size_t k = 1; k + 1 < m_sides.sides[s].joints.size(); ++k)
                if (auto fault = addJoint(s, k)) return fault;
        sortJoints();
        for (std::size_t end = 0; end < 2; ++end) {
            auto joint = endJoint(end);
            if (!joint) return joint.error();
            m_joints.insert(end == 0 ? m_joints.begin() : m_joints.end(), *joint);
        }
        return std::nullopt;
    }
    /// The ball whose arc lies in the flat face at an end; where there is none, the one where the first side
    /// ends.
    Result<Joint> endJoint(std::size_t end) {
        const double s = end == 0 ? 0 : m_sides.sides[0].path->length();
        const gp_Pnt at = m_sides.sides[0].path->at(s);
        const TopoDS_Face face = faceAcross(m_shape, m_sides.ends[end], m_face);
        if (face.IsNull()) return unfit(at);
        const std::size_t a = end == 0 ? 0 : m_walls[0].size() - 1, b = end == 0 ? 0 : m_walls[1].size() - 1;
        const auto ballIn = [&](const gp_Vec& n) {
            return ballWithin(three(a, b), near(0, s), [&](const Ball& ball) {
                return BallRule{gp_Vec(at, ball.centre).Dot(n), n};
            });
        };
        Joint out{s, {}, {}};
        for (std::size_t k = 0; k < 2; ++k) out.at[k] = end == 0 ? 0 : m_sides.sides[k].joints.size() - 1;
        const BRepAdaptor_Surface surface(face, false);
        if (surface.GetType() == GeomAbs_Plane) {
            const gp_Vec n(surface.Plane().Axis().Direction());
            const auto square = ballIn(n);
            const auto isOff = [&](const SurfacePlace& p) {
                return std::fabs(gp_Vec(at, p.at).Dot(n)) > kSquareOff;
            };
            if (square && std::none_of(square->touches.begin(), square->touches.end(), isOff)) {
                out.ball = *square;
                return out;
            }
        }
        const auto ball = ballIn(m_sides.sides[0].path->tangent(s));
        if (!ball) return unfit(at);
        out.ball = *ball;
        out.aslant = true;
        double first = 0, last = 0;
        BRep_Tool::Range(m_sides.ends[end], first, last);
        m_ends[end].emplace(face, placeBeside(m_sides.ends[end], face, 0.5 * (first + last)), double(end));
        return out;
    }
    /// The share of the way at which the arcs' places at that share across lie on the face of an aslant end.
    double endAt(std::size_t end, double v) {
        Stretch& way = end == 0 ? m_stretches.front() : m_stretches.back();
        const auto at = m_ends[end]->at(v, [&](double t) { return ballOn(way, t); });
        if (at) return *at;
        if (!m_fault) {
            m_fault =
                errorOf("fullround.ends", "The round cannot be carried on to the face at this end. Make "
                                          "that face flatter, or less aslant.");
            m_fault->place = toVec(way.known.at(double(end)).touches[2].at);
        }
        return double(end);
    }
    gp_Pnt endPlace(std::size_t end, std::size_t side) {
        const double v = double(side), t = endAt(end, v);
        return placeOnArc(ballOn(end == 0 ? m_stretches.front() : m_stretches.back(), t), v);
    }

    /// The wall of a side between a joint and the next.
    std::size_t wallAfter(std::size_t side, std::size_t joint) const {
        const std::size_t n = m_joints.size();
        for (std::size_t back = 0; back < n; ++back) {
            const Joint& j = m_joints[(joint + n - back) % n];
            if (j.at[side]) return *j.at[side];
        }
        return 0;
    }

    Stretch stretchAfter(std::size_t i) {
        const Joint &from = m_joints[i], &to = m_joints[(i + 1) % m_joints.size()];
        Stretch out;
        out.from = from.s;
        out.to = to.s > from.s + 1e-9 ? to.s : to.s + m_sides.sides[0].path->length();
        out.walls = {wallAfter(0, i), wallAfter(1, i)};
        const std::array<TopoDS_Face, 2> walls{m_sides.sides[0].walls[out.walls[0]],
                                               m_sides.sides[1].walls[out.walls[1]]};
        out.known = {{0, seenFrom(walls, from.ball)}, {1, seenFrom(walls, to.ball)}};
        return out;
    }

    Result<StripPiece> pieceAt(std::size_t i) {
        Stretch& way = m_stretches[i];
        StripPiece out;
        out.beside = {m_sides.sides[0].walls[way.walls[0]], m_sides.sides[1].walls[way.walls[1]]};
        out.instead = {m_sides.sides[0].edges[way.walls[0]], m_sides.sides[1].edges[way.walls[1]]};
        const bool aslant[2] = {m_joints[i].aslant, m_joints[(i + 1) % m_joints.size()].aslant};
        const AslantRound round{[&](double t) { return ballOn(way, t); },
                                [&](double v) { return aslant[0] ? endAt(0, v) : 0.0; },
                                [&](double v) { return aslant[1] ? endAt(1, v) : 1.0; }};
        const auto surface = aslant[0] || aslant[1] ? skinned(round, kMostPoles) : square(way);
        if (m_fault) return *m_fault;
        if (!surface) return unfit(way.known.at(0).touches[2].at);
        out.surface = *surface;
        constexpr int kPlaces = 24;
        for (std::size_t s = 0; s < 2; ++s) {
            BRepTopAdaptor_FClass2d within(out.beside[s], kKernelPoint);
            for (int k = 0; k < kPlaces; ++k) {
                const Ball ball = round.at((k + 0.5) / kPlaces, double(s));
                if (within.Perform(ball.touches[s].uv) == TopAbs_OUT) return low(ball);
            }
        }
        if (m_fault) return *m_fault;
        return out;
    }

    std::optional<Handle(Geom_BSplineSurface)> square(Stretch& way) {
        constexpr double kApart = 1e-4; // of the way: nearer knots cannot be solved for
        const auto rows = [&](double t) { return arcOf(ballOn(way, t)); };
        const double length = m_sides.sides[0].path->length();
        std::vector<double> breaks{0, 1};
        for (const double s : m_sides.sides[0].path->breaks())
            for (const double at : {s, s + length}) {
                const double t = (at - way.from) / (way.to - way.from);
                if (t > kApart && t < 1 - kApart) breaks.push_back(t);
            }
        std::sort(breaks.begin(), breaks.end());
        breaks.erase(
            std::unique(breaks.begin(), breaks.end(), [](double x, double y) { return y - x < kApart; }),
            breaks.end());
        const auto direction = directionFor(breaks, rows, {2e-6, 1e-5, 5e-5}, kMostPoles);
        if (!direction) return std::nullopt;
        return skinned(*direction, rows);
    }

    /// With its touches as places of these walls: at a joint they may be those of the walls before.
    static Ball seenFrom(const std::array<TopoDS_Face, 2>& walls, Ball ball) {
        for (std::size_t s = 0; s < 2; ++s)
            ball.touches[s].uv = ShapeAnalysis_Surface(BRep_Tool::Surface(walls[s]))
                                     .ValueOfUV(ball.touches[s].at, kKernelPoint);
        return ball;
    }

    /// From one that is known, in steps that it can follow. Beyond the ends of an open strip straight on.
    Ball ballOn(Stretch& way, double t) {
        constexpr double kStep = 1.0 / 24;
        auto after = way.known.lower_bound(t);
        auto start = after;
        if (after == way.known.end() ||
            (after != way.known.begin() && t - std::prev(after)->first < after->first - t))
            start = std::prev(after);
        Ball ball = start->second;
        double at = start->first;
        const Path& path = *m_sides.sides[0].path;
        do {
            at = std::fabs(t - at) > kStep ? at + std::copysign(kStep, t - at) : t;
            const double wish = way.from + at * (way.to - way.from), s = wrapped(0, wish);
            const gp_Vec d = path.tangent(s);
            const gp_Pnt p = path.at(s).Translated(d * (m_sides.closed ? 0 : wish - s));
            const auto next = ballWithin(three(way.walls[0], way.walls[1]), ball, [&](const Ball& b) {
                return BallRule{gp_Vec(p, b.centre).Dot(d), d};
            });
            if (!next) {
                if (!m_fault) m_fault = unfit(p);
                return ball;
            }
            ball = *next;
        } while (at != t);
        if (t != 0 && t != 1) way.known.emplace(t, ball);
        return ball;
    }

    const NamedShape& m_shape;
    TopoDS_Face m_face;
    StripSides m_sides;
    FaceSurface m_over;
    std::array<std::vector<FaceSurface>, 2> m_walls;
    std::vector<Joint> m_joints;
    std::vector<Stretch> m_stretches;
    std::optional<AslantEnd> m_ends[2];
    std::optional<Error> m_fault; ///< the first, where a function can give none
};

} // namespace

namespace {

Result<Body> roundedOnce(const Body& body, int face, int step) {
    const NamedShape& s = body.shape();
    const TopoDS_Face over = TopoDS::Face(s.faces(face + 1));
    auto sides = sidesOf(s, over);
    if (!sides) return sides.error();
    const NamePtr name = firstName(s, over);
    auto strip = FullRound(s, over, std::move(*sides))
                     .make(internName(step, "full round", name ? NameList{name} : NameList{}));
    if (!strip) return strip.error();
    return withStrips(body, {*strip}, kRailOff);
}

} // namespace

Result<Body> roundedOver(const Body& body, int face, int step) {
    return guarded("fullround.failed", "This face cannot be rounded fully.", [&]() -> Result<Body> {
        const auto plain = roundedOnce(body, face, step);
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
