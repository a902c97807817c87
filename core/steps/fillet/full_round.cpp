#include "core/steps/fillet/full_round.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/steps/fillet/ball.hpp"
#include "core/steps/fillet/strip_sides.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/strip.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopoDS.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace gc {

namespace {

constexpr int kMostPoles = 300;     // along
constexpr double kRailOff = 1e-4;   // mm: its borders from the walls
constexpr double kSquareOff = 1e-5; // mm: an end arc from the flat end

/// Poles of the arc from a touch on the first wall over the face to one on the second, times their weights,
/// and the weights last, as points: two quadratic pieces (Piegl, Tiller: The NURBS book, 7.3).
std::vector<gp_Pnt> arcOf(const Ball& ball) {
    const gp_Pnt a = ball.touches[0].at, m = ball.touches[2].at, e = ball.touches[1].at;
    const gp_Vec x(m, a), y(m, e), n = x.Crossed(y);
    const double square = n.SquareMagnitude();
    // The centre of the circle through three points, from the middle one.
    const gp_Vec out = (y * x.SquareMagnitude() - x * y.SquareMagnitude()).Crossed(n) / (2 * square);
    const gp_Pnt o = m.Translated(out);
    const double r = out.Magnitude();
    const gp_Vec ua = gp_Vec(o, a) / r, ue = gp_Vec(o, e) / r, up = -n.Normalized();
    double turn = std::atan2(ua.Crossed(ue).Dot(up), ua.Dot(ue));
    if (turn < 0) turn += 2 * std::numbers::pi;
    const gp_Vec middle = ua * std::cos(turn / 2) + up.Crossed(ua) * std::sin(turn / 2);
    const double w = std::cos(turn / 4), reach = r / (1 + std::cos(turn / 2));
    const auto point = [&](const gp_Vec& way, double weight) {
        return gp_Pnt(o.Translated(way).XYZ() * weight);
    };
    return {a,
            point((ua + middle) * reach, w),
            o.Translated(middle * r),
            point((middle + ue) * reach, w),
            e,
            gp_Pnt(w, 0, 0)};
}

/// A place where the round goes from one wall to the next on a side, or ends.
struct Joint {
    double s = 0; ///< along the first side
    Ball ball;
    std::array<std::optional<std::size_t>, 2> at; ///< the side's joint that it is
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
        Strip out;
        out.closed = m_sides.closed;
        out.ends = m_sides.ends;
        out.gone = {m_face};
        for (const Joint& j : m_joints) {
            std::array<TopoDS_Vertex, 2> corners;
            for (std::size_t s = 0; s < 2; ++s) {
                corners[s] = BRepBuilderAPI_MakeVertex(j.ball.touches[s].at).Vertex();
                if (!j.at[s]) continue;
                const SideJoint& side = m_sides.sides[s].joints[*j.at[s]];
                const auto at = along(side, j.ball.touches[s].at);
                if (!at) return low(j.ball);
                out.cut.emplace_back(side.down, cutOff(side.down, side.corner, corners[s], *at));
            }
            out.joints.push_back(corners);
        }
        const std::size_t n = m_joints.size() - (m_sides.closed ? 0 : 1);
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
        return placeOf(all.edges[piece], all.walls[piece], all.path->pieces()[piece].curve.parameterAt(from));
    }
    static gp_Pnt2d placeOf(const TopoDS_Edge& edge, const TopoDS_Face& face, double parameter) {
        double a = 0, b = 0;
        return BRep_Tool::CurveOnSurface(edge, face, a, b)->Value(parameter);
    }
    gp_Pnt2d placeOver(std::size_t side, double s) const {
        const StripSide& all = m_sides.sides[side];
        const auto [piece, from] = all.path->pieceAt(s);
        return placeOf(all.edges[piece], m_face, all.path->pieces()[piece].curve.parameterAt(from));
    }

    double nearest(std::size_t side, const gp_Pnt& p) const {
        constexpr int kPlaces = 400;
        const Path& path = *m_sides.sides[side].path;
        double best = 0, least = 1e300;
        for (int i = 0; i <= kPlaces; ++i) {
            const double s = path.length() * i / kPlaces, d = path.at(s).Distance(p);
            if (d < least) least = d, best = s;
        }
        const double h = 1e-4 * path.length();
        const auto f = [&](double s) {
            return gp_Vec(p, path.at(wrapped(side, s))).Dot(path.tangent(wrapped(side, s)));
        };
        for (int k = 0; k < 20; ++k) {
            const double slope = (f(best + h) - f(best - h)) / (2 * h);
            if (std::fabs(slope) < 1e-6) break;
            const double step = std::clamp(-f(best) / slope, -10 * h, 10 * h);
            best += step;
            if (std::fabs(step) < 1e-10) break;
        }
        return wrapped(side, best);
    }
    double wrapped(std::size_t side, double s) const {
        const double length = m_sides.sides[side].path->length();
        if (!m_sides.closed) return std::clamp(s, 0.0, length);
        s = std::fmod(s, length);
        return s < 0 ? s + length : s;
    }

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

