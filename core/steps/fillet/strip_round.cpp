#include "core/steps/fillet/strip_round.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/fillet/round_arc.hpp"
#include "core/steps/shared/edge_work.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>
#include <map>

namespace gc {

namespace {

constexpr int kMostPoles = 300;     // along
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

class StripRound {
  public:
    StripRound(const NamedShape& shape, const StripSides& sides, const Rolling& rolling)
        : m_shape(shape), m_sides(sides), m_rolling(rolling) {}

    Result<Strip> make(const std::function<NamePtr(const WallPair&)>& nameOf) {
        if (auto fault = findJoints()) return *fault;
        const std::size_t n = m_joints.size() - (m_sides.closed ? 0 : 1);
        for (std::size_t i = 0; i < n; ++i) m_stretches.push_back(stretchAfter(i));
        Strip out;
        out.closed = m_sides.closed;
        out.ends = m_sides.ends;
        out.gone = stripFaces();
        for (std::size_t i = 0; i < m_joints.size(); ++i) {
            const Joint& j = m_joints[i];
            std::array<TopoDS_Vertex, 2> corners;
            for (std::size_t s = 0; s < 2; ++s) {
                const gp_Pnt corner = j.aslant ? endPlace(i == 0 ? 0 : 1, s) : j.ball.touches[s].at;
                if (m_fault) return *m_fault;
                corners[s] = BRepBuilderAPI_MakeVertex(corner).Vertex();
                if (!j.at[s]) continue;
                const SideJoint& side = m_sides.sides[s].joints[*j.at[s]];
                if (side.down.IsNull()) continue;
                const auto at = endOf(s, side, corner);
                if (!at) return m_rolling.low(j.ball);
                out.cut.emplace_back(side.down, cutOff(side.down, side.corner, corners[s], *at));
            }
            out.joints.push_back(corners);
        }
        for (std::size_t i = 0; i < n; ++i) {
            auto piece = pieceAt(i);
            if (!piece) return piece.error();
            piece->name = nameOf(m_stretches[i].walls);
            out.pieces.push_back(std::move(*piece));
        }
        return out;
    }

  private:
    std::vector<TopoDS_Face> stripFaces() const {
        std::vector<TopoDS_Face> out;
        for (const StripSide& s : m_sides.sides)
            for (const TopoDS_Face& f : s.overs)
                if (std::none_of(out.begin(), out.end(), [&](const TopoDS_Face& o) { return o.IsSame(f); }))
                    out.push_back(f);
        return out;
    }

    /// Where the edge that goes down from a joint begins now, by its parameter.
    std::optional<double> endOf(std::size_t side, const SideJoint& joint, const gp_Pnt& corner) const {
        if (side == 0 && m_rolling.keepsFirst()) return BRep_Tool::Parameter(joint.corner, joint.down);
        return downTo(joint, corner, kRailOff);
    }
    double nearest(std::size_t side, const gp_Pnt& p) const {
        return nearestOn(*m_sides.sides[side].path, p);
    }
    double wrapped(std::size_t side, double s) const { return wrappedOn(*m_sides.sides[side].path, s); }

    std::optional<Error> findJoints() { return m_sides.closed ? findRound() : findBetweenEnds(); }
    std::optional<Error> addJoint(std::size_t side, std::size_t k) {
        const auto ball = m_rolling.touchingDown(side, k);
        const StripSide& all = m_sides.sides[side];
        if (!ball) return m_rolling.unfit(BRep_Tool::Pnt(all.joints[k].corner));
        if (const SideJoint& joint = all.joints[k];
            !joint.down.IsNull() && !endOf(side, joint, ball->touches[side].at))
            return m_rolling.low(*ball);
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
        const auto& overs = m_sides.sides[0].overs;
        const TopoDS_Face face =
            faceAcross(m_shape, m_sides.ends[end], end == 0 ? overs.front() : overs.back());
        if (face.IsNull()) return m_rolling.unfit(at);
        const WallPair walls{end == 0 ? 0 : m_sides.sides[0].walls.size() - 1,
                             end == 0 ? 0 : m_sides.sides[1].walls.size() - 1};
        const auto ballIn = [&](const gp_Vec& n) { return m_rolling.at(walls, at, n, m_rolling.near(0, s)); };
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
        if (!ball) return m_rolling.unfit(at);
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
        if (!m_fault) m_fault = m_rolling.noEnd(way.known.at(double(end)).touches[2].at);
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
        const std::array<TopoDS_Face, 2> walls{m_rolling.touched(0, out.walls[0]),
                                               m_rolling.touched(1, out.walls[1])};
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
        if (!surface) return m_rolling.unfit(way.known.at(0).touches[2].at);
        out.surface = *surface;
        constexpr int kPlaces = 24;
        for (std::size_t s = m_rolling.keepsFirst() ? 1 : 0; s < 2; ++s) {
            BRepTopAdaptor_FClass2d within(out.beside[s], kKernelPoint);
            for (int k = 0; k < kPlaces; ++k) {
                const Ball ball = round.at((k + 0.5) / kPlaces, double(s));
                if (within.Perform(ball.touches[s].uv) == TopAbs_OUT) return m_rolling.low(ball);
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
            const auto next = m_rolling.at(way.walls, p, d, ball);
            if (!next) {
                if (!m_fault) m_fault = m_rolling.unfit(p);
                return ball;
            }
            ball = *next;
        } while (at != t);
        if (t != 0 && t != 1) way.known.emplace(t, ball);
        return ball;
    }

    const NamedShape& m_shape;
    const StripSides& m_sides;
    const Rolling& m_rolling;
    std::vector<Joint> m_joints;
    std::vector<Stretch> m_stretches;
    std::optional<AslantEnd> m_ends[2];
    std::optional<Error> m_fault; ///< the first, where a function can give none
};

} // namespace

Result<Strip> roundAlong(const NamedShape& shape, const StripSides& sides, const Rolling& rolling,
                         const std::function<NamePtr(const WallPair&)>& nameOf) {
    return StripRound(shape, sides, rolling).make(nameOf);
}

} // namespace gc
