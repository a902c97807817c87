#include "core/steps/shared/ring_solid.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/beside_line.hpp"
#include "core/steps/shared/laid_line.hpp"
#include "core/steps/shared/laying.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Plane.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <cmath>

namespace gc {

namespace {

Error folds() {
    return errorOf("ring.fold",
                   "Beside the rim's border no such line can be drawn: it would run into itself. "
                   "Make it narrower.");
}

gp_Vec wayOf(const RingWish& wish) {
    return directionIn(wish.way) * wish.height;
}

TopoDS_Shape solidOf(const std::vector<RingSolid::Face>& faces) {
    const BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const auto& f : faces) builder.Add(shell, f.face);
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    return solid;
}

/// One that is built face by face: along free curves, whose parallels have the same parameter. The kernel's
/// prisms of them, and its drafts, take long or fail.
class RuledRing {
  public:
    RuledRing(const TopoDS_Wire& border, const Plane& plane, const RingWish& wish)
        : m_border(border), m_plane(plane), m_wish(wish), m_sign(wish.outward ? 1 : -1) {}

    std::optional<RingSolid> build() {
        const double in = m_wish.height * std::tan(m_wish.lean);
        m_beyond = m_wish.to - in > m_wish.from;
        if (!m_beyond) return std::nullopt;
        auto beside = ruledBeside(m_border, m_plane,
                                  {m_sign * m_wish.from, m_sign * m_wish.to, m_sign * (m_wish.to - in)});
        if (!beside) return std::nullopt;
        m_edges = std::move(*beside);
        const bool onBorder = m_wish.from == 0;
        m_near = onBorder ? bordersOwn() : lineAt(0, {});
        m_far = lineAt(1, {});
        m_farTop = lineAt(2, wayOf(m_wish));
        addWalls();
        for (std::size_t i = 0; i < m_edges.size(); ++i) addSide(i);
        const bool foot =
            directionIn(m_wish.way) * directionIn(m_plane.normal()) < 0; // looks along the normal
        addFlat(RingPart::Foot, m_near, wireOfLine(m_far), foot, {});
        addFlat(RingPart::Top, m_nearTop, wireOfLine(m_farTop), !foot, m_wish.way * m_wish.height);
        m_made.solid = solidOf(m_made.faces);
        if (onBorder) m_made.farLine = wireOfLine(m_far), m_made.farTop = wireOfLine(m_farTop);
        return std::move(m_made);
    }
    bool isTooNarrowToLean() const { return !m_beyond; }

  private:
    /// As the edges' own parameters run, not as they are walked.
    struct Line {
        std::vector<TopoDS_Edge> edges;
        std::vector<TopoDS_Vertex> corners; ///< where each is begun in the walk
    };

    TopoDS_Wire wireOfLine(const Line& line) const {
        std::vector<TopoDS_Edge> walked;
        for (std::size_t i = 0; i < m_edges.size(); ++i)
            walked.push_back(
                TopoDS::Edge(line.edges[i].Oriented(m_edges[i].back ? TopAbs_REVERSED : TopAbs_FORWARD)));
        return wireOf(walked, false);
    }
    Line bordersOwn() const {
        Line out;
        for (const BesideEdge& e : m_edges) out.edges.push_back(TopoDS::Edge(e.of.Oriented(TopAbs_FORWARD)));
        return out;
    }
    Line lineAt(std::size_t which, const gp_Vec& moved) const {
        const BRep_Builder builder;
        const std::size_t n = m_edges.size();
        std::vector<Handle(Geom_BSplineCurve)> curves;
        for (const BesideEdge& e : m_edges)
            curves.push_back(Handle(Geom_BSplineCurve)::DownCast(e.curves[which]->Translated(moved)));
        Line out;
        out.corners.resize(n);
        for (std::size_t i = 0; i < n; ++i) {
            const std::size_t before = (i + n - 1) % n;
            const gp_Pnt a = curves[before]->Value(m_edges[before].back ? m_edges[before].from
                                                                        : m_edges[before].to),
                         b = curves[i]->Value(m_edges[i].back ? m_edges[i].to : m_edges[i].from);
            builder.MakeVertex(out.corners[i], b, std::max(kKernelPoint, 1.5 * a.Distance(b)));
        }
        for (std::size_t i = 0; i < n; ++i) {
            const TopoDS_Vertex &a = out.corners[i], &b = out.corners[(i + 1) % n];
            const bool back = m_edges[i].back;
            out.edges.push_back(edgeBetween(curves[i], m_edges[i].from, m_edges[i].to, back ? b : a,
                                            back ? a : b, kKernelPoint));
        }
        return out;
    }

