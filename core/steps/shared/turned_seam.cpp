#include "core/steps/shared/turned_seam.hpp"

#include "core/base/angles.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/round_faces.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Line.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

bool hasSeam(const TopoDS_Wire& wire, const TopoDS_Face& face) {
    for (TopoDS_Iterator e(wire, false); e.More(); e.Next())
        if (BRep_Tool::IsClosed(TopoDS::Edge(e.Value()), face)) return true;
    return false;
}
/// A border all the way round.
bool goesRound(const TopoDS_Edge& edge) {
    return TopExp::FirstVertex(edge).IsSame(TopExp::LastVertex(edge));
}
bool closesUp(const TopoDS_Face& face) {
    for (TopoDS_Iterator w(face, false); w.More(); w.Next())
        if (hasSeam(TopoDS::Wire(w.Value()), face)) return true;
    return false;
}

/// On a copy of the body whose edges are its own.
class Turning {
  public:
    Turning(const Body& body, int face, double angle) : m_before(body.shape()) {
        BRepBuilderAPI_Copy copy(m_before.shape);
        for (int i = 1; i <= m_before.faces.Extent(); ++i) m_faces.Add(copy.ModifiedShape(m_before.faces(i)));
        m_shape = copy.Shape();
        const TopoDS_Face host = TopoDS::Face(m_faces(face + 1));
        if (const auto axis = turnAxisOf(host)) {
            m_turn.SetRotation(gp_Ax1(axis->Location(), axis->Direction()), axis->Direct() ? angle : -angle);
            m_known = closesUp(host);
            m_group.Add(host);
        }
    }

    std::optional<TurnedSeam> run() {
        if (!m_known || m_shape.ShapeType() != TopAbs_SOLID || !gather()) return std::nullopt;
        turnGroup();
        for (int i = 1; i <= m_group.Extent(); ++i)
            if (!fillIn(TopoDS::Face(m_group(i)))) return std::nullopt;
        for (int i = 1; i <= m_beside.Extent(); ++i) replaceBorders(TopoDS::Face(m_beside(i)));
        return named();
    }

  private:
    /// Round faces about the axis that share a whole circle, one after the other; flat ones get new borders.
    bool gather() {
        TopTools_IndexedDataMapOfShapeListOfShape facesOf;
        TopExp::MapShapesAndAncestors(m_shape, TopAbs_EDGE, TopAbs_FACE, facesOf);
        for (int k = 1; k <= m_group.Extent(); ++k) {
            const TopoDS_Face face = TopoDS::Face(m_group(k));
            const auto shift = shiftOn(face, m_turn);
            if (!shift) return false;
            m_shift.push_back(*shift);
            for (TopoDS_Iterator w(face, false); w.More(); w.Next()) {
                if (!hasSeam(TopoDS::Wire(w.Value()), face)) continue;
                for (TopoDS_Iterator e(w.Value(), false); e.More(); e.Next()) {
                    const TopoDS_Edge edge = TopoDS::Edge(e.Value());
                    if (BRep_Tool::Degenerated(edge) || BRep_Tool::IsClosed(edge, face)) continue;
                    if (!goesRound(edge)) continue; // of a detail that lies over the seam
                    for (const TopoDS_Shape& f : toVector(facesOf.FindFromKey(edge))) {
                        if (f.IsSame(face) || m_group.Contains(f)) continue;
                        const TopoDS_Face other = TopoDS::Face(f);
                        if (BRepAdaptor_Surface(other, false).GetType() == GeomAbs_Plane)
                            m_beside.Add(other);
                        else if (closesUp(other) && shiftOn(other, m_turn))
                            m_group.Add(other);
                        else
                            return false;
                    }
                }
            }
        }
        return true;
    }

    /// What closes up, without the loops of details in it, is turned as a whole.
    void turnGroup() {
        BRep_Builder builder;
        TopoDS_Compound bare;
        builder.MakeCompound(bare);
        for (int k = 1; k <= m_group.Extent(); ++k) {
            const TopoDS_Face face = TopoDS::Face(m_group(k).Oriented(TopAbs_FORWARD));
            TopoDS_Face one = TopoDS::Face(face.EmptyCopied());
            for (TopoDS_Iterator w(face, false); w.More(); w.Next())
                if (hasSeam(TopoDS::Wire(w.Value()), face))
                    builder.Add(one, wholeBorder(TopoDS::Wire(w.Value()), face, one));
            m_bare.push_back(one);
            builder.Add(bare, one);
        }
        m_operation = std::make_unique<BRepBuilderAPI_Transform>(bare, m_turn, true);
    }

