#include "core/steps/shared/unrounded.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/laid_line.hpp"
#include "core/steps/shared/near_filler.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools_ReShape.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>

#include <Eigen/Dense>

#include <algorithm>
#include <cmath>
#include <tuple>

namespace gc {

namespace {

constexpr int kSteps = 30;      // of Newton's method
constexpr double kMet = 1e-10;  // mm
constexpr double kLacks = 1e-4; // mm: of an edge to where it should end
constexpr double kOff = 1e-5;   // mm: what an edge that is made longer may leave its walls by

TopoDS_Edge ahead(const TopoDS_Shape& edge) {
    return TopoDS::Edge(edge.Oriented(TopAbs_FORWARD));
}
/// A border of a round, and the wall that it runs onto there.
struct Rail {
    TopoDS_Edge edge; ///< taken forward
    TopoDS_Face wall; ///< taken forward
    /// A place of it in the wall's parameters, 0 to 1 from its beginning to its end.
    gp_Pnt2d on(double share) const {
        double a = 0, b = 0;
        const Handle(Geom2d_Curve) c = BRep_Tool::CurveOnSurface(edge, wall, a, b);
        return c->Value(a + share * (b - a));
    }
};
struct Round {
    TopoDS_Face face;
    std::vector<Rail> rails;       ///< two
    std::vector<TopoDS_Edge> ends; ///< where the next one begins; one where it goes round by itself
};

/// Where two rounds meet, or one closes up.
struct Joint {
    TopoDS_Vertex corners[2]; ///< of the edge between them
    TopoDS_Vertex made{};
    gp_Pnt at{};
    bool has(const TopoDS_Vertex& v) const { return corners[0].IsSame(v) || corners[1].IsSame(v); }
};

/// An edge that goes on beyond where it ended.
struct Longer {
    TopoDS_Edge edge;
    double from = 0, to = 0;
    TopoDS_Vertex first, last;
};

class Unrounding {
  public:
    Unrounding(const NamedShape& shape, const TopTools_IndexedMapOfShape& faces)
        : m_shape(shape), m_faces(faces) {
        TopExp::MapShapesAndAncestors(shape.shape, TopAbs_VERTEX, TopAbs_EDGE, m_edgesAt);
    }

    std::optional<TopoDS_Shape> run() {
        for (int i = 1; i <= m_faces.Extent(); ++i)
            if (!addRound(TopoDS::Face(m_faces(i)))) return std::nullopt;
        if (!anyFree()) return std::nullopt;
        for (const Round& r : m_rounds)
            for (const TopoDS_Edge& e : r.ends)
                if (!addJoint(e)) return std::nullopt;
        for (Joint& j : m_joints)
            if (!meetAt(j)) return std::nullopt;
        for (const Round& r : m_rounds)
            if (!replace(r)) return std::nullopt;
        for (const Longer& l : m_longer)
            if (!replace(l)) return std::nullopt;
        return m_reshape.Apply(m_shape.shape);
    }
    TopoDS_Shape now(const TopoDS_Shape& face) { return m_reshape.Apply(face); }

  private:
    bool addRound(const TopoDS_Face& face) {
        Round out{face, {}, {}};
        TopTools_IndexedMapOfShape edges;
        TopExp::MapShapes(face, TopAbs_EDGE, edges);
        for (int k = 1; k <= edges.Extent(); ++k) {
            const TopoDS_Edge edge = ahead(edges(k));
            if (BRep_Tool::Degenerated(edge)) return false;
            const TopoDS_Face beyond =
                BRep_Tool::IsClosed(edge, face) ? face : faceAcross(m_shape, edge, face);
            if (beyond.IsNull()) return false;
            if (m_faces.Contains(beyond)) {
                out.ends.push_back(edge);
                m_between.Add(edge);
                continue;
            }
            if (!isSmooth(m_shape, edge)) return false;
            out.rails.push_back({edge, TopoDS::Face(beyond.Oriented(TopAbs_FORWARD))});
            m_between.Add(edge);
        }
        const bool whole = out.rails.size() == 2 && (out.ends.size() == 2 || out.ends.size() == 1);
        m_rounds.push_back(std::move(out));
        return whole;
    }

