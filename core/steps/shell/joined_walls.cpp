#include "core/steps/shell/joined_walls.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2dConvert.hxx>
#include <Geom2d_TrimmedCurve.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// What takes the place of an edge. Several may become one.
struct Replaced {
    TopoDS_Edge now;
    bool reversed = false; ///< it runs the other way
};

class Joiner {
  public:
    explicit Joiner(const ShellPlan& plan, JoinedWalls& out)
        : m_shape(*plan.before), m_out(out), m_faces(static_cast<std::size_t>(m_shape.faces.Extent())) {}

    bool join() {
        for (std::size_t r = 0; r < m_out.rows.rows.size(); ++r)
            for (const RowPiece& p : m_out.rows.rows[r].pieces) m_rowOf[p.patch->number] = r;
        for (const WallRow& row : m_out.rows.rows) {
            TopoDS_Face face;
            m_build.MakeFace(face, row.surface, kKernelPoint);
            m_out.walls.push_back(face);
        }
        for (std::size_t r = 0; r < m_out.rows.rows.size(); ++r)
            if (!bound(r)) return false;
        makeOthers();
        return finish();
    }

  private:
    const WallRow& row(std::size_t r) const { return m_out.rows.rows[r]; }
    const Replaced* replaced(const TopoDS_Shape& edge) const { return m_edges.Seek(edge); }

    /// The edges and the wire of a row's wall.
    bool bound(std::size_t r) {
        const WallRow& w = row(r);
        const RowPiece &first = w.pieces.front(), &last = w.pieces.back();
        TopoDS_Edge ends[2];
        if (w.ring) {
            if (!openSeam(r)) return false;
        } else {
            ends[0] = ownCopy(first.patch->sides[first.in]);
            ends[1] = ownCopy(last.patch->sides[last.out()]);
            if (!layEnd(r, first, ends[0], w.ends.front()) || !layEnd(r, last, ends[1], w.ends.back()))
                return false;
        }
        TopoDS_Edge along[2];
        bool against[2]{};
        for (const bool high : {false, true}) {
            const auto made = borderAlong(r, high);
            if (!made) return false;
            along[high] = made->now, against[high] = made->reversed;
        }
        TopoDS_Face& face = m_out.walls[r];
        TopoDS_Wire wire;
        m_build.MakeWire(wire);
        const auto add = [&](const TopoDS_Edge& e, bool reversed) {
            m_build.Add(wire, e.Oriented(reversed ? TopAbs_REVERSED : TopAbs_FORWARD));
        };
        add(along[0], against[0]);
        add(w.ring ? m_seam : ends[1], !w.ring && !runsOn(last, last.out()));
        add(along[1], !against[1]);
        add(w.ring ? m_seam : ends[0], w.ring || runsOn(first, first.in));
        wire.Closed(true);
        m_build.Add(face, wire);
        const bool turned = first.patch->face.Orientation() == TopAbs_REVERSED;
        face.Orientation(turned == first.sameSide() ? TopAbs_REVERSED : TopAbs_FORWARD);
        return true;
    }

    /// Does the edge on a side of a piece run along x, or along y?
    static bool runsOn(const RowPiece& piece, std::size_t side) {
        double from = 0, to = 0;
        const auto line = BRep_Tool::CurveOnSurface(piece.patch->sides[side], piece.patch->face, from, to);
        const gp_Pnt2d a = piece.xy(line->Value(from)), b = piece.xy(line->Value(to));
        return side == piece.in || side == piece.out() ? a.Y() < b.Y() : a.X() < b.X();
    }

    /// An edge of its own, as what the body before shares with others must not change.
    TopoDS_Edge ownCopy(const TopoDS_Edge& edge) {
        if (const Replaced* r = replaced(edge)) return r->now;
        TopoDS_Edge out = TopoDS::Edge(edge.EmptyCopied().Oriented(TopAbs_FORWARD));
        for (TopoDS_Iterator v(edge.Oriented(TopAbs_FORWARD)); v.More(); v.Next())
            m_build.Add(out, v.Value());
        m_edges.Bind(edge, {out, false});
        return out;
    }

    /// The first or last border between y = 0 and y = 1, on the row's surface.
    bool layEnd(std::size_t r, const RowPiece& piece, const TopoDS_Edge& edge, double u) {
        const std::size_t side = &piece == &row(r).pieces.front() ? piece.in : piece.out();
        double from = 0, to = 0;
        const auto line = BRep_Tool::CurveOnSurface(piece.patch->sides[side], piece.patch->face, from, to);
        const Handle(Geom2d_BSplineCurve) laid =
            Geom2dConvert::CurveToBSplineCurve(new Geom2d_TrimmedCurve(line, from, to));
        for (int i = 1; i <= laid->NbPoles(); ++i)
            laid->SetPole(i, gp_Pnt2d(u, std::clamp(piece.xy(laid->Pole(i)).Y(), 0.0, 1.0)));
        return update(edge, laid, m_out.walls[r]);
    }

