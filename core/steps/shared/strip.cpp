#include "core/steps/shared/strip.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/iso_lines.hpp"
#include "core/steps/shared/laid_curve.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools_ReShape.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>
#include <iterator>

namespace gc {

namespace {

/// A corner reaches as far as the ends of what meets in it are off.
void reach(const TopoDS_Vertex& corner, const gp_Pnt& end) {
    const double off = BRep_Tool::Pnt(corner).Distance(end);
    BRep_Builder().UpdateVertex(corner, kKernelPoint + 1.1 * off); // never less than it was
}

TopoDS_Edge edgeOn(const Handle(Geom_Curve) & curve, const TopoDS_Vertex& from, const TopoDS_Vertex& to) {
    BRep_Builder builder;
    TopoDS_Edge out;
    builder.MakeEdge(out, curve, kKernelPoint);
    reach(from, curve->Value(curve->FirstParameter()));
    reach(to, curve->Value(curve->LastParameter()));
    builder.Add(out, from.Oriented(TopAbs_FORWARD));
    builder.Add(out, to.Oriented(TopAbs_REVERSED));
    builder.Range(out, curve->FirstParameter(), curve->LastParameter());
    return out;
}

class Surgery {
  public:
    Surgery(const Body& before, double off) : m_before(before.shape()), m_allowed(off) {}

    /// False where an edge lies off the faces.
    bool take(const Strip& strip) {
        std::vector<std::array<TopoDS_Edge, 2>> rails;
        const std::size_t n = strip.pieces.size();
        for (std::size_t i = 0; i < n; ++i) {
            const StripPiece& p = strip.pieces[i];
            std::array<TopoDS_Edge, 2> two;
            for (std::size_t s = 0; s < 2; ++s) {
                const Handle(Geom_Curve) curve = p.surface->VIso(s == 0 ? 0 : 1);
                two[s] = edgeOn(curve, cornerOf(strip, i, s, true), cornerOf(strip, i + 1, s, false));
                if (!lay(two[s], curve, p.beside[s], p.instead[s])) return false;
            }
            rails.push_back(two);
        }
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t s = 0; s < 2; ++s)
                m_instead[m_before.edges.FindIndex(strip.pieces[i].instead[s])].push_back(
                    {rails[i][s], strip.pieces[i].beside[s]});
        const auto across = acrossOf(strip);
        if (!strip.closed &&
            (!layEnd(strip, across.front().front(), 0) || !layEnd(strip, across.back().front(), 1)))
            return false;
        for (std::size_t i = 0; i < n; ++i) addFace(strip, i, rails[i], across[i], across[i + 1]);
        for (const auto& [joint, spur] : strip.spurs)
            if (!addSpur(strip, spur, across[joint].back())) return false;
        m_cut.insert(m_cut.end(), strip.cut.begin(), strip.cut.end());
        for (const TopoDS_Face& f : strip.gone) m_gone.Add(f);
        return true;
    }

    Result<Body> finish() {
        BRep_Builder builder;
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        std::vector<std::pair<TopoDS_Shape, NameList>> named;
        for (int i = 1; i <= m_before.faces.Extent(); ++i) {
            const TopoDS_Shape& f = m_before.faces(i);
            if (m_gone.Contains(f)) continue;
            const TopoDS_Shape now = replaced(f);
            builder.Add(shell, now);
            named.emplace_back(now, m_before.namesOf(f));
        }
        for (const auto& [face, name] : m_made) {
            builder.Add(shell, face);
            named.emplace_back(face, NameList{name});
        }
        shell.Closed(true);
        TopoDS_Solid solid;
        builder.MakeSolid(solid);
        builder.Add(solid, shell);
        NameBuilder names(solid);
        names.inherit(m_before);
        for (const auto& [face, list] : named) names.add(face, list);
        auto body = names.finish();
        if (!body) return body.error();
        const BodyCheck check = checkBody(*body);
        if (!check.faults.empty() || check.solids != 1 || countOpenEdges(body->shape()) > 0)
            return errorOf("strip.failed", "The faces in its place do not close the body.");
        return body;
    }

  private:
    struct Rail {
        TopoDS_Edge edge;
        TopoDS_Face face;
    };