    bool anyFree() const {
        return std::any_of(m_rounds.begin(), m_rounds.end(), [](const Round& r) {
            return isFreeFace(r.rails[0].wall) || isFreeFace(r.rails[1].wall);
        });
    }

    bool addJoint(const TopoDS_Edge& end) {
        const TopoDS_Vertex a = TopExp::FirstVertex(end), b = TopExp::LastVertex(end);
        if (a.IsSame(b)) return false;
        for (const Joint& j : m_joints)
            if (j.has(a) || j.has(b)) return j.has(a) && j.has(b);
        m_joints.push_back({{a, b}});
        return true;
    }
    Joint* jointAt(const TopoDS_Vertex& v) {
        for (Joint& j : m_joints)
            if (j.has(v)) return &j;
        return nullptr;
    }

    /// By the one edge that ends there besides those of the rounds, or without one.
    bool meetAt(Joint& j) {
        TopTools_IndexedMapOfShape others;
        for (const TopoDS_Vertex& v : j.corners)
            for (const TopoDS_Shape& e : m_edgesAt.FindFromKey(v))
                if (!m_between.Contains(e) && !BRep_Tool::Degenerated(TopoDS::Edge(e))) others.Add(e);
        if (others.Extent() > 1) return false;
        return others.IsEmpty() ? meetAcross(j) : meetAlong(j, ahead(others(1)));
    }

    /// A round that begins or ends at a joint, and whether it begins there.
    std::pair<const Round*, bool> roundAt(const Joint& j) const {
        for (const Round& r : m_rounds)
            for (const bool first : {true, false}) {
                const TopoDS_Edge& e = r.rails[0].edge;
                if (j.has(first ? TopExp::FirstVertex(e) : TopExp::LastVertex(e))) return {&r, first};
            }
        return {nullptr, false};
    }
    /// Does the second border run the same way as the first?
    static bool runsAlike(const Round& r) {
        const BRepAdaptor_Curve a(r.rails[0].edge), b(r.rails[1].edge);
        const auto at = [](const BRepAdaptor_Curve& c, double share) {
            return c.Value(c.FirstParameter() + share * (c.LastParameter() - c.FirstParameter()));
        };
        constexpr double kNear = 0.25;
        return at(a, kNear).Distance(at(b, kNear)) + at(a, 1 - kNear).Distance(at(b, 1 - kNear)) <
               at(a, kNear).Distance(at(b, 1 - kNear)) + at(a, 1 - kNear).Distance(at(b, kNear));
    }

    struct Met {
        gp_Pnt2d a, b;
        gp_Pnt at;
    };
    /// Where both walls of a round meet a plane, from places near there.
    static std::optional<Met> meet(const Round& r, gp_Pnt2d a, gp_Pnt2d b, const gp_Vec& normal,
                                   const gp_Pnt& through) {
        const Handle(Geom_Surface) A = BRep_Tool::Surface(r.rails[0].wall),
                                   B = BRep_Tool::Surface(r.rails[1].wall);
        for (int k = 0; k < kSteps; ++k) {
            gp_Pnt p, q;
            gp_Vec pu, pv, qu, qv;
            A->D1(a.X(), a.Y(), p, pu, pv);
            B->D1(b.X(), b.Y(), q, qu, qv);
            const gp_Vec off(p, q);
            const double away = normal * gp_Vec(p, through);
            if (off.Magnitude() < kMet && std::fabs(away) < kMet) return Met{a, b, p};
            Eigen::Matrix4d m;
            m << pu.X(), pv.X(), -qu.X(), -qv.X(), pu.Y(), pv.Y(), -qu.Y(), -qv.Y(), pu.Z(), pv.Z(), -qu.Z(),
                -qv.Z(), normal * pu, normal * pv, 0, 0;
            const Eigen::Vector4d by =
                m.colPivHouseholderQr().solve(Eigen::Vector4d(off.X(), off.Y(), off.Z(), away));
            if (!by.allFinite()) return std::nullopt;
            a.SetCoord(a.X() + by(0), a.Y() + by(1));
            b.SetCoord(b.X() + by(2), b.Y() + by(3));
        }
        return std::nullopt;
    }
    /// Is there a wall at a place? It may lack a little, and is then taken to its border.
    static bool holds(const TopoDS_Face& wall, gp_Pnt2d& uv) {
        const Handle(Geom_Surface) s = BRep_Tool::Surface(wall);
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        s->Bounds(u0, u1, v0, v1);
        const gp_Pnt2d asked = uv;
        if (!s->IsUPeriodic()) uv.SetX(std::clamp(uv.X(), u0, u1));
        if (!s->IsVPeriodic()) uv.SetY(std::clamp(uv.Y(), v0, v1));
        return s->Value(asked.X(), asked.Y()).Distance(s->Value(uv.X(), uv.Y())) < kLacks;
    }