    /// A line on a face, with as much tolerance as it takes. False where it lies elsewhere.
    bool update(const TopoDS_Edge& edge, const Handle(Geom2d_BSplineCurve) & laid, const TopoDS_Face& face) {
        constexpr int kLooks = 200;
        double from = 0, to = 0, off = kKernelPoint;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
        const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
        for (int k = 0; k <= kLooks; ++k) {
            const double t = from + (to - from) * k / kLooks;
            const gp_Pnt2d uv = laid->Value(t);
            off = std::max(off, 1.5 * surface->Value(uv.X(), uv.Y()).Distance(curve->Value(t)));
        }
        if (off > kMostOff) return false;
        m_build.UpdateEdge(edge, laid, face, off);
        for (TopoDS_Iterator v(edge); v.More(); v.Next())
            m_build.UpdateVertex(TopoDS::Vertex(v.Value()), off);
        return true;
    }

    /// Where a ring begins and ends.
    bool openSeam(std::size_t r) {
        const WallRow& w = row(r);
        m_build.MakeEdge(m_seam, w.surface->UIso(w.ends.front()), kMostOff);
        m_build.UpdateEdge(m_seam, straightLaid({w.ends.back(), 0}, {w.ends.back(), 1}, 0, 1),
                           straightLaid({w.ends.front(), 0}, {w.ends.front(), 1}, 0, 1), m_out.walls[r],
                           kMostOff);
        for (const bool high : {false, true}) {
            const TopoDS_Vertex v = seamEnd(w.surface->Value(w.ends.front(), high ? 1 : 0));
            m_build.Add(m_seam, v.Oriented(high ? TopAbs_REVERSED : TopAbs_FORWARD));
            m_ends[high] = v;
        }
        m_build.Range(m_seam, 0, 1);
        m_build.SameParameter(m_seam, true);
        m_build.SameRange(m_seam, true);
        return w.surface->UIso(w.ends.front())->Value(0.5).Distance(w.surface->Value(w.ends.back(), 0.5)) <
               kMostOff;
    }
    /// Rows on top of each other share it.
    TopoDS_Vertex seamEnd(const gp_Pnt& at) {
        for (const TopoDS_Vertex& v : m_seamEnds)
            if (BRep_Tool::Pnt(v).Distance(at) < kMostOff) return v;
        TopoDS_Vertex out;
        m_build.MakeVertex(out, at, 2 * kMostOff);
        m_seamEnds.push_back(out);
        return out;
    }

    /// The corner of the body where a piece ends, low or high.
    TopoDS_Vertex cornerOf(const RowPiece& piece, std::size_t side, bool high) const {
        const TopoDS_Edge e = TopoDS::Edge(piece.patch->sides[side].Oriented(TopAbs_FORWARD));
        const bool end = runsOn(piece, side) == high;
        for (TopoDS_Iterator v(e); v.More(); v.Next())
            if ((v.Value().Orientation() == TopAbs_REVERSED) == end) return TopoDS::Vertex(v.Value());
        return {};
    }

