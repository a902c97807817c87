// A copy of a detail whose walls are made longer or shorter to end on the wall that it is set into.

#include "core/steps/repeat/fitting.hpp"
#include "core/steps/repeat/ways.hpp"

#include "core/base/angles.hpp"
#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/laid_line.hpp"
#include "core/steps/shared/round_faces.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepTools.hxx>
#include <BRepTools_ReShape.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <ElCLib.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_DataMapOfShapeShape.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Iterator.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

using Beside = TopTools_IndexedDataMapOfShapeListOfShape;

/// One place where a wall meets the wall that it stands in.
struct Met {
    double t = 0, height = 0;
    gp_Pnt2d uv; ///< of the wall that it stands in
    gp_Pnt at;
};

/// The line along which they meet.
class Meeting {
  public:
    Meeting(const Ways& ways, const KnownPlaces& wall) : m_ways(ways), m_wall(wall) {}

    /// By Newton's method, from the nearest place that is known. Nothing where they do not meet.
    std::optional<Met> at(double t) {
        Met now;
        if (m_known.empty()) {
            now.height = m_ways.heightAt(t);
            const auto foot = m_wall.footOf(m_ways.at(t, now.height).at);
            if (!foot) return std::nullopt;
            now.uv = *foot;
        } else {
            now = *std::min_element(m_known.begin(), m_known.end(), [&](const Met& a, const Met& b) {
                return std::fabs(a.t - t) < std::fabs(b.t - t);
            });
            now.height += m_ways.heightAt(t) - m_ways.heightAt(now.t);
        }
        now.t = t;
        if (!meet(now)) return std::nullopt;
        m_known.push_back(now);
        return now;
    }

  private:
    bool meet(Met& m) const {
        constexpr int kSteps = 40;
        constexpr double kMet = 1e-10; // mm
        const Geom_Surface& s = m_wall.surface();
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        s.Bounds(u0, u1, v0, v1);
        for (int k = 0; k < kSteps; ++k) {
            const OnWay way = m_ways.at(m.t, m.height);
            gp_Vec du, dv;
            s.D1(m.uv.X(), m.uv.Y(), m.at, du, dv);
            const gp_Vec off(m.at, way.at); // = du a + dv b - along c
            if (off.Magnitude() < kMet) return true;
            const auto step = meetingStep(du, dv, way.along, off);
            if (!step) return false;
            m.uv.SetCoord(m.uv.X() + step->X(), m.uv.Y() + step->Y());
            m.height += step->Z();
            if (!s.IsUPeriodic()) m.uv.SetX(std::clamp(m.uv.X(), u0, u1));
            if (!s.IsVPeriodic()) m.uv.SetY(std::clamp(m.uv.Y(), v0, v1));
        }
        return false;
    }

    const Ways& m_ways;
    const KnownPlaces& m_wall;
    std::vector<Met> m_known;
};

/// The edges of a loop, one after the other, as they are walked. Without any where they are not one loop.
std::vector<TopoDS_Edge> inOrder(const TopoDS_Wire& loop) {
    std::vector<TopoDS_Edge> rest, out;
    for (TopoDS_Iterator e(loop); e.More(); e.Next()) rest.push_back(TopoDS::Edge(e.Value()));
    while (!rest.empty()) {
        const auto next =
            out.empty() ? rest.begin() : std::find_if(rest.begin(), rest.end(), [&](const TopoDS_Edge& e) {
                return TopExp::FirstVertex(e, true).IsSame(TopExp::LastVertex(out.back(), true));
            });
        if (next == rest.end()) return {};
        out.push_back(*next);
        rest.erase(next);
    }
    return out;
}

/// A copy while its mouths are fitted.
class Copying {
  public:
    Copying(const Detail& detail, const gp_Trsf& by, const std::vector<TopoDS_Face>& hosts,
            const std::vector<const KnownPlaces*>& places)
        : m_hosts(hosts), m_places(places) {
        TopoDS_Compound all;
        m_builder.MakeCompound(all);
        for (const TopoDS_Face& f : detail.faces) m_builder.Add(all, f);
        for (const Mouth& m : detail.mouths) m_builder.Add(all, m.loop);
        BRepBuilderAPI_Transform operation(all, by, true);
        for (const TopoDS_Face& f : detail.faces)
            m_faces.push_back(operation.ModifiedShape(f).Oriented(f.Orientation()));
        for (const TopoDS_Shape& f : m_faces) goOnBeyond(TopoDS::Face(f));
        for (const Mouth& m : detail.mouths)
            m_loops.push_back(TopoDS::Wire(operation.ModifiedShape(m.loop).Oriented(m.loop.Orientation())));
        for (const TopoDS_Shape& f : m_faces)
            TopExp::MapShapesAndAncestors(f, TopAbs_EDGE, TopAbs_FACE, m_facesBeside);
        for (int e = 1; e <= m_facesBeside.Extent(); ++e)
            TopExp::MapShapesAndAncestors(m_facesBeside.FindKey(e), TopAbs_VERTEX, TopAbs_EDGE,
                                          m_edgesBeside);
        for (const TopoDS_Wire& w : m_loops)
            for (TopoDS_Iterator e(w, false); e.More(); e.Next()) m_mouth.Add(e.Value());
    }