    static void cornerAt(Joint& j, const gp_Pnt& at) {
        j.at = at;
        BRep_Builder().MakeVertex(j.made, at, kKernelPoint);
    }
    /// No edge ends there: square to the round.
    bool meetAcross(Joint& j) {
        const auto [r, first] = roundAt(j);
        if (!r) return false;
        const BRepAdaptor_Curve c(r->rails[0].edge);
        gp_Pnt p;
        gp_Vec along;
        c.D1(first ? c.FirstParameter() : c.LastParameter(), p, along);
        if (along.Magnitude() < kNoDirection) return false;
        const auto met = meet(*r, r->rails[0].on(first ? 0 : 1),
                              r->rails[1].on(first == runsAlike(*r) ? 0 : 1), along.Normalized(), p);
        if (!met) return false;
        cornerAt(j, met->at);
        return true;
    }

    /// An edge of one side goes on to the wall of the other.
    bool meetAlong(Joint& j, const TopoDS_Edge& edge) {
        const TopoDS_Vertex first = TopExp::FirstVertex(edge), last = TopExp::LastVertex(edge);
        const bool begins = j.has(first);
        const auto [r, atFirst] = roundAt(j);
        if (!r || begins == j.has(last)) return false;
        const TopoDS_Vertex& corner = begins ? first : last;
        // The rail that does not come to the edge's corner has the wall.
        const std::size_t side = touches(r->rails[0].edge, corner) ? 1 : 0;
        const bool start = side == 0 ? atFirst : atFirst == runsAlike(*r);
        gp_Pnt2d uv = r->rails[side].on(start ? 0 : 1);
        const Handle(Geom_Surface) wall = BRep_Tool::Surface(r->rails[side].wall);
        double from = 0, to = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
        if (curve.IsNull()) return false;
        double t = begins ? from : to;
        for (int k = 0; k < kSteps; ++k) {
            gp_Pnt p, q;
            gp_Vec along, du, dv;
            curve->D1(t, p, along);
            wall->D1(uv.X(), uv.Y(), q, du, dv);
            const gp_Vec off(q, p);
            if (off.Magnitude() < kMet) {
                if (begins ? t >= to : t <= from) return false;
                if (!curve->IsPeriodic()) {
                    // Where it was parted at that very place it may lack a little.
                    t = std::clamp(t, curve->FirstParameter(), curve->LastParameter());
                    if (curve->Value(t).Distance(p) > kLacks) return false;
                    p = curve->Value(t);
                }
                cornerAt(j, p);
                goOn(edge, begins, t, j.made);
                return true;
            }
            const auto step = meetingStep(du, dv, along, off);
            if (!step) return false;
            uv.SetCoord(uv.X() + step->X(), uv.Y() + step->Y());
            t += step->Z();
        }
        return false;
    }
    static bool touches(const TopoDS_Edge& e, const TopoDS_Vertex& v) {
        return TopExp::FirstVertex(e).IsSame(v) || TopExp::LastVertex(e).IsSame(v);
    }
    void goOn(const TopoDS_Edge& edge, bool begins, double t, const TopoDS_Vertex& corner) {
        auto known = std::find_if(m_longer.begin(), m_longer.end(),
                                  [&](const Longer& l) { return l.edge.IsSame(edge); });
        if (known == m_longer.end()) {
            double from = 0, to = 0;
            BRep_Tool::Range(edge, from, to);
            m_longer.push_back({edge, from, to, TopExp::FirstVertex(edge), TopExp::LastVertex(edge)});
            known = m_longer.end() - 1;
        }
        (begins ? known->from : known->to) = t;
        (begins ? known->first : known->last) = corner;
    }