    bool lay(TopoDS_Edge& edge, const Handle(Geom_Curve) & curve, const TopoDS_Face& face,
             const TopoDS_Edge& border) {
        const LaidCurve laid(curve, face, border);
        if (laid.off() > m_allowed) return false;
        const Handle(Geom2d_Curve) on = laid.onSurface();
        if (on.IsNull()) return false;
        BRep_Builder().UpdateEdge(edge, on, face, BRep_Tool::Tolerance(edge));
        widen(edge, *on, *BRep_Tool::Surface(face));
        return true;
    }
    /// As far as a curve of a surface is from an edge, so far reaches the edge.
    static void widen(const TopoDS_Edge& edge, const Geom2d_Curve& on, const Geom_Surface& surface) {
        constexpr int kPlaces = 300, kAtEnds = 14; // fitted curves have their knots closer and closer there
        double from = 0, to = 0, apart = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
        const auto look = [&](double share) {
            const double t = from + (to - from) * share;
            const gp_Pnt2d uv = on.Value(t);
            apart = std::max(apart, surface.Value(uv.X(), uv.Y()).Distance(curve->Value(t)));
        };
        for (int i = 0; i <= kPlaces; ++i) look(double(i) / kPlaces);
        for (int k = 0; k < kAtEnds; ++k)
            for (const double share : {0.7, 1.0})
                look(std::ldexp(share, -k - 1)), look(1 - std::ldexp(share, -k - 1));
        BRep_Builder builder;
        const double tolerance = std::max(BRep_Tool::Tolerance(edge), kKernelPoint + 1.5 * apart);
        builder.UpdateEdge(edge, tolerance);
        for (TopExp_Explorer x(edge, TopAbs_VERTEX); x.More(); x.Next())
            builder.UpdateVertex(TopoDS::Vertex(x.Current()), tolerance);
    }

    /// Of a piece beside a joint. \param after the piece after it
    static const TopoDS_Vertex& cornerOf(const Strip& strip, std::size_t joint, std::size_t side,
                                         bool after) {
        joint %= strip.joints.size();
        const auto spur = strip.spurs.find(joint);
        const bool ends = side == 1 && spur != strip.spurs.end() && spur->second.after != after;
        return ends ? spur->second.corner : strip.joints[joint][side];
    }

    /// The edges across, before each piece and after the last: one, or two where a piece goes on.
    using Across = std::vector<TopoDS_Edge>;
    static std::vector<Across> acrossOf(const Strip& strip) {
        std::vector<Across> out;
        const std::size_t n = strip.pieces.size();
        for (std::size_t i = 0; i < strip.joints.size(); ++i) {
            const auto spur = strip.spurs.find(i);
            const bool whole = spur == strip.spurs.end();
            const bool before = whole ? i == n : !spur->second.after;
            const Handle(Geom_Curve) curve =
                strip.pieces[before ? (i + n - 1) % n : i].surface->UIso(before ? 1 : 0);
            const auto& [bottom, top] = strip.joints[i];
            if (whole) {
                out.push_back({edgeOn(curve, bottom, top)});
                continue;
            }
            const auto& [after, share, corner, face, cut] = spur->second;
            out.push_back({edgeOn(new Geom_TrimmedCurve(curve, 0, share), bottom, corner),
                           edgeOn(new Geom_TrimmedCurve(curve, share, 1), corner, top)});
        }
        if (strip.closed) out.push_back(out.front());
        return out;
    }

    /// The wall beside the piece that ends sooner gets an edge before the one that is cut off.
    bool addSpur(const Strip& strip, const StripSpur& spur, TopoDS_Edge edge) {
        const auto& [old, now] = strip.cut[spur.cut];
        double a = 0, b = 0;
        if (!lay(edge, BRep_Tool::Curve(edge, a, b), spur.face, old)) return false;
        const bool up =
            !TopExp::FirstVertex(now).IsSame(TopExp::FirstVertex(TopoDS::Edge(old.Oriented(TopAbs_FORWARD))));
        BRep_Builder builder;
        TopoDS_Wire both;
        builder.MakeWire(both);
        if (!up) builder.Add(both, now.Oriented(TopAbs_FORWARD));
        builder.Add(both, edge.Oriented(up ? TopAbs_FORWARD : TopAbs_REVERSED));
        if (up) builder.Add(both, now.Oriented(TopAbs_FORWARD));
        m_goesOn.push_back({m_before.edges.FindIndex(old), spur.face, both});
        return true;
    }