    /// Over the near line, square to the plane.
    void addWalls() {
        BRepPrimAPI_MakePrism prism(wireOfLine(m_near), wayOf(m_wish));
        for (std::size_t i = 0; i < m_edges.size(); ++i) {
            m_nearTop.edges.push_back(
                TopoDS::Edge(prism.LastShape(m_near.edges[i]).Oriented(TopAbs_FORWARD)));
            for (const TopoDS_Shape& f : toVector(prism.Generated(m_near.edges[i])))
                addFacing(TopoDS::Face(f), i, RingPart::Wall);
        }
    }
    /// Over the far line, leaning; ruled from edge to edge.
    void addSide(std::size_t i) {
        const BRep_Builder builder;
        const BesideEdge& e = m_edges[i];
        const Handle(Geom_BSplineCurve) low = e.curves[1];
        const Handle(Geom_BSplineCurve) high =
            Handle(Geom_BSplineCurve)::DownCast(e.curves[2]->Translated(wayOf(m_wish)));
        const double up = std::hypot(m_wish.height, m_wish.height * std::tan(m_wish.lean));
        TColgp_Array2OfPnt poles(1, low->NbPoles(), 1, 2);
        for (int k = 1; k <= low->NbPoles(); ++k) poles(k, 1) = low->Pole(k), poles(k, 2) = high->Pole(k);
        TColStd_Array1OfReal v(1, 2);
        v(1) = 0, v(2) = up;
        TColStd_Array1OfInteger ends(1, 2);
        ends.Init(2);
        TopoDS_Face face;
        builder.MakeFace(
            face,
            new Geom_BSplineSurface(poles, low->Knots(), v, low->Multiplicities(), ends, low->Degree(), 1),
            kKernelPoint);
        const auto along = [](double at) { return new Geom2d_Line(gp_Pnt2d(0, at), gp_Dir2d(1, 0)); };
        const auto upward = [](double at) { return new Geom2d_Line(gp_Pnt2d(at, 0), gp_Dir2d(0, 1)); };
        builder.UpdateEdge(m_far.edges[i], along(0), face, kKernelPoint);
        builder.UpdateEdge(m_farTop.edges[i], along(up), face, kKernelPoint);
        const std::size_t next = (i + 1) % m_edges.size();
        const TopoDS_Edge atFrom = upAt(e.back ? next : i, up), atTo = upAt(e.back ? i : next, up);
        if (atFrom.IsSame(atTo)) {
            builder.UpdateEdge(atTo, upward(e.to), upward(e.from), face, kKernelPoint);
        } else {
            builder.UpdateEdge(atFrom, upward(e.from), face, kKernelPoint);
            builder.UpdateEdge(atTo, upward(e.to), face, kKernelPoint);
        }
        builder.Add(face, wireOf({m_far.edges[i], atTo, TopoDS::Edge(m_farTop.edges[i].Reversed()),
                                  TopoDS::Edge(atFrom.Reversed())},
                                 false));
        addFacing(face, i, RingPart::Side);
    }
    TopoDS_Edge upAt(std::size_t corner, double length) {
        m_ups.resize(m_edges.size());
        TopoDS_Edge& e = m_ups[corner];
        if (!e.IsNull()) return e;
        TColgp_Array1OfPnt poles(1, 2);
        poles(1) = BRep_Tool::Pnt(m_far.corners[corner]), poles(2) = BRep_Tool::Pnt(m_farTop.corners[corner]);
        TColStd_Array1OfReal knots(1, 2);
        knots(1) = 0, knots(2) = length;
        TColStd_Array1OfInteger ends(1, 2);
        ends.Init(2);
        e = edgeBetween(new Geom_BSplineCurve(poles, knots, ends, 1), 0, length, m_far.corners[corner],
                        m_farTop.corners[corner], kKernelPoint + BRep_Tool::Tolerance(m_far.corners[corner]));
        return e;
    }

    /// A wall looks away from the far line, a side away from the near one.
    void addFacing(const TopoDS_Face& made, std::size_t i, RingPart part) {
        const TopoDS_Face face = TopoDS::Face(made.Oriented(TopAbs_FORWARD));
        const BesideEdge& e = m_edges[i];
        const double t = 0.5 * (e.from + e.to);
        double a = 0, b = 0;
        const Handle(Geom2d_Curve) low =
            BRep_Tool::CurveOnSurface(part == RingPart::Wall ? m_near.edges[i] : m_far.edges[i], face, a, b);
        const SurfacePlace p = placeOf(*BRep_Tool::Surface(face), low->Value(t));
        const gp_Vec out(e.curves[0]->Value(t), e.curves[1]->Value(t));
        const bool away = p.du.Crossed(p.dv) * out > 0;
        m_made.faces.push_back(
            {face.Oriented(away == (part == RingPart::Side) ? TopAbs_FORWARD : TopAbs_REVERSED), part, e.of});
    }
    void addFlat(RingPart part, const Line& near, const TopoDS_Wire& far, bool alongNormal, Vec3 moved) {
        Plane plane = m_plane;
        plane.origin = plane.origin + moved;
        const TopoDS_Wire line = wireOfLine(near);
        const TopoDS_Face face = m_wish.outward ? flatFace(plane, far, {line}) : flatFace(plane, line, {far});
        m_made.faces.push_back({face.Oriented(alongNormal ? TopAbs_FORWARD : TopAbs_REVERSED), part, {}});
    }