    /// Places across a round, from one end to the other.
    class Across {
      public:
        /// \param chord by chords of so much of it to both sides; 0: square to its border. The kernel's
        /// borders of rounds may have kinks, over which planes square to them leap
        Across(const Round& r, const Joint& begin, const Joint& end, double chord)
            : m_round(r), m_curve(r.rails[0].edge), m_alike(runsAlike(r)), m_chord(chord) {
            m_first = off(0, begin.at), m_last = off(1, end.at);
        }
        std::optional<Met> at(double t) const {
            const auto [p, n] = plane(t);
            return meet(m_round, m_round.rails[0].on(t), m_round.rails[1].on(m_alike ? t : 1 - t), n,
                        p.Translated(n * ((1 - t) * m_first + t * m_last)));
        }

      private:
        gp_Pnt place(double t) const {
            const double a = m_curve.FirstParameter(), b = m_curve.LastParameter();
            return m_curve.Value(a + std::clamp(t, 0.0, 1.0) * (b - a));
        }
        std::pair<gp_Pnt, gp_Vec> plane(double t) const {
            if (m_chord > 0) return {place(t), gp_Vec(place(t - m_chord), place(t + m_chord)).Normalized()};
            const double a = m_curve.FirstParameter(), b = m_curve.LastParameter();
            gp_Pnt p;
            gp_Vec along;
            m_curve.D1(a + t * (b - a), p, along);
            return {p, along.Normalized()};
        }
        double off(double t, const gp_Pnt& corner) const {
            const auto [p, n] = plane(t);
            return n * gp_Vec(p, corner);
        }

        const Round& m_round;
        BRepAdaptor_Curve m_curve;
        bool m_alike;
        double m_chord, m_first = 0, m_last = 0;
    };

    /// The edge in space and in the parameters of both walls; empty where they do not meet.
    static std::pair<LaidLine, LaidLine> metAlong(const Round& r, const Across& across) {
        const auto first = across.at(0);
        if (!first) return {};
        const auto scaleOf = [](const TopoDS_Face& wall, const gp_Pnt2d& uv) {
            const SurfacePlace s = placeOf(*BRep_Tool::Surface(wall), uv);
            return gp_Vec2d(std::max(1e-6, s.du.Magnitude()), std::max(1e-6, s.dv.Magnitude()));
        };
        const gp_Vec2d a = scaleOf(r.rails[0].wall, first->a), b = scaleOf(r.rails[1].wall, first->b);
        constexpr int kMost = 400;
        const auto curves = curvesAlong(
            {0, 1}, 3,
            [&](double t) -> std::optional<std::vector<gp_Pnt>> {
                auto m = across.at(t);
                if (!m || !holds(r.rails[0].wall, m->a) || !holds(r.rails[1].wall, m->b)) return std::nullopt;
                return std::vector{m->at, gp_Pnt(m->a.X() * a.X(), m->a.Y() * a.Y(), 0),
                                   gp_Pnt(m->b.X() * b.X(), m->b.Y() * b.Y(), 0)};
            },
            {kSurfaceFit, 10 * kSurfaceFit, 100 * kSurfaceFit}, kMost);
        if (curves.empty()) return {};
        LaidLine line{curves[0], inParameters(curves[1], a)}, other{curves[0], inParameters(curves[2], b)};
        line.off = std::max(offBetween(line, BRep_Tool::Surface(r.rails[0].wall)),
                            offBetween(other, BRep_Tool::Surface(r.rails[1].wall)));
        return {line, other};
    }