    bool layEnd(const Strip& strip, TopoDS_Edge edge, std::size_t end) {
        const TopoDS_Edge& old = strip.ends[end];
        for (const TopoDS_Shape& f : toVector(m_before.facesOfEdge.FindFromKey(old))) {
            const bool goes = std::any_of(strip.gone.begin(), strip.gone.end(),
                                          [&](const TopoDS_Face& g) { return g.IsSame(f); });
            if (goes) continue;
            double a = 0, b = 0;
            if (!lay(edge, BRep_Tool::Curve(edge, a, b), TopoDS::Face(f), old)) return false;
            m_instead[m_before.edges.FindIndex(old)].push_back({edge, TopoDS::Face(f)});
        }
        return true;
    }

    static bool goesOn(const Strip& strip, std::size_t joint, bool after) {
        const auto spur = strip.spurs.find(joint % strip.joints.size());
        return spur == strip.spurs.end() || spur->second.after == after;
    }

    /// The edges across at an end of a piece, with their lines on it.
    template <class Put>
    static void putAcross(const Strip& strip, std::size_t joint, bool after, const Across& edges,
                          const Put& put) {
        const double u = after ? 0 : 1;
        if (goesOn(strip, joint, after)) {
            for (const TopoDS_Edge& e : edges) put(e, gc::along(u));
            return;
        }
        // It ends where the other goes on: all the way across it is a share of that.
        TColgp_Array1OfPnt2d poles(1, 2);
        poles(1) = gp_Pnt2d(u, 0), poles(2) = gp_Pnt2d(u, 1);
        TColStd_Array1OfReal knots(1, 2);
        knots(1) = 0, knots(2) = strip.spurs.at(joint % strip.joints.size()).share;
        TColStd_Array1OfInteger times(1, 2);
        times.Init(2);
        put(edges.front(), new Geom2d_BSplineCurve(poles, knots, times, 1));
    }

    void addFace(const Strip& strip, std::size_t i, const std::array<TopoDS_Edge, 2>& rails,
                 const Across& first, const Across& last) {
        const StripPiece& p = strip.pieces[i];
        BRep_Builder builder;
        TopoDS_Face face;
        builder.MakeFace(face, p.surface, kKernelPoint);
        const auto put = [&](const TopoDS_Edge& e, const Handle(Geom2d_Curve) & on) {
            builder.UpdateEdge(e, on, p.surface, TopLoc_Location(), BRep_Tool::Tolerance(e));
            widen(e, *on, *p.surface);
        };
        put(rails[0], gc::across(0));
        put(rails[1], gc::across(1));
        if (first.front().IsSame(last.front())) { // it closes up on itself
            const TopoDS_Edge& seam = first.front();
            builder.UpdateEdge(seam, gc::along(1), gc::along(0), p.surface, TopLoc_Location(),
                               BRep_Tool::Tolerance(seam));
            for (const double end : {0.0, 1.0}) widen(seam, *gc::along(end), *p.surface);
        } else {
            putAcross(strip, i, true, first, put);
            putAcross(strip, i + 1, false, last, put);
        }
        TopoDS_Wire wire;
        builder.MakeWire(wire);
        const auto ownOf = [&](std::size_t joint, bool after, const Across& all) {
            return goesOn(strip, joint, after) ? all : Across{all.front()};
        };
        const Across begin = ownOf(i, true, first), end = ownOf(i + 1, false, last);
        builder.Add(wire, rails[0].Oriented(TopAbs_FORWARD));
        for (const TopoDS_Edge& e : end) builder.Add(wire, e.Oriented(TopAbs_FORWARD));
        builder.Add(wire, rails[1].Oriented(TopAbs_REVERSED));
        for (auto e = begin.rbegin(); e != begin.rend(); ++e) builder.Add(wire, e->Oriented(TopAbs_REVERSED));
        wire.Closed(true);
        builder.Add(face, wire);
        // An edge runs one way round the one of its faces and the other way round the other.
        const TopoDS_Edge old = asIn(p.beside[0], p.instead[0]);
        const bool alike = runsAlike(*p.surface->VIso(0), old);
        const bool forwardThere = (old.Orientation() == TopAbs_FORWARD) == alike;
        if (forwardThere) face.Reverse();
        m_made.emplace_back(face, p.name);
    }