    TopoDS_Wire m_border;
    Plane m_plane;
    RingWish m_wish;
    double m_sign = 1;
    bool m_beyond = true;
    std::vector<BesideEdge> m_edges;
    Line m_near, m_nearTop, m_far, m_farTop;
    std::vector<TopoDS_Edge> m_ups;
    RingSolid m_made;
};

/// The same with its sides leaning; nothing where they cannot.
std::optional<RingSolid> leant(const RingSolid& ring, const TopoDS_Face& foot, const RingWish& wish) {
    try {
        BRepOffsetAPI_DraftAngle draft(ring.solid);
        const gp_Pln neutral = BRepAdaptor_Surface(foot).Plane();
        for (const auto& f : ring.faces) {
            if (f.part != RingPart::Side) continue;
            draft.Add(TopoDS::Face(f.face), gp_Dir(wish.way.x, wish.way.y, wish.way.z), wish.lean, neutral);
            if (!draft.AddDone()) return std::nullopt;
        }
        draft.Build();
        if (!draft.IsDone() || !BRepCheck_Analyzer(draft.Shape()).IsValid()) return std::nullopt;
        RingSolid out;
        out.solid = draft.Shape();
        for (const auto& f : ring.faces) {
            auto images = toVector(draft.Modified(f.face));
            if (images.empty()) images = toVector(draft.Generated(f.face));
            if (images.empty()) images.push_back(f.face);
            for (const TopoDS_Shape& image : images) out.faces.push_back({image, f.part, f.along});
        }
        return out;
    } catch (const Standard_Failure&) { // a side of free form
        return std::nullopt;
    }
}

/// By the kernel's parallels, prisms and drafts: along straight lines and circles, and around corners.
Result<RingSolid> movedRing(const TopoDS_Wire& border, const Plane& plane, const RingWish& wish) {
    const double sign = wish.outward ? 1 : -1;
    const auto near = besideOf(border, plane, sign * wish.from),
               far = besideOf(border, plane, sign * wish.to);
    if (!near || !far) return folds();
    const TopoDS_Face foot =
        wish.outward ? flatFace(plane, far->wire, {near->wire}) : flatFace(plane, near->wire, {far->wire});
    if (!BRepCheck_Analyzer(foot).IsValid()) return folds();
    BRepPrimAPI_MakePrism prism(foot, wayOf(wish));
    RingSolid made;
    made.solid = prism.Shape();
    TopTools_IndexedMapOfShape known;
    const auto add = [&](const TopoDS_Shape& face, RingPart part, const TopoDS_Edge& along) {
        made.faces.push_back({face, part, along});
        known.Add(face);
    };
    add(prism.FirstShape(), RingPart::Foot, {});
    add(prism.LastShape(), RingPart::Top, {});
    for (const bool isFar : {false, true})
        for (const auto& [edge, of] : (isFar ? *far : *near).edges)
            for (const TopoDS_Shape& f : toVector(prism.Generated(edge)))
                add(f, isFar ? RingPart::Side : RingPart::Wall, of);
    // Where its sides join by arcs there are faces over no edge of the border.
    TopTools_IndexedMapOfShape all;
    TopExp::MapShapes(prism.Shape(), TopAbs_FACE, all);
    for (int i = 1; i <= all.Extent(); ++i)
        if (!known.Contains(all(i))) made.faces.push_back({all(i), RingPart::Corner, {}});
    if (wish.lean <= 0) return made;
    if (auto leaning = leant(made, foot, wish)) return *leaning;
    made.leans = false;
    return made;
}

} // namespace

TopoDS_Face flatFace(const Plane& plane, const TopoDS_Wire& outer, const std::vector<TopoDS_Wire>& within) {
    const BRep_Builder builder;
    TopoDS_Face face;
    builder.MakeFace(face, new Geom_Plane(plnOf(plane)), kKernelPoint);
    const auto add = [&](const TopoDS_Wire& wire, bool leftOfIt) {
        builder.Add(face, (areaWithin(wire, plane) > 0) == leftOfIt ? TopoDS_Shape(wire) : wire.Reversed());
    };
    add(outer, true);
    for (const TopoDS_Wire& w : within) add(w, false);
    return face;
}

Result<RingSolid> ringSolid(const TopoDS_Wire& border, const Plane& plane, const RingWish& wish) {
    if (!isPlain(border)) {
        RuledRing ruled(border, plane, wish);
        if (auto made = ruled.build()) return *made;
    }
    return movedRing(border, plane, wish);
}

} // namespace gc