    std::optional<FittedCopy> run() {
        FittedCopy out;
        for (std::size_t m = 0; m < m_loops.size(); ++m)
            if (!fitLoop(m, out)) return std::nullopt;
        if (!fitSides()) return std::nullopt;
        for (const TopoDS_Shape& f : m_faces) out.faces.push_back(m_reshape.Apply(f));
        out.hosts = m_hosts;
        return out;
    }

  private:
    /// The edge of a wall that ends at a corner of its mouth; null where there is none.
    TopoDS_Edge sideAt(const TopoDS_Face& wall, const TopoDS_Vertex& corner) const {
        const int k = m_edgesBeside.FindIndex(corner);
        if (k == 0) return {};
        for (const TopoDS_Shape& e : m_edgesBeside(k)) {
            if (m_mouth.Contains(e)) continue;
            for (const TopoDS_Shape& f : m_facesBeside.FindFromKey(e))
                if (f.IsSame(wall)) return TopoDS::Edge(e);
        }
        return {};
    }

    TopoDS_Vertex cornerAt(const TopoDS_Vertex& old, const gp_Pnt& at, double off) {
        if (const TopoDS_Shape* known = m_corners.Seek(old)) {
            const TopoDS_Vertex v = TopoDS::Vertex(*known);
            m_builder.UpdateVertex(v, off + at.Distance(BRep_Tool::Pnt(v)));
            return v;
        }
        TopoDS_Vertex v;
        m_builder.MakeVertex(v, at, off);
        m_corners.Bind(old, v);
        return v;
    }

    bool fitLoop(std::size_t m, FittedCopy& out) {
        const TopoDS_Face host = TopoDS::Face(m_hosts[m].Oriented(TopAbs_FORWARD));
        TopoDS_Wire loop;
        m_builder.MakeWire(loop);
        Outline2d outline;
        for (const TopoDS_Edge& old : inOrder(m_loops[m])) {
            const auto edge = fitEdge(TopoDS::Edge(old.Oriented(TopAbs_FORWARD)), host, *m_places[m], outline,
                                      old.Orientation() == TopAbs_REVERSED);
            if (!edge) return false;
            m_reshape.Replace(old.Oriented(TopAbs_FORWARD), edge->Oriented(TopAbs_FORWARD));
            m_builder.Add(loop, edge->Oriented(old.Orientation()));
        }
        loop.Closed(true);
        if (!withinTurn(loop, host, outline)) out.overSeam = true;
        out.loops.push_back(loop);
        out.outlines.push_back(std::move(outline));
        return !out.outlines.back().empty();
    }

    /// Round a wall that closes up a loop goes by whole turns to where the face is. False where it lies over
    /// the line at which that begins.
    static bool withinTurn(const TopoDS_Wire& loop, const TopoDS_Face& host, Outline2d& outline) {
        constexpr double kSame = 1e-9;
        const BRepAdaptor_Surface surface(host, false);
        if (!surface.IsUPeriodic()) return true;
        double low = 0, high = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(host, low, high, v0, v1);
        const auto [least, most] =
            std::minmax_element(outline.begin(), outline.end(),
                                [](const gp_Pnt2d& a, const gp_Pnt2d& b) { return a.X() < b.X(); });
        const double period = surface.UPeriod(),
                     turn = -period * std::floor((least->X() - low) / period + kSame);
        const bool within = most->X() + turn <= high + kSame;
        for (gp_Pnt2d& p : outline) p.SetX(p.X() + turn);
        for (TopoDS_Iterator e(loop, false); e.More(); e.Next()) {
            double a = 0, b = 0;
            BRep_Tool::CurveOnSurface(TopoDS::Edge(e.Value()), host, a, b)->Translate(gp_Vec2d(turn, 0));
        }
        return within;
    }