    /// A face with its new borders: the two faces beside an edge may get different ones.
    TopoDS_Shape replaced(const TopoDS_Shape& face) const {
        const Handle(BRepTools_ReShape) change = new BRepTools_ReShape;
        for (const auto& [old, now] : m_cut) {
            const auto goesOn = std::find_if(m_goesOn.begin(), m_goesOn.end(), [&](const GoesOn& g) {
                return g.edge == m_before.edges.FindIndex(old) && g.face.IsSame(face);
            });
            change->Replace(old.Oriented(TopAbs_FORWARD),
                            goesOn == m_goesOn.end() ? now.Oriented(TopAbs_FORWARD) : goesOn->both);
        }
        for (const auto& [number, list] : m_instead) {
            std::vector<Rail> here;
            std::copy_if(list.begin(), list.end(), std::back_inserter(here),
                         [&](const Rail& r) { return r.face.IsSame(face); });
            if (!here.empty())
                change->Replace(m_before.edges(number).Oriented(TopAbs_FORWARD),
                                inOrder(TopoDS::Edge(m_before.edges(number)), here));
        }
        return change->Apply(face);
    }
    /// One edge, or several as they run round the face.
    static TopoDS_Shape inOrder(const TopoDS_Edge& old, const std::vector<Rail>& rails) {
        const TopoDS_Edge forward = TopoDS::Edge(old.Oriented(TopAbs_FORWARD));
        std::vector<std::pair<double, TopoDS_Edge>> sorted;
        for (const Rail& r : rails) {
            double a = 0, b = 0, c = 0, d = 0;
            const Handle(Geom_Curve) curve = BRep_Tool::Curve(r.edge, a, b);
            const Handle(Geom_Curve) was = BRep_Tool::Curve(forward, c, d);
            const bool alike = runsAlike(*curve, forward);
            const GeomAPI_ProjectPointOnCurve near(curve->Value(0.5 * (a + b)), was, c, d);
            sorted.emplace_back(near.NbPoints() > 0 ? near.LowerDistanceParameter() : c,
                                TopoDS::Edge(r.edge.Oriented(alike ? TopAbs_FORWARD : TopAbs_REVERSED)));
        }
        if (sorted.size() == 1) return sorted.front().second;
        const bool ahead = asIn(rails.front().face, old).Orientation() == TopAbs_FORWARD;
        std::sort(sorted.begin(), sorted.end(), [&](const auto& x, const auto& y) {
            return ahead ? x.first < y.first : x.first > y.first;
        });
        BRep_Builder builder;
        TopoDS_Wire several;
        builder.MakeWire(several);
        for (const auto& [at, edge] : sorted) builder.Add(several, edge);
        return several;
    }

    const NamedShape& m_before;
    double m_allowed;
    TopTools_IndexedMapOfShape m_gone;
    std::vector<std::pair<TopoDS_Edge, TopoDS_Edge>> m_cut;
    struct GoesOn {
        int edge = 0;
        TopoDS_Face face;
        TopoDS_Shape both; ///< what takes its place in that face
    };
    std::vector<GoesOn> m_goesOn;
    std::map<int, std::vector<Rail>> m_instead; ///< by the number of the edge that makes way
    std::vector<std::pair<TopoDS_Face, NamePtr>> m_made;
};

} // namespace

TopoDS_Edge cutOff(const TopoDS_Edge& edge, const TopoDS_Vertex& end, const TopoDS_Vertex& now,
                   double parameter) {
    const TopoDS_Edge old = TopoDS::Edge(edge.Oriented(TopAbs_FORWARD));
    TopoDS_Edge out = TopoDS::Edge(old.EmptyCopied());
    reach(now, BRepAdaptor_Curve(old).Value(parameter));
    double from = 0, to = 0;
    BRep_Tool::Range(old, from, to);
    BRep_Builder builder;
    const TopoDS_Vertex first = TopExp::FirstVertex(old), last = TopExp::LastVertex(old);
    const bool atFirst = first.IsSame(end);
    builder.Add(out, (atFirst ? now : first).Oriented(TopAbs_FORWARD));
    builder.Add(out, (atFirst ? last : now).Oriented(TopAbs_REVERSED));
    builder.Range(out, atFirst ? parameter : from, atFirst ? to : parameter);
    return out;
}

Result<Body> withStrips(const Body& before, const std::vector<Strip>& strips, double off) {
    return guarded("strip.failed", "The faces in its place do not close the body.", [&]() -> Result<Body> {
        Surgery surgery(before, off);
        for (const Strip& s : strips)
            if (!surgery.take(s))
                return errorOf("strip.off", "The faces in its place would stand off the faces beside them.");
        return surgery.finish();
    });
}

} // namespace gc
