#include "core/steps/shared/strip.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/iso_lines.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools_ReShape.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The place of a face near which a curve begins, by a border of the face that runs near it.
gp_Pnt2d beginsNear(const gp_Pnt& start, const TopoDS_Edge& border, bool alike, const TopoDS_Face& face) {
    constexpr int kPlaces = 64;
    double a = 0, b = 0;
    const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(asIn(face, border), face, a, b);
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
    if (!alike)
        std::swap(a, b); // a border that runs round begins and ends there, at two places of the surface
    gp_Pnt2d best = on->Value(a);
    double least = 1e300;
    for (int i = 0; i <= kPlaces; ++i) {
        const gp_Pnt2d uv = on->Value(a + (b - a) * i / kPlaces);
        const double d = surface->Value(uv.X(), uv.Y()).Distance(start);
        if (d < least - kSamePoint) least = d, best = uv;
    }
    return best;
}

/// Does a curve run in the same direction as an edge that it takes the place of?
bool runsAlike(const Geom_Curve& curve, const TopoDS_Edge& edge) {
    const BRepAdaptor_Curve other(edge);
    gp_Pnt p, q;
    gp_Vec d, e;
    curve.D1(0.5 * (curve.FirstParameter() + curve.LastParameter()), p, d);
    double a = 0, b = 0;
    const Handle(Geom_Curve) was = BRep_Tool::Curve(edge, a, b);
    const GeomAPI_ProjectPointOnCurve near(p, was, a, b);
    other.D1(near.NbPoints() > 0 ? near.LowerDistanceParameter() : 0.5 * (a + b), q, e);
    return d.Dot(e) > 0;
}

/// Curves of a surface beside the strip.
class Laid {
  public:
    /// \param along the border that makes way: the curve runs near it
    Laid(const Handle(Geom_Curve) & curve, const TopoDS_Face& face, const TopoDS_Edge& along)
        : m_curve(curve), m_surface(BRep_Tool::Surface(face)) {
        m_last = beginsNear(curve->Value(curve->FirstParameter()), along, runsAlike(*curve, along), face);
        walk();
    }
    /// How far the curve is from the surface, mm.
    double off() const { return m_off; }
    Handle(Geom2d_Curve) onSurface() const {
        const double from = m_curve->FirstParameter(), to = m_curve->LastParameter();
        const gp_Pnt2d middle = m_uv[m_uv.size() / 2];
        const SurfacePlace p = placeOf(*m_surface, middle);
        const double su = std::max(p.du.Magnitude(), 1e-9), sv = std::max(p.dv.Magnitude(), 1e-9);
        const auto scaledAt = [&](double t) { return std::vector{scaled(at(t), su, sv)}; };
        const auto direction = directionFor({from, to}, scaledAt, kSurfaceFit);
        if (!direction) return {};
        const Handle(Geom_BSplineCurve) c = curvesThrough(*direction, scaledAt).front();
        TColgp_Array1OfPnt2d poles(1, c->NbPoles());
        for (int i = 1; i <= c->NbPoles(); ++i) poles(i) = gp_Pnt2d(c->Pole(i).X() / su, c->Pole(i).Y() / sv);
        return new Geom2d_BSplineCurve(poles, c->Knots(), c->Multiplicities(), c->Degree());
    }

  private:
    static gp_Pnt scaled(const gp_Pnt2d& uv, double su, double sv) { return {uv.X() * su, uv.Y() * sv, 0}; }
    void walk() {
        constexpr int kPlaces = 128;
        const double from = m_curve->FirstParameter(), to = m_curve->LastParameter();
        gp_Pnt2d near = m_last;
        for (int i = 0; i <= kPlaces; ++i) {
            const gp_Pnt p = m_curve->Value(from + (to - from) * i / kPlaces);
            const auto foot = footPoint(*m_surface, p, near, false);
            if (foot) {
                near = foot->uv;
                m_off = std::max(m_off, foot->at.Distance(p));
            } else
                m_off = 1e300;
            m_uv.push_back(near);
        }
    }
    gp_Pnt2d at(double t) const {
        const double from = m_curve->FirstParameter(), to = m_curve->LastParameter();
        const double share = (t - from) / (to - from) * static_cast<double>(m_uv.size() - 1);
        const auto i = std::min(static_cast<std::size_t>(std::max(share, 0.0)), m_uv.size() - 2);
        const double rest = share - static_cast<double>(i);
        const gp_Pnt2d near(m_uv[i].XY() * (1 - rest) + m_uv[i + 1].XY() * rest);
        const auto foot = footPoint(*m_surface, m_curve->Value(t), near, false);
        return foot ? foot->uv : near;
    }