    /// A border whose seam a detail has broken gets a whole one; else it is as it was.
    static TopoDS_Wire wholeBorder(const TopoDS_Wire& border, const TopoDS_Face& face,
                                   const TopoDS_Face& bare) {
        TopoDS_Edge piece;
        TopTools_IndexedMapOfShape ends;
        std::vector<TopoDS_Shape> rounds;
        bool broken = false;
        for (TopoDS_Iterator e(border, false); e.More(); e.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(e.Value());
            if (BRep_Tool::IsClosed(edge, face)) {
                piece = edge;
            } else if (BRep_Tool::Degenerated(edge) || goesRound(edge)) {
                rounds.push_back(edge);
                ends.Add(TopExp::FirstVertex(edge));
            } else {
                broken = true;
            }
        }
        if (!broken || ends.Extent() != 2) return border;
        const auto curveOf = [&](TopAbs_Orientation o) {
            double a = 0, b = 0;
            return BRep_Tool::CurveOnSurface(TopoDS::Edge(piece.Oriented(o)), face, a, b);
        };
        const Handle(Geom2d_Line) there = Handle(Geom2d_Line)::DownCast(curveOf(TopAbs_FORWARD)),
                                  back = Handle(Geom2d_Line)::DownCast(curveOf(TopAbs_REVERSED));
        double from = 0, to = 0;
        const Handle(Geom_Curve) line = BRep_Tool::Curve(piece, from, to);
        if (there.IsNull() || back.IsNull() || line.IsNull()) return border;
        // As far along the seam's own line as its two ends.
        const auto at = [&](int k) {
            return GeomAPI_ProjectPointOnCurve(BRep_Tool::Pnt(TopoDS::Vertex(ends(k))), line)
                .LowerDistanceParameter();
        };
        double a = at(1), b = at(2);
        TopoDS_Vertex first = TopoDS::Vertex(ends(1)), last = TopoDS::Vertex(ends(2));
        if (a > b) {
            std::swap(a, b);
            std::swap(first, last);
        }
        BRep_Builder builder;
        TopoDS_Edge seam;
        builder.MakeEdge(seam, line, BRep_Tool::Tolerance(piece));
        builder.UpdateEdge(seam, there, back, bare, BRep_Tool::Tolerance(piece));
        builder.Add(seam, first.Oriented(TopAbs_FORWARD));
        builder.Add(seam, last.Oriented(TopAbs_REVERSED));
        builder.Range(seam, a, b);
        TopoDS_Wire out;
        builder.MakeWire(out);
        for (const TopoDS_Shape& r : rounds) builder.Add(out, r);
        builder.Add(out, seam.Oriented(TopAbs_FORWARD));
        builder.Add(out, seam.Oriented(TopAbs_REVERSED));
        out.Closed(true);
        return TopoDS::Wire(out.Oriented(border.Orientation()));
    }

    /// The loops that a detail over the seam has within a border, each by itself.
    static std::vector<TopoDS_Wire> loopsIn(const TopoDS_Wire& border, const TopoDS_Face& face) {
        std::vector<TopoDS_Edge> rest;
        for (TopoDS_Iterator e(border); e.More(); e.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(e.Value());
            if (!BRep_Tool::IsClosed(edge, face) && !BRep_Tool::Degenerated(edge) && !goesRound(edge))
                rest.push_back(edge);
        }
        BRep_Builder builder;
        std::vector<TopoDS_Wire> out;
        while (!rest.empty()) {
            TopoDS_Wire loop;
            builder.MakeWire(loop);
            const TopoDS_Vertex begin = TopExp::FirstVertex(rest.front(), true);
            TopoDS_Vertex end = begin;
            do {
                const auto next = std::find_if(rest.begin(), rest.end(), [&](const TopoDS_Edge& e) {
                    return TopExp::FirstVertex(e, true).IsSame(end);
                });
                if (next == rest.end()) return {};
                builder.Add(loop, *next);
                end = TopExp::LastVertex(*next, true);
                rest.erase(next);
            } while (!end.IsSame(begin));
            loop.Closed(true);
            out.push_back(loop);
        }
        return out;
    }

    /// The loops of details come back, with curves on the turned face.
    bool fillIn(const TopoDS_Face& face) {
        const std::size_t k = m_done.size();
        TopoDS_Face now = TopoDS::Face(m_operation->ModifiedShape(m_bare[k]).Oriented(TopAbs_FORWARD));
        now.Free(true); // what the kernel has changed is shut
        const TopoDS_Face was = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
        BRep_Builder builder;
        for (TopoDS_Iterator w(was, false); w.More(); w.Next()) {
            const TopoDS_Wire wire = TopoDS::Wire(w.Value());
            for (const TopoDS_Wire& loop : hasSeam(wire, was) ? loopsIn(wire, was) : std::vector{wire}) {
                if (!layLoop(loop, now, loop, was, m_shift[k].Reversed())) return false;
                builder.Add(now, loop);
            }
        }
        m_done.push_back(now);
        return true;
    }