    std::optional<TopoDS_Edge> fitEdge(const TopoDS_Edge& ahead, const TopoDS_Face& host,
                                       const KnownPlaces& places, Outline2d& outline, bool back) {
        const int k = m_facesBeside.FindIndex(ahead);
        if (k == 0) return std::nullopt;
        const TopoDS_Face wall = TopoDS::Face(m_facesBeside(k).First());
        const auto ways = waysOf(ahead, wall, sideAt(wall, TopExp::FirstVertex(ahead)),
                                 sideAt(wall, TopExp::LastVertex(ahead)));
        if (!ways) return std::nullopt;
        Meeting meeting(*ways, places);
        const auto first = meeting.at(0);
        if (!first) return std::nullopt;
        const SurfacePlace about = placeOf(places.surface(), first->uv);
        const gp_Vec2d scale(std::max(1e-6, about.du.Magnitude()), std::max(1e-6, about.dv.Magnitude()));
        gp_Vec2d own(1, 1); // mm to a parameter of the wall
        if (ways->hasParameters()) {
            const SurfacePlace p = placeOf(*BRep_Tool::Surface(wall), ways->parametersAt(0, first->height));
            own.SetCoord(std::max(1e-6, p.du.Magnitude()), std::max(1e-6, p.dv.Magnitude()));
        }
        bool missed = false;
        const auto three = [&](double t) {
            const auto met = missed ? std::nullopt : meeting.at(t);
            missed = missed || !met;
            const Met& at = met ? *met : *first;
            const gp_Pnt2d on = ways->parametersAt(t, at.height);
            return std::vector{at.at, gp_Pnt(at.uv.X() * scale.X(), at.uv.Y() * scale.Y(), 0),
                               gp_Pnt(on.X() * own.X(), on.Y() * own.Y(), 0)};
        };
        constexpr int kMost = 400;
        const auto direction =
            directionFor({0, 1}, three, {kSurfaceFit, 10 * kSurfaceFit, 100 * kSurfaceFit}, kMost);
        if (missed || !direction) return std::nullopt;
        const auto curves = curvesThrough(*direction, three);
        if (missed) return std::nullopt;
        LaidLine line{curves[0], inParameters(curves[1], scale)};
        line.off = offBetween(line, BRep_Tool::Surface(host));
        LaidLine onWall{curves[0], inParameters(curves[2], own)};
        if (ways->hasParameters())
            line.off = std::max(line.off, offBetween(onWall, BRep_Tool::Surface(wall)));
        const TopoDS_Vertex a = cornerAt(TopExp::FirstVertex(ahead), line.start(), 2 * line.off),
                            b = cornerAt(TopExp::LastVertex(ahead), line.curve->EndPoint(), 2 * line.off);
        const TopoDS_Edge made = edgeOf(line, a, b, host);
        if (ways->hasParameters()) m_builder.UpdateEdge(made, onWall.laid, wall, line.off);
        constexpr int kPlaces = 32;
        for (int i = 0; i < kPlaces; ++i)
            outline.push_back(line.laid->Value(back ? 1 - static_cast<double>(i) / kPlaces
                                                    : static_cast<double>(i) / kPlaces));
        return made;
    }

    /// The edges that end at mouths become longer or shorter.
    bool fitSides() {
        for (int e = 1; e <= m_facesBeside.Extent(); ++e) {
            const TopoDS_Edge edge = TopoDS::Edge(m_facesBeside.FindKey(e).Oriented(TopAbs_FORWARD));
            if (m_mouth.Contains(edge)) continue;
            const TopoDS_Vertex a = TopExp::FirstVertex(edge), b = TopExp::LastVertex(edge);
            const TopoDS_Shape *newA = m_corners.Seek(a), *newB = m_corners.Seek(b);
            if (!newA && !newB) continue;
            const auto made = longer(edge, newA ? TopoDS::Vertex(*newA) : a, newB ? TopoDS::Vertex(*newB) : b,
                                     m_facesBeside(e));
            if (!made) return false;
            m_reshape.Replace(edge, made->Oriented(TopAbs_FORWARD));
        }
        return true;
    }