    Handle(Geom_Curve) m_curve;
    Handle(Geom_Surface) m_surface;
    gp_Pnt2d m_last;
    std::vector<gp_Pnt2d> m_uv;
    double m_off = 0;
};

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
    Surgery(const Body& before, double off)
        : m_before(before.shape()), m_allowed(off), m_shape(new BRepTools_ReShape) {}

    /// False where an edge lies off the faces.
    bool take(const Strip& strip) {
        std::vector<std::array<TopoDS_Edge, 2>> rails;
        const std::size_t n = strip.pieces.size();
        const auto joint = [&](std::size_t i) -> const std::array<TopoDS_Vertex, 2>& {
            return strip.joints[i % strip.joints.size()];
        };
        for (std::size_t i = 0; i < n; ++i) {
            const StripPiece& p = strip.pieces[i];
            std::array<TopoDS_Edge, 2> two;
            for (std::size_t s = 0; s < 2; ++s) {
                const Handle(Geom_Curve) curve = p.surface->VIso(s == 0 ? 0 : 1);
                two[s] = edgeOn(curve, joint(i)[s], joint(i + 1)[s]);
                if (!lay(two[s], curve, p.beside[s], p.instead[s])) return false;
            }
            rails.push_back(two);
        }
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t s = 0; s < 2; ++s)
                m_instead[m_before.edges.FindIndex(strip.pieces[i].instead[s])].push_back(
                    {rails[i][s], strip.pieces[i].beside[s]});
        const auto across = acrossOf(strip);
        if (!strip.closed && (!layEnd(strip, across.front(), 0) || !layEnd(strip, across.back(), 1)))
            return false;
        for (std::size_t i = 0; i < n; ++i) addFace(strip, i, rails[i], across[i], across[i + 1]);
        for (const auto& [old, now] : strip.cut)
            m_shape->Replace(old.Oriented(TopAbs_FORWARD), now.Oriented(TopAbs_FORWARD));
        for (const TopoDS_Face& f : strip.gone) m_gone.Add(f);
        return true;
    }

    Result<Body> finish() {
        for (auto& [number, list] : m_instead) replace(TopoDS::Edge(m_before.edges(number)), list);
        BRep_Builder builder;
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        std::vector<std::pair<TopoDS_Shape, NameList>> named;
        for (int i = 1; i <= m_before.faces.Extent(); ++i) {
            const TopoDS_Shape& f = m_before.faces(i);
            if (m_gone.Contains(f)) continue;
            const TopoDS_Shape now = m_shape->Apply(f);
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
        const Laid laid(curve, face, border);
        if (laid.off() > m_allowed) return false;
        const Handle(Geom2d_Curve) on = laid.onSurface();
        if (on.IsNull()) return false;
        BRep_Builder().UpdateEdge(edge, on, face, BRep_Tool::Tolerance(edge));
        widen(edge, *on, *BRep_Tool::Surface(face));
        return true;
    }
    /// As far as a curve of a surface is from an edge, so far reaches the edge.
    static void widen(const TopoDS_Edge& edge, const Geom2d_Curve& on, const Geom_Surface& surface) {
        constexpr int kPlaces = 300;
        double from = 0, to = 0, apart = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
        for (int i = 0; i <= kPlaces; ++i) {
            const double t = from + (to - from) * i / kPlaces;
            const gp_Pnt2d uv = on.Value(t);
            apart = std::max(apart, surface.Value(uv.X(), uv.Y()).Distance(curve->Value(t)));
        }
        BRep_Builder builder;
        const double tolerance = std::max(BRep_Tool::Tolerance(edge), kKernelPoint + 1.5 * apart);
        builder.UpdateEdge(edge, tolerance);
        for (TopExp_Explorer x(edge, TopAbs_VERTEX); x.More(); x.Next())
            builder.UpdateVertex(TopoDS::Vertex(x.Current()), tolerance);
    }

    /// The edges across, before each piece and after the last.
    static std::vector<TopoDS_Edge> acrossOf(const Strip& strip) {
        std::vector<TopoDS_Edge> out;
        for (std::size_t i = 0; i < strip.joints.size(); ++i) {
            const bool last = i == strip.pieces.size();
            const Handle(Geom_Curve) curve = strip.pieces[last ? i - 1 : i].surface->UIso(last ? 1 : 0);
            out.push_back(edgeOn(curve, strip.joints[i][0], strip.joints[i][1]));
        }
        if (strip.closed) out.push_back(out.front());
        return out;
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

    void addFace(const Strip& strip, std::size_t i, const std::array<TopoDS_Edge, 2>& rails,
                 const TopoDS_Edge& first, const TopoDS_Edge& last) {
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
        if (first.IsSame(last)) { // it closes up on itself
            builder.UpdateEdge(first, gc::along(1), gc::along(0), p.surface, TopLoc_Location(),
                               BRep_Tool::Tolerance(first));
            for (const double end : {0.0, 1.0}) widen(first, *gc::along(end), *p.surface);
        } else {
            put(first, gc::along(0));
            put(last, gc::along(1));
        }
        TopoDS_Wire wire;
        builder.MakeWire(wire);
        builder.Add(wire, rails[0].Oriented(TopAbs_FORWARD));
        builder.Add(wire, last.Oriented(TopAbs_FORWARD));
        builder.Add(wire, rails[1].Oriented(TopAbs_REVERSED));
        builder.Add(wire, first.Oriented(TopAbs_REVERSED));
        wire.Closed(true);
        builder.Add(face, wire);
        // An edge runs one way round the one of its faces and the other way round the other.
        const TopoDS_Edge old = asIn(p.beside[0], p.instead[0]);
        const bool alike = runsAlike(*p.surface->VIso(0), old);
        const bool forwardThere = (old.Orientation() == TopAbs_FORWARD) == alike;
        if (forwardThere) face.Reverse();
        m_made.emplace_back(face, p.name);
    }

    /// In the order in which they run round the face.
    void replace(const TopoDS_Edge& old, std::vector<Rail>& rails) {
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
        if (sorted.size() == 1) {
            m_shape->Replace(forward, sorted.front().second);
            return;
        }
        const bool ahead = asIn(rails.front().face, old).Orientation() == TopAbs_FORWARD;
        std::sort(sorted.begin(), sorted.end(), [&](const auto& x, const auto& y) {
            return ahead ? x.first < y.first : x.first > y.first;
        });
        BRep_Builder builder;
        TopoDS_Wire several;
        builder.MakeWire(several);
        for (const auto& [at, edge] : sorted) builder.Add(several, edge);
        m_shape->Replace(forward, several);
    }

    const NamedShape& m_before;
    double m_allowed;
    Handle(BRepTools_ReShape) m_shape;
    TopTools_IndexedMapOfShape m_gone;
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
