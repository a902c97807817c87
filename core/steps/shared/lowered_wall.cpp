#include "core/steps/shared/lowered_wall.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/laid_line.hpp"
#include "core/steps/shared/laying.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools_ReShape.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// A place between two of which one lies above a level and one below, to the last bit.
template <class Above>
double levelBetween(double above, double below, const Above& isAbove) {
    for (int i = 0; i < 60; ++i) {
        const double middle = 0.5 * (above + below);
        (isAbove(middle) ? above : below) = middle;
    }
    return 0.5 * (above + below);
}

class Lowering {
  public:
    Lowering(const NamedShape& body, const TopoDS_Face& rim, const TopoDS_Wire& border, const Plane& plane,
             double depth)
        : m_body(body), m_rim(rim), m_plane(plane), m_depth(depth) {
        for (BRepTools_WireExplorer x(border); x.More(); x.Next()) m_border.push_back({x.Current()});
    }

    std::optional<LoweredWall> run() {
        for (Stretch& s : m_border)
            if (!findWall(s)) return std::nullopt;
        for (std::size_t i = 0; i < m_border.size(); ++i)
            if (!cutDown(i)) return std::nullopt;
        std::vector<TopoDS_Edge> walked;
        for (std::size_t i = 0; i < m_border.size(); ++i) {
            const auto edge = lineBelow(i);
            if (!edge) return std::nullopt;
            m_reshape.Replace(m_border[i].edge.Oriented(TopAbs_FORWARD), *edge);
            walked.push_back(TopoDS::Edge(edge->Oriented(m_border[i].edge.Orientation())));
        }
        m_out.line = wireOf(walked, false);
        for (const Stretch& s : m_border) {
            const bool known = std::any_of(m_out.faces.begin(), m_out.faces.end(),
                                           [&](const auto& f) { return f.first.IsSame(s.wall); });
            if (!known)
                m_out.faces.emplace_back(
                    s.wall, TopoDS::Face(m_reshape.Apply(s.wall).Oriented(s.wall.Orientation())));
        }
        return std::move(m_out);
    }

  private:
    struct Stretch {
        TopoDS_Edge edge;
        TopoDS_Face wall{};
        bool back() const { return edge.Orientation() == TopAbs_REVERSED; }
    };
    /// What leads down from where a stretch begins, and where it ends now.
    struct Down {
        TopoDS_Edge edge;
        double top = 0, at = 0; ///< its parameters at the rim and at the level
        TopoDS_Vertex corner{};
    };

    double below(const gp_Pnt& p) const { return -m_plane.before(toVec(p)); }