    std::optional<TopoDS_Edge> longer(const TopoDS_Edge& edge, const TopoDS_Vertex& a, const TopoDS_Vertex& b,
                                      const TopTools_ListOfShape& faces) {
        double from = 0, to = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
        if (curve.IsNull()) return std::nullopt;
        const auto newFrom = parameterOf(curve, BRep_Tool::Pnt(a), from),
                   newTo = parameterOf(curve, BRep_Tool::Pnt(b), to);
        if (!newFrom || !newTo || *newTo - *newFrom < kKernelPoint) return std::nullopt;
        TopoDS_Edge out;
        m_builder.MakeEdge(out, curve, BRep_Tool::Tolerance(edge));
        m_builder.Add(out, a.Oriented(TopAbs_FORWARD));
        m_builder.Add(out, b.Oriented(TopAbs_REVERSED));
        m_builder.Range(out, *newFrom, *newTo);
        TopTools_IndexedMapOfShape done; // a face is beside its seam twice
        for (const TopoDS_Shape& f : faces) {
            if (done.Contains(f)) continue;
            done.Add(f);
            const TopoDS_Face face = TopoDS::Face(f.Oriented(TopAbs_FORWARD));
            if (BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane) continue;
            const auto on = longerOn(TopoDS::Edge(edge.Oriented(TopAbs_FORWARD)), face, *newFrom, *newTo);
            if (!on) return std::nullopt;
            if (!BRep_Tool::IsClosed(edge, face)) {
                m_builder.UpdateEdge(out, *on, face, BRep_Tool::Tolerance(edge));
                continue;
            }
            const auto other = longerOn(TopoDS::Edge(edge.Oriented(TopAbs_REVERSED)), face, *newFrom, *newTo);
            if (!other) return std::nullopt;
            m_builder.UpdateEdge(out, *on, *other, face, BRep_Tool::Tolerance(edge));
        }
        return out;
    }

    /// Of a place on a line or circle; nothing where it does not lie there.
    static std::optional<double> parameterOf(const Handle(Geom_Curve) & curve, const gp_Pnt& p, double near) {
        constexpr double kOff = 1e-5; // mm
        const GeomAdaptor_Curve c(curve);
        double out = near;
        if (c.GetType() == GeomAbs_Line) {
            out = ElCLib::Parameter(c.Line(), p);
        } else if (c.GetType() == GeomAbs_Circle) {
            out = ElCLib::Parameter(c.Circle(), p);
            out += 2 * kPi * std::round((near - out) / (2 * kPi));
        }
        return curve->Value(out).Distance(p) < kOff ? std::optional(out) : std::nullopt;
    }

    /// A side runs evenly along its wall's net, and goes on so.
    static std::optional<Handle(Geom2d_Curve)> longerOn(const TopoDS_Edge& edge, const TopoDS_Face& face,
                                                        double newFrom, double newTo) {
        constexpr double kUneven = 1e-7; // of a parameter
        double from = 0, to = 0;
        const Handle(Geom2d_Curve) old = BRep_Tool::CurveOnSurface(edge, face, from, to);
        if (old.IsNull() || to - from < kKernelPoint) return std::nullopt;
        const gp_Pnt2d a = old->Value(from), b = old->Value(to), m = old->Value(0.5 * (from + to));
        if (m.Distance(gp_Pnt2d(0.5 * (a.XY() + b.XY()))) > kUneven) return std::nullopt;
        const auto at = [&](double t) {
            return gp_Pnt2d(a.XY() + (b.XY() - a.XY()) * ((t - from) / (to - from)));
        };
        return Handle(Geom2d_Curve)(straightLaid(at(newFrom), at(newTo), newFrom, newTo));
    }

    const std::vector<TopoDS_Face>& m_hosts;
    const std::vector<const KnownPlaces*>& m_places;
    BRep_Builder m_builder;
    BRepTools_ReShape m_reshape;
    std::vector<TopoDS_Shape> m_faces;
    std::vector<TopoDS_Wire> m_loops;
    Beside m_facesBeside, m_edgesBeside;
    TopTools_IndexedMapOfShape m_mouth; ///< edges of all mouths
    TopTools_DataMapOfShapeShape m_corners;
};

} // namespace

std::optional<FittedCopy> fitted(const Detail& detail, const gp_Trsf& by,
                                 const std::vector<TopoDS_Face>& hosts,
                                 const std::vector<const KnownPlaces*>& places) {
    return Copying(detail, by, hosts, places).run();
}

bool liesOnItself(const Detail& detail, const gp_Trsf& by) {
    return std::all_of(detail.mouths.begin(), detail.mouths.end(),
                       [&](const Mouth& m) { return shiftOn(m.host, by).has_value(); });
}

} // namespace gc