    /// A flat face beside: its whole circles begin elsewhere now.
    void replaceBorders(const TopoDS_Face& face) {
        BRep_Builder builder;
        TopoDS_Face out = TopoDS::Face(face.EmptyCopied().Oriented(TopAbs_FORWARD));
        for (TopoDS_Iterator w(face.Oriented(TopAbs_FORWARD), false); w.More(); w.Next()) {
            TopoDS_Wire wire;
            builder.MakeWire(wire);
            for (TopoDS_Iterator e(w.Value(), false); e.More(); e.Next()) {
                const TopoDS_Shape turned = turnedEdge(e.Value());
                builder.Add(wire, turned.IsNull() ? e.Value() : turned.Oriented(e.Value().Orientation()));
            }
            wire.Closed(true);
            builder.Add(out, wire.Oriented(w.Value().Orientation()));
        }
        m_besideNow.push_back(out);
    }
    TopoDS_Shape turnedEdge(const TopoDS_Shape& edge) const {
        for (const TopoDS_Face& bare : m_bare)
            for (TopExp_Explorer x(bare, TopAbs_EDGE); x.More(); x.Next())
                if (x.Current().IsSame(edge)) return m_operation->ModifiedShape(edge);
        return {};
    }

    std::optional<TurnedSeam> named() const {
        BRep_Builder builder;
        TopoDS_Solid solid;
        builder.MakeSolid(solid);
        const auto faceNow = [&](const TopoDS_Shape& f) -> TopoDS_Shape {
            if (const int k = m_group.FindIndex(f)) return m_done[static_cast<std::size_t>(k - 1)];
            if (const int k = m_beside.FindIndex(f)) return m_besideNow[static_cast<std::size_t>(k - 1)];
            return f;
        };
        for (TopoDS_Iterator shells(m_shape); shells.More(); shells.Next()) {
            TopoDS_Shell shell;
            builder.MakeShell(shell);
            for (TopoDS_Iterator f(shells.Value()); f.More(); f.Next())
                builder.Add(shell, faceNow(f.Value()).Oriented(f.Value().Orientation()));
            shell.Closed(true);
            builder.Add(solid, shell); // its faces are turned as the old shell turned them
        }
        NameBuilder names(solid);
        names.inherit(m_before);
        for (int i = 1; i <= m_before.faces.Extent(); ++i)
            names.add(faceNow(m_faces(i)), m_before.namesOf(m_before.faces(i)));
        auto body = names.finish();
        if (!body) return std::nullopt;
        TurnedSeam out{*body, {}};
        for (int i = 1; i <= m_faces.Extent(); ++i)
            out.faces.push_back(out.body.shape().faces.FindIndex(faceNow(m_faces(i))) - 1);
        return out;
    }

    const NamedShape& m_before;
    TopoDS_Shape m_shape;
    TopTools_IndexedMapOfShape m_faces; ///< of the copy, in the order of the body's
    gp_Trsf m_turn;
    bool m_known = false;
    TopTools_IndexedMapOfShape m_group, m_beside;
    std::vector<gp_Vec2d> m_shift;
    std::vector<TopoDS_Face> m_bare, m_done, m_besideNow;
    std::unique_ptr<BRepBuilderAPI_Transform> m_operation;
};

} // namespace

std::optional<TurnedSeam> withSeamTurned(const Body& body, int face, double angle) {
    return Turning(body, face, angle).run();
}

std::vector<Span> spansIn(const TopoDS_Face& face) {
    constexpr int kPlaces = 96;
    std::vector<Span> out;
    const TopoDS_Face forward = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
    const TopoDS_Wire border = BRepTools::OuterWire(forward);
    for (TopoDS_Iterator w(forward, false); w.More(); w.Next()) {
        if (w.Value().IsSame(border)) continue;
        Span span{1e300, -1e300};
        for (TopoDS_Iterator e(w.Value(), false); e.More(); e.Next()) {
            double a = 0, b = 0;
            const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(TopoDS::Edge(e.Value()), forward, a, b);
            for (int i = 0; !on.IsNull() && i <= kPlaces; ++i) {
                const double u = on->Value(a + (b - a) * i / kPlaces).X();
                span = {std::min(span.first, u), std::max(span.second, u)};
            }
        }
        if (span.first <= span.second) out.push_back(span);
    }
    return out;
}

std::optional<double> widestGap(const std::vector<Span>& spans, double from) {
    constexpr double kLeast = 2e-3, kTurn = 2 * kPi; // rad
    std::vector<Span> around;
    for (const auto& [a, b] : spans) {
        const double begin = a - kTurn * std::floor((a - from) / kTurn);
        around.emplace_back(begin, begin + b - a);
    }
    std::sort(around.begin(), around.end());
    double best = kLeast, at = 0, reached = around.front().second;
    for (std::size_t i = 1; i <= around.size(); ++i) {
        const double next = i < around.size() ? around[i].first : around.front().first + kTurn;
        if (next - reached > best) {
            best = next - reached;
            at = 0.5 * (next + reached);
        }
        if (i < around.size()) reached = std::max(reached, around[i].second);
    }
    if (best <= kLeast) return std::nullopt;
    return at;
}

} // namespace gc