    /// Where an edge that goes down comes nearest to a point; nothing beyond its ends.
    static std::optional<double> along(const SideJoint& joint, const gp_Pnt& p) {
        double a = 0, b = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(joint.down, a, b);
        const GeomAPI_ProjectPointOnCurve at(p, curve, a, b);
        if (at.NbPoints() == 0 || at.LowerDistance() > kRailOff) return std::nullopt;
        const double t = at.LowerDistanceParameter(), most = 1e-6 * (b - a);
        if (t < a + most || t > b - most) return std::nullopt;
        return t;
    }

    std::optional<Ball> touchingDown(std::size_t side, std::size_t k) const {
        const StripSide& all = m_sides.sides[side];
        const double s = k < all.edges.size() ? startOf(side, k) : all.path->length();
        Ball ball = near(side, s);
        const std::size_t wall = std::min(k, all.walls.size() - 1);
        ball.touches[side].uv =
            placeOf(all.edges[wall], all.walls[wall],
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
        if (!along(all.joints[k], ball->touches[side].at)) return low(*ball);
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
    /// The ball whose arc lies in the flat face at an end.
    Result<Joint> endJoint(std::size_t end) const {
        const gp_Pnt at = m_sides.sides[0].path->at(end == 0 ? 0 : m_sides.sides[0].path->length());
        Error skew = errorOf("fullround.ends",
                             "A full round needs flat ends that stand square to it. This end is aslant or "
                             "bent.");
        skew.place = toVec(at);
        TopoDS_Face flat;
        for (const TopoDS_Shape& f : facesBeside(m_shape, m_sides.ends[end]))
            if (!f.IsSame(m_face)) flat = TopoDS::Face(f);
        if (flat.IsNull() || BRepAdaptor_Surface(flat, false).GetType() != GeomAbs_Plane) return skew;
        const gp_Vec n(BRepAdaptor_Surface(flat, false).Plane().Axis().Direction());
        const auto rule = [&](const Ball& b) { return BallRule{gp_Vec(at, b.centre).Dot(n), n}; };
        const std::size_t a = end == 0 ? 0 : m_walls[0].size() - 1, b = end == 0 ? 0 : m_walls[1].size() - 1;
        const auto ball =
            ballWithin(three(a, b), near(0, end == 0 ? 0 : m_sides.sides[0].path->length()), rule);
        if (!ball) return skew;
        for (const SurfacePlace& p : ball->touches)
            if (std::fabs(gp_Vec(at, p.at).Dot(n)) > kSquareOff) return skew;
        Joint out{end == 0 ? 0 : m_sides.sides[0].path->length(), *ball, {}};
        for (std::size_t s = 0; s < 2; ++s) out.at[s] = end == 0 ? 0 : m_sides.sides[s].joints.size() - 1;
        return out;
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

    Result<StripPiece> pieceAt(std::size_t i) {
        const Joint &from = m_joints[i], &to = m_joints[(i + 1) % m_joints.size()];
        const double length = m_sides.sides[0].path->length();
        const double s1 = to.s > from.s + 1e-9 ? to.s : to.s + length;
        const std::size_t a = wallAfter(0, i), b = wallAfter(1, i);
        StripPiece out;
        out.beside = {m_sides.sides[0].walls[a], m_sides.sides[1].walls[b]};
        out.instead = {m_sides.sides[0].edges[a], m_sides.sides[1].edges[b]};
        std::map<double, Ball> known{{0, seenFrom(out.beside, from.ball)},
                                     {1, seenFrom(out.beside, to.ball)}};
        std::optional<Error> fault;
        const auto ballAt = [&](double t) -> Ball {
            return stationBall(t, from.s, s1, three(a, b), known, fault);
        };
        const auto rows = [&](double t) { return arcOf(ballAt(t)); };
        constexpr double kApart = 1e-4; // of the way: nearer knots cannot be solved for
        std::vector<double> breaks{0, 1};
        for (const double s : m_sides.sides[0].path->breaks())
            for (const double at : {s, s + length}) {
                const double t = (at - from.s) / (s1 - from.s);
                if (t > kApart && t < 1 - kApart) breaks.push_back(t);
            }
        std::sort(breaks.begin(), breaks.end());
        breaks.erase(
            std::unique(breaks.begin(), breaks.end(), [](double x, double y) { return y - x < kApart; }),
            breaks.end());
        const auto direction = directionFor(breaks, rows, {2e-6, 1e-5, 5e-5}, kMostPoles);
        if (fault) return *fault;
        if (!direction) return unfit(from.ball.touches[2].at);
        constexpr int kPlaces = 24;
        BRepTopAdaptor_FClass2d within[2] = {{out.beside[0], kKernelPoint}, {out.beside[1], kKernelPoint}};
        for (int k = 0; k < kPlaces; ++k) {
            const Ball ball = ballAt((k + 0.5) / kPlaces);
            for (std::size_t s = 0; s < 2; ++s)
                if (within[s].Perform(ball.touches[s].uv) == TopAbs_OUT) return low(ball);
        }
        out.surface = skinned(*direction, rows);
        return out;
    }

    /// With its touches as places of these walls: at a joint they may be those of the walls before.
    static Ball seenFrom(const std::array<TopoDS_Face, 2>& walls, Ball ball) {
        for (std::size_t s = 0; s < 2; ++s)
            ball.touches[s].uv = ShapeAnalysis_Surface(BRep_Tool::Surface(walls[s]))
                                     .ValueOfUV(ball.touches[s].at, kKernelPoint);
        return ball;
    }

    /// From one that is known, in steps that it can follow.
    Ball stationBall(double t, double s0, double s1, const std::array<const FaceSurface*, 3>& sides,
                     std::map<double, Ball>& known, std::optional<Error>& fault) const {
        constexpr double kStep = 1.0 / 24;
        auto after = known.lower_bound(t);
        auto start = after;
        if (after == known.end() ||
            (after != known.begin() && t - std::prev(after)->first < after->first - t))
            start = std::prev(after);
        Ball ball = start->second;
        double at = start->first;
        const Path& path = *m_sides.sides[0].path;
        do {
            at = std::fabs(t - at) > kStep ? at + std::copysign(kStep, t - at) : t;
            const double s = wrapped(0, s0 + at * (s1 - s0));
            const gp_Pnt p = path.at(s);
            const gp_Vec d = path.tangent(s);
            const auto next = ballWithin(sides, ball, [&](const Ball& b) {
                return BallRule{gp_Vec(p, b.centre).Dot(d), d};
            });
            if (!next) {
                if (!fault) fault = unfit(p);
                return ball;
            }
            ball = *next;
        } while (at != t);
        if (t > 0 && t < 1) known.emplace(t, ball);
        return ball;
    }

    static Handle(Geom_BSplineSurface)
        skinned(const GridDirection& u, const std::function<std::vector<gp_Pnt>(double)>& rows) {
        constexpr int kAcross = 5;
        const auto curves = curvesThrough(u, rows);
        const int n = curves.front()->NbPoles();
        TColgp_Array2OfPnt poles(1, n, 1, kAcross);
        TColStd_Array2OfReal weights(1, n, 1, kAcross);
        for (int i = 1; i <= n; ++i)
            for (int k = 1; k <= kAcross; ++k) {
                const double w = k % 2 == 0 ? curves.back()->Pole(i).X() : 1;
                weights(i, k) = w;
                poles(i, k) = gp_Pnt(curves[static_cast<std::size_t>(k) - 1]->Pole(i).XYZ() / w);
            }
        TColStd_Array1OfReal knots(1, 3);
        TColStd_Array1OfInteger times(1, 3);
        knots(1) = 0, knots(2) = 0.5, knots(3) = 1;
        times(1) = 3, times(2) = 2, times(3) = 3;
        return new Geom_BSplineSurface(poles, weights, curves.front()->Knots(), knots,
                                       curves.front()->Multiplicities(), times, curves.front()->Degree(), 2);
    }

    const NamedShape& m_shape;
    TopoDS_Face m_face;
    StripSides m_sides;
    FaceSurface m_over;
    std::array<std::vector<FaceSurface>, 2> m_walls;
    std::vector<Joint> m_joints;
};

} // namespace

Result<Body> roundedOver(const Body& body, int face, int step) {
    return guarded("fullround.failed", "This face cannot be rounded fully.", [&]() -> Result<Body> {
        const NamedShape& s = body.shape();
        const TopoDS_Face over = TopoDS::Face(s.faces(face + 1));
        auto sides = sidesOf(s, over);
        if (!sides) return sides.error();
        const NamePtr name = firstName(s, over);
        auto strip = FullRound(s, over, std::move(*sides))
                         .make(internName(step, "full round", name ? NameList{name} : NameList{}));
        if (!strip) return strip.error();
        return withStrips(body, {*strip}, kRailOff);
    });
}

} // namespace gc