    /// One edge instead of both borders.
    bool replace(const Round& r) {
        const TopoDS_Edge& rail = r.rails[0].edge;
        const Joint *begin = jointAt(TopExp::FirstVertex(rail)), *end = jointAt(TopExp::LastVertex(rail));
        if (!begin || !end) return false;
        constexpr double kChord = 0.05; // of a border
        auto [line, other] = metAlong(r, Across(r, *begin, *end, 0));
        if (line.curve.IsNull()) std::tie(line, other) = metAlong(r, Across(r, *begin, *end, kChord));
        if (line.curve.IsNull()) return false;
        const BRep_Builder builder;
        builder.UpdateVertex(begin->made, line.off + line.start().Distance(begin->at));
        builder.UpdateVertex(end->made, line.off + line.curve->EndPoint().Distance(end->at));
        const TopoDS_Edge made = edgeOf(line, begin->made, end->made, r.rails[0].wall);
        builder.UpdateEdge(made, other.laid, r.rails[1].wall, line.off);
        m_reshape.Replace(rail, made.Oriented(TopAbs_FORWARD));
        m_reshape.Replace(r.rails[1].edge, made.Oriented(runsAlike(r) ? TopAbs_FORWARD : TopAbs_REVERSED));
        m_reshape.Remove(r.face);
        return true;
    }

    bool replace(const Longer& l) {
        const BRep_Builder builder;
        TopoDS_Edge made = ahead(l.edge.EmptyCopied());
        builder.Add(made, l.first.Oriented(TopAbs_FORWARD));
        builder.Add(made, l.last.Oriented(TopAbs_REVERSED));
        builder.Range(made, l.from, l.to);
        const BRepAdaptor_Curve c(made);
        for (const TopoDS_Shape& f : facesBeside(m_shape, l.edge)) {
            const TopoDS_Face wall = TopoDS::Face(f.Oriented(TopAbs_FORWARD));
            const Handle(Geom_Surface) s = BRep_Tool::Surface(wall);
            for (const double t : {l.from, l.to}) {
                double a = 0, b = 0;
                const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(made, wall, a, b);
                if (on.IsNull()) return false;
                gp_Pnt2d uv = on->Value(t);
                if (!holds(wall, uv) || s->Value(uv.X(), uv.Y()).Distance(c.Value(t)) > kOff) return false;
            }
        }
        m_reshape.Replace(l.edge, made);
        return true;
    }

    const NamedShape& m_shape;
    const TopTools_IndexedMapOfShape& m_faces;
    TopTools_IndexedDataMapOfShapeListOfShape m_edgesAt;
    TopTools_IndexedMapOfShape m_between; ///< borders of rounds and edges between them
    std::vector<Round> m_rounds;
    std::vector<Joint> m_joints;
    std::vector<Longer> m_longer;
    BRepTools_ReShape m_reshape;
};

} // namespace

std::optional<Body> unrounded(const Body& body, const TopTools_IndexedMapOfShape& rounds) {
    const NamedShape& s = body.shape();
    Unrounding work(s, rounds);
    const auto shape = work.run();
    if (!shape || shape->IsNull()) return std::nullopt;
    NameBuilder names(onlySolid(*shape));
    names.inherit(s);
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        if (rounds.Contains(s.faces(i))) continue;
        const TopoDS_Shape now = work.now(s.faces(i));
        if (names.has(now)) names.add(now, s.namesOf(s.faces(i)));
    }
    auto made = names.finish();
    if (!made || !checkBody(*made).faults.empty()) return std::nullopt;
    return *made;
}

} // namespace gc