    /// All borders along y = 0, or y = 1, in one.
    std::optional<Replaced> borderAlong(std::size_t r, bool high) {
        const WallRow& w = row(r);
        std::vector<TopoDS_Edge> old;
        for (const RowPiece& p : w.pieces) old.push_back(p.patch->sides[p.along(high)]);
        const TopoDS_Face beyond = faceAcross(m_shape, old.front(), w.pieces.front().patch->face);
        if (beyond.IsNull()) return std::nullopt;
        const auto rowOf = [&](const TopoDS_Face& f) {
            const auto at = m_rowOf.find(m_shape.faces.FindIndex(f));
            return at == m_rowOf.end() ? std::nullopt : std::optional(at->second);
        };
        const auto other = rowOf(beyond);
        for (std::size_t i = 0; i < old.size(); ++i) {
            const TopoDS_Face f = faceAcross(m_shape, old[i], w.pieces[i].patch->face);
            if (f.IsNull() || rowOf(f) != other || (!other && !f.IsSame(beyond)) || other == r) return {};
        }
        if (const Replaced* known = replaced(old.front())) return sharedBorder(r, high, old, *known);
        const double y = high ? 1 : 0;
        const Handle(Geom_Curve) curve = w.surface->VIso(y);
        TopoDS_Edge now;
        m_build.MakeEdge(now, curve, kKernelPoint);
        const TopoDS_Vertex a = w.ring ? m_ends[high] : cornerOf(w.pieces.front(), w.pieces.front().in, high),
                            b = w.ring ? a : cornerOf(w.pieces.back(), w.pieces.back().out(), high);
        m_build.Add(now, a.Oriented(TopAbs_FORWARD));
        m_build.Add(now, b.Oriented(TopAbs_REVERSED));
        m_build.Range(now, w.ends.front(), w.ends.back());
        m_build.SameParameter(now, true);
        m_build.SameRange(now, true);
        for (const auto& [v, u] : {std::pair{a, w.ends.front()}, {b, w.ends.back()}}) {
            const double off = BRep_Tool::Pnt(v).Distance(curve->Value(u));
            if (off > kMostOff) return std::nullopt;
            m_build.UpdateVertex(v, off + kKernelPoint);
        }
        const auto laid =
            straightLaid({w.ends.front(), y}, {w.ends.back(), y}, w.ends.front(), w.ends.back());
        if (!update(now, laid, m_out.walls[r])) return std::nullopt;
        if (!other && !layOn(now, beyond, old.front(), {})) return std::nullopt;
        for (std::size_t i = 0; i < old.size(); ++i)
            m_edges.Bind(old[i], {now, !runsOn(w.pieces[i], w.pieces[i].along(high))});
        return Replaced{now, false};
    }

    /// A border that another row has made already.
    std::optional<Replaced> sharedBorder(std::size_t r, bool high, const std::vector<TopoDS_Edge>& old,
                                         const Replaced& known) {
        const WallRow& w = row(r);
        for (const TopoDS_Edge& e : old)
            if (const Replaced* other = replaced(e); !other || !other->now.IsSame(known.now)) return {};
        if (w.ring && !m_ends[high].IsSame(TopoDS_Iterator(known.now).Value())) return {};
        const RowPiece& first = w.pieces.front();
        const bool against = runsOn(first, first.along(high)) == known.reversed;
        if (!layOn(known.now, m_out.walls[r], {}, OnRow{against, high ? 1.0 : 0.0, &w})) return std::nullopt;
        return Replaced{known.now, against};
    }

    /// How a border lies on the wall of a row.
    struct OnRow {
        bool against = false;
        double y = 0;
        const WallRow* row = nullptr;
    };
    /// The line of a new edge on a face beside it. \param old an edge of the face with which it begins, or
    /// null; then \param on
    bool layOn(const TopoDS_Edge& now, const TopoDS_Face& face, const TopoDS_Edge& old, const OnRow& on) {
        constexpr int kSteps = 400;
        double from = 0, to = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(now, from, to);
        const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
        gp_Pnt2d near;
        if (on.row) {
            near = {on.against ? on.row->ends.back() : on.row->ends.front(), on.y};
        } else {
            gp_Pnt2d ends[2];
            BRep_Tool::UVPoints(old, face, ends[0], ends[1]);
            const auto far = [&](const gp_Pnt2d& uv) {
                return surface->Value(uv.X(), uv.Y()).Distance(curve->Value(from));
            };
            near = far(ends[0]) < far(ends[1]) ? ends[0] : ends[1];
        }
        std::vector<gp_Pnt2d> walked;
        for (int k = 0; k <= kSteps; ++k) {
            const auto foot = footPoint(*surface, curve->Value(from + (to - from) * k / kSteps), near, false);
            if (!foot) return false;
            walked.push_back(near = foot->uv);
        }
        const auto places = [&](double at) -> std::optional<std::vector<gp_Pnt>> {
            const auto k = static_cast<std::size_t>(std::lround((at - from) / (to - from) * kSteps));
            const auto foot =
                footPoint(*surface, curve->Value(at), walked[std::min(k, walked.size() - 1)], false);
            if (!foot) return std::nullopt;
            return std::vector{gp_Pnt(foot->uv.X(), on.row ? on.y : foot->uv.Y(), 0)};
        };
        const auto fitted = curvesAlong({from, to}, 1, places, {1e-7, 1e-6, 1e-5}, 400);
        return !fitted.empty() && update(now, inParameters(fitted[0], {1, 1}), face);
    }