    bool findWall(Stretch& s) const {
        for (const TopoDS_Shape& f : facesBeside(m_body, s.edge))
            if (!f.IsSame(m_rim)) s.wall = TopoDS::Face(f);
        return !s.wall.IsNull();
    }
    bool isOfBorder(const TopoDS_Shape& edge) const {
        return std::any_of(m_border.begin(), m_border.end(),
                           [&](const Stretch& s) { return s.edge.IsSame(edge); });
    }
    /// The only edge of a face that leads away from a corner of the border; null else.
    TopoDS_Edge leadingDown(const TopoDS_Face& wall, const TopoDS_Vertex& corner) const {
        TopoDS_Edge out;
        for (TopExp_Explorer x(wall, TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge e = TopoDS::Edge(x.Current());
            if (isOfBorder(e) || !endsIn(e, corner) || e.IsSame(out)) continue;
            if (!out.IsNull()) return {};
            out = TopoDS::Edge(e.Oriented(TopAbs_FORWARD));
        }
        return out;
    }
    bool cutDown(std::size_t i) {
        const Stretch &s = m_border[i], &before = m_border[(i + m_border.size() - 1) % m_border.size()];
        const TopoDS_Vertex corner = s.back() ? TopExp::LastVertex(s.edge) : TopExp::FirstVertex(s.edge);
        Down d{leadingDown(s.wall, corner)};
        if (d.edge.IsNull() || !leadingDown(before.wall, corner).IsSame(d.edge)) return false;
        const BRepAdaptor_Curve curve(d.edge);
        const bool first = TopExp::FirstVertex(d.edge).IsSame(corner);
        d.top = first ? curve.FirstParameter() : curve.LastParameter();
        const double end = first ? curve.LastParameter() : curve.FirstParameter();
        constexpr int kLooks = 200;
        constexpr double kSpare = 1e-3; // mm of it that are to be left
        double above = d.top;
        for (int k = 1; k <= kLooks; ++k) {
            const double t = d.top + (end - d.top) * k / kLooks;
            if (below(curve.Value(t)) < m_depth) {
                above = t;
                continue;
            }
            d.at = levelBetween(above, t, [&](double at) { return below(curve.Value(at)) < m_depth; });
            if (curve.Value(d.at).Distance(curve.Value(end)) < kSpare) return false;
            BRep_Builder().MakeVertex(d.corner, curve.Value(d.at), kKernelPoint);
            cut(d, first);
            m_downs.push_back(d);
            return true;
        }
        return false;
    }
    void cut(const Down& d, bool atFirst) {
        const BRep_Builder builder;
        TopoDS_Edge rest = TopoDS::Edge(d.edge.EmptyCopied());
        const TopoDS_Vertex end = atFirst ? TopExp::LastVertex(d.edge) : TopExp::FirstVertex(d.edge);
        double from = 0, to = 0;
        BRep_Tool::Range(d.edge, from, to);
        (atFirst ? from : to) = d.at;
        builder.Add(rest, (atFirst ? d.corner : end).Oriented(TopAbs_FORWARD));
        builder.Add(rest, (atFirst ? end : d.corner).Oriented(TopAbs_REVERSED));
        builder.Range(rest, from, to);
        m_reshape.Replace(d.edge, rest);
    }

    /// Where an edge that leads down is cut, in the parameters of a wall, beside a place of the border.
    std::optional<gp_Pnt2d> cutOn(const Down& d, const TopoDS_Face& wall, const gp_Pnt2d& beside) const {
        std::optional<gp_Pnt2d> out;
        double nearest = 1e300;
        for (const TopAbs_Orientation o : {TopAbs_FORWARD, TopAbs_REVERSED}) { // a seam has two
            double a = 0, b = 0;
            const Handle(Geom2d_Curve) c =
                BRep_Tool::CurveOnSurface(TopoDS::Edge(d.edge.Oriented(o)), wall, a, b);
            if (c.IsNull()) return std::nullopt;
            const double off = c->Value(d.top).Distance(beside);
            if (off < nearest) nearest = off, out = c->Value(d.at);
        }
        return out;
    }
    /// Beside the i-th edge of the border, by its own parameter, at the level.
    std::optional<TopoDS_Edge> lineBelow(std::size_t i) {
        const Stretch& s = m_border[i];
        const TopoDS_Face wall = TopoDS::Face(s.wall.Oriented(TopAbs_FORWARD));
        double from = 0, to = 0;
        const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(s.edge, wall, from, to);
        if (on.IsNull()) return std::nullopt;
        const std::size_t next = (i + 1) % m_border.size();
        const Down &atFrom = m_downs[s.back() ? next : i], &atTo = m_downs[s.back() ? i : next];
        const auto a = cutOn(atFrom, wall, on->Value(from)), b = cutOn(atTo, wall, on->Value(to));
        if (!a || !b) return std::nullopt;
        const gp_Vec2d wayA(on->Value(from), *a), wayB(on->Value(to), *b);
        const GeomAdaptor_Surface surface(BRep_Tool::Surface(wall));
        const gp_Vec2d scale = mmToOne(surface, on->Value(0.5 * (from + to)));
        const auto at = [&](double t) -> std::optional<std::vector<gp_Pnt>> {
            const double share = (t - from) / (to - from);
            const gp_Vec2d way = wayA * (1 - share) + wayB * share;
            const gp_Pnt2d top = on->Value(t);
            const auto p = [&](double k) {
                const gp_Pnt2d uv = top.Translated(way * k);
                return surface.Value(uv.X(), uv.Y());
            };
            double reach = 1;
            for (int grow = 0; below(p(reach)) < m_depth; reach *= 1.3)
                if (++grow > 8) return std::nullopt;
            const double k = levelBetween(0, reach, [&](double x) { return below(p(x)) < m_depth; });
            const gp_Pnt2d uv = top.Translated(way * k);
            return std::vector{p(k), gp_Pnt(uv.X() * scale.X(), uv.Y() * scale.Y(), 0)};
        };
        constexpr int kMostPoles = 600;
        const auto curves = curvesAlong(breaksOf(s.edge), 2, at, {1e-5, 1e-4, 1e-3}, kMostPoles, {1, 0});
        if (curves.empty()) return std::nullopt;
        return edgeAlong({curves[0], inParameters(curves[1], scale)}, wall, atFrom.corner, atTo.corner,
                         s.edge);
    }
    static std::vector<double> breaksOf(const TopoDS_Edge& edge) {
        const BRepAdaptor_Curve curve(edge);
        TColStd_Array1OfReal breaks(1, curve.NbIntervals(GeomAbs_C1) + 1);
        curve.Intervals(breaks, GeomAbs_C1);
        return {breaks.begin(), breaks.end()};
    }
    TopoDS_Edge edgeAlong(LaidLine line, const TopoDS_Face& wall, const TopoDS_Vertex& a,
                          const TopoDS_Vertex& b, const TopoDS_Edge& border) {
        const BRep_Builder builder;
        line.off = offBetween(line, BRep_Tool::Surface(wall));
        const double from = line.curve->FirstParameter(), to = line.curve->LastParameter();
        for (const auto& [v, t] : {std::pair{a, from}, std::pair{b, to}})
            builder.UpdateVertex(v, line.off + BRep_Tool::Pnt(v).Distance(line.curve->Value(t)));
        const TopoDS_Edge e = edgeBetween(line.curve, from, to, a, b, line.off);
        builder.UpdateEdge(e, line.laid, wall, line.off);
        const BRepAdaptor_Curve above(border);
        constexpr int kLooks = 60;
        for (int k = 0; k <= kLooks; ++k) {
            const double t = from + (to - from) * k / kLooks;
            const gp_Vec aside(above.Value(t), line.curve->Value(t));
            m_out.aside = std::max(m_out.aside, aside.Crossed(directionIn(m_plane.normal())).Magnitude());
        }
        return e;
    }
    static gp_Vec2d mmToOne(const GeomAdaptor_Surface& surface, const gp_Pnt2d& uv) {
        gp_Pnt p;
        gp_Vec du, dv;
        surface.D1(uv.X(), uv.Y(), p, du, dv);
        return {std::max(du.Magnitude(), kKernelPoint), std::max(dv.Magnitude(), kKernelPoint)};
    }

    const NamedShape& m_body;
    TopoDS_Face m_rim;
    Plane m_plane;
    double m_depth;
    std::vector<Stretch> m_border;
    std::vector<Down> m_downs;
    BRepTools_ReShape m_reshape;
    LoweredWall m_out;
};

} // namespace

std::optional<LoweredWall> loweredWall(const NamedShape& body, const TopoDS_Face& rim,
                                       const TopoDS_Wire& border, const Plane& plane, double depth) {
    return Lowering(body, rim, border, plane, depth).run();
}

} // namespace gc