    /// The faces that stay, with the edges that took the place of theirs.
    void makeOthers() {
        for (int i = 1; i <= m_shape.faces.Extent(); ++i) {
            auto& now = m_faces[static_cast<std::size_t>(i) - 1];
            if (const auto r = m_rowOf.find(i); r != m_rowOf.end()) {
                now = m_out.walls[r->second];
                continue;
            }
            const TopoDS_Face old = TopoDS::Face(m_shape.faces(i));
            now = TopoDS::Face(old.EmptyCopied().Oriented(TopAbs_FORWARD));
            for (TopoDS_Iterator w(old.Oriented(TopAbs_FORWARD)); w.More(); w.Next())
                if (w.Value().ShapeType() == TopAbs_WIRE) m_build.Add(now, wireOf(w.Value()));
            now.Orientation(old.Orientation());
        }
    }
    TopoDS_Shape wireOf(const TopoDS_Shape& old) const {
        TopoDS_Wire out;
        m_build.MakeWire(out);
        TopTools_IndexedMapOfShape added;
        for (TopoDS_Iterator e(old.Oriented(TopAbs_FORWARD)); e.More(); e.Next()) {
            const Replaced* r = replaced(e.Value());
            const bool reversed = (e.Value().Orientation() == TopAbs_REVERSED) != (r && r->reversed);
            const TopoDS_Shape edge =
                (r ? TopoDS_Shape(r->now) : e.Value()).Oriented(reversed ? TopAbs_REVERSED : TopAbs_FORWARD);
            if (r && added.Contains(edge)) continue;
            if (r) added.Add(edge);
            m_build.Add(out, edge);
        }
        out.Closed(true);
        return out.Oriented(old.Orientation());
    }

    bool finish() {
        TopoDS_Solid solid;
        m_build.MakeSolid(solid);
        TopTools_IndexedMapOfShape added;
        for (TopoDS_Iterator s(m_shape.shape.Oriented(TopAbs_FORWARD)); s.More(); s.Next()) {
            if (s.Value().ShapeType() != TopAbs_SHELL) return false;
            TopoDS_Shell shell;
            m_build.MakeShell(shell);
            for (TopoDS_Iterator f(s.Value()); f.More(); f.Next()) {
                const int i = m_shape.faces.FindIndex(f.Value());
                if (i == 0) return false;
                const TopoDS_Face& now = m_faces[static_cast<std::size_t>(i) - 1];
                if (added.Contains(now)) continue;
                added.Add(now);
                m_build.Add(shell, now);
            }
            shell.Closed(true);
            m_build.Add(solid, shell);
        }
        NameBuilder names(solid);
        names.inherit(m_shape);
        for (int i = 1; i <= m_shape.faces.Extent(); ++i)
            names.add(m_faces[static_cast<std::size_t>(i) - 1], m_shape.namesOf(m_shape.faces(i)));
        auto body = names.finish();
        if (!body) return false;
        m_out.body = std::move(*body);
        m_out.now = m_faces;
        return true;
    }

    static constexpr double kMostOff = 1e-4; // mm: what they were fitted to, and what the body was made by
    const NamedShape& m_shape;
    JoinedWalls& m_out;
    BRep_Builder m_build;
    std::vector<TopoDS_Face> m_faces;
    std::map<int, std::size_t> m_rowOf; ///< by the number of a face, from 1
    NCollection_DataMap<TopoDS_Shape, Replaced, TopTools_ShapeMapHasher> m_edges;
    TopoDS_Edge m_seam;
    TopoDS_Vertex m_ends[2]; ///< of the seam
    std::vector<TopoDS_Vertex> m_seamEnds;
};

} // namespace

NameList JoinedWalls::namesOver(const NamedShape& before, std::size_t wall, const TopoDS_Face& piece) const {
    const WallRow& row = rows.rows[wall];
    const BRepTopAdaptor_FClass2d within(piece, 1e-9);
    NameList out;
    const auto add = [&](const RowPiece& p) {
        for (const NamePtr n : before.namesOf(p.patch->face))
            if (std::find(out.begin(), out.end(), n) == out.end()) out.push_back(n);
    };
    for (std::size_t i = 0; i < row.pieces.size(); ++i)
        for (const double y : {0.1, 0.3, 0.5, 0.7, 0.9})
            if (within.Perform({(row.ends[i] + row.ends[i + 1]) / 2, y}) == TopAbs_IN) {
                add(row.pieces[i]);
                break;
            }
    if (!out.empty()) return out;
    double low = 0, high = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(piece, low, high, v0, v1);
    const auto next = std::upper_bound(row.ends.begin() + 1, row.ends.end() - 1, (low + high) / 2);
    add(row.pieces[static_cast<std::size_t>(next - row.ends.begin()) - 1]);
    return out;
}

std::optional<JoinedWalls> joinedWalls(const ShellPlan& plan, const TopTools_IndexedMapOfShape& tight) {
    auto rows = wallRows(plan, tight);
    if (!rows) return std::nullopt;
    JoinedWalls out;
    out.rows = std::move(*rows);
    return Joiner(plan, out).join() ? std::optional(std::move(out)) : std::nullopt;
}

} // namespace gc
