#include "core/steps/shared/rim_ring.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/places.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepOffsetAPI_MakeOffset.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Line.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

gp_Pln toPln(const Plane& p) {
    const Vec3 n = p.normal();
    return gp_Pln(gp_Ax3(gp_Pnt(p.origin.x, p.origin.y, p.origin.z), gp_Dir(n.x, n.y, n.z),
                         gp_Dir(p.across.x, p.across.y, p.across.z)));
}

/// The area that a closed wire encloses. mm²
double enclosed(const TopoDS_Wire& wire, const Plane& plane) {
    GProp_GProps props;
    BRepGProp::SurfaceProperties(BRepBuilderAPI_MakeFace(toPln(plane), wire, true).Face(), props);
    return std::fabs(props.Mass());
}

/// One closed wire beside another, and which of its edges came from which.
struct BesideWire {
    TopoDS_Wire wire;
    std::vector<std::pair<TopoDS_Edge, TopoDS_Edge>> edges; ///< of the line, of the border
};

/// The same line of new edges, each where it is: the kernel puts what is beside an edge that was moved there
/// at twice the way.
BesideWire ofItsOwn(const TopoDS_Wire& border) {
    BRepBuilderAPI_MakeWire wire;
    BesideWire out;
    TopoDS_Vertex first, last;
    int count = 0;
    for (BRepTools_WireExplorer x(border); x.More(); x.Next()) ++count;
    int at = 0;
    for (BRepTools_WireExplorer x(border); x.More(); x.Next(), ++at) {
        const TopoDS_Edge edge = TopoDS::Edge(x.Current());
        double from = 0, to = 0;
        const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
        const bool against = edge.Orientation() == TopAbs_REVERSED;
        if (at == 0) last = first = BRepBuilderAPI_MakeVertex(curve->Value(against ? to : from));
        const TopoDS_Vertex next =
            at + 1 == count ? first : BRepBuilderAPI_MakeVertex(curve->Value(against ? from : to)).Vertex();
        TopoDS_Edge own =
            BRepBuilderAPI_MakeEdge(curve, against ? next : last, against ? last : next, from, to);
        if (against) own.Reverse();
        last = next;
        wire.Add(own);
        out.edges.emplace_back(wire.Edge(), edge);
    }
    out.wire = wire.Wire();
    return out;
}

/// An edge as it is walked, in a plane, and what lies to its right there.
class WalkedEdge {
  public:
    WalkedEdge(const TopoDS_Edge& edge, const Plane& plane)
        : m_curve(edge), m_normal(directionIn(plane.normal())) {
        m_from = m_curve.FirstParameter(), m_to = m_curve.LastParameter();
        m_back = edge.Orientation() == TopAbs_REVERSED;
    }
    double from() const { return m_from; }
    double to() const { return m_to; }
    bool isBack() const { return m_back; }
    gp_Pnt beside(double t, double distance) const {
        gp_Pnt p;
        gp_Vec d;
        m_curve.D1(t, p, d);
        return p.Translated(d.Crossed(m_normal).Normalized() * (m_back ? -distance : distance));
    }
    /// Is it bent more closely than that?
    bool folds(double distance) const {
        constexpr int kLooks = 200;
        constexpr double kLeast = 0.02; // of its length there
        for (int i = 0; i <= kLooks; ++i) {
            gp_Pnt p;
            gp_Vec d, d2;
            m_curve.D2(m_from + (m_to - m_from) * i / kLooks, p, d, d2);
            const double speed = d.Magnitude();
            if (speed < kNoDirection) return true;
            const double bend = d.Crossed(d2).Dot(m_normal) / (speed * speed * speed); // to the left
            if (1 + bend * (m_back ? -distance : distance) < kLeast) return true;
        }
        return false;
    }
    /// The curve beside it, by the same parameter where it is fitted. Null where it cannot be.
    Handle(Geom_Curve) curveBeside(double distance) const {
        const gp_Vec aside(m_curve.Value(m_from), beside(m_from, distance));
        if (m_curve.GetType() == GeomAbs_Line) return new Geom_Line(m_curve.Line().Translated(aside));
        if (m_curve.GetType() == GeomAbs_Circle) {
            gp_Circ c = m_curve.Circle();
            c.SetRadius(c.Location().Distance(beside(m_from, distance)));
            return new Geom_Circle(c);
        }
        const auto at = [&](double t) { return std::vector{beside(t, distance)}; };
        const auto direction = directionFor({m_from, m_to}, at, kSurfaceFit);
        return direction ? Handle(Geom_Curve)(curvesThrough(*direction, at).front()) : Handle(Geom_Curve)();
    }

  private:
    BRepAdaptor_Curve m_curve;
    gp_Vec m_normal;
    double m_from = 0, m_to = 0;
    bool m_back = false;
};

/// Of a line without corners, edge by edge: what the kernel cannot do where one is a free curve. To the right
/// of the walk.
std::optional<BesideWire> besideSmooth(const BesideWire& own, const Plane& plane, double distance) {
    constexpr double kJoined = 1e-4; // mm
    const BRep_Builder builder;
    struct Moved {
        Handle(Geom_Curve) curve;
        double from, to;
        bool back;
        gp_Pnt begin() const { return curve->Value(back ? to : from); }
        gp_Pnt end() const { return curve->Value(back ? from : to); }
    };
    std::vector<Moved> all;
    for (const auto& [edge, of] : own.edges) {
        const WalkedEdge walked(edge, plane);
        if (walked.folds(distance)) return std::nullopt;
        const Handle(Geom_Curve) curve = walked.curveBeside(distance);
        if (curve.IsNull()) return std::nullopt;
        all.push_back({curve, walked.from(), walked.to(), walked.isBack()});
    }
    std::vector<TopoDS_Vertex> corners;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const gp_Pnt a = all[(i + all.size() - 1) % all.size()].end(), b = all[i].begin();
        if (a.Distance(b) > kJoined) return std::nullopt;
        builder.MakeVertex(corners.emplace_back(), b, std::max(kKernelPoint, 1.5 * a.Distance(b)));
    }
    BesideWire out;
    builder.MakeWire(out.wire);
    for (std::size_t i = 0; i < all.size(); ++i) {
        const TopoDS_Vertex &a = corners[i], &b = corners[(i + 1) % all.size()];
        TopoDS_Edge e = edgeBetween(all[i].curve, all[i].from, all[i].to, all[i].back ? b : a,
                                    all[i].back ? a : b, kSurfaceFit);
        if (all[i].back) e.Reverse();
        builder.Add(out.wire, e);
        out.edges.emplace_back(e, own.edges[i].second);
    }
    out.wire.Closed(true);
    return out;
}

bool isPlain(const TopoDS_Edge& edge) {
    const GeomAbs_CurveType type = BRepAdaptor_Curve(edge).GetType();
    return type == GeomAbs_Line || type == GeomAbs_Circle;
}

std::optional<BesideWire> besideBy(const TopoDS_Wire& border, const Plane& plane, double distance,
                                   GeomAbs_JoinType join) {
    const BesideWire own = ofItsOwn(border);
    if (distance == 0) return own;
    if (!std::all_of(own.edges.begin(), own.edges.end(), [](const auto& e) { return isPlain(e.first); }))
        if (auto smooth = besideSmooth(own, plane, distance)) return smooth;
    try {
        BRepOffsetAPI_MakeOffset offset(BRepBuilderAPI_MakeFace(toPln(plane), own.wire, true).Face(), join);
        offset.Perform(distance);
        if (!offset.IsDone() || offset.Shape().IsNull()) return std::nullopt;
        int wires = 0;
        TopoDS_Wire line;
        for (TopExp_Explorer x(offset.Shape(), TopAbs_WIRE); x.More(); x.Next(), ++wires)
            line = TopoDS::Wire(x.Current());
        if (wires != 1 || !BRep_Tool::IsClosed(line)) return std::nullopt;
        BesideWire out = ofItsOwn(line);
        // From the new edges by way of the line's own to those of the border; what joins them has none.
        std::vector<std::pair<TopoDS_Edge, TopoDS_Edge>> from;
        for (const auto& [edge, of] : out.edges)
            for (const auto& [before, ofBorder] : own.edges)
                for (const TopoDS_Shape& made : toVector(offset.Generated(before)))
                    if (made.IsSame(of)) from.emplace_back(edge, ofBorder);
        out.edges = std::move(from);
        return out;
    } catch (const Standard_Failure&) {
        return std::nullopt;
    }
}

/// Grown or shrunk by a distance; the kernel's sign is by the sense of the wire.
std::optional<BesideWire> besideOf(const TopoDS_Wire& border, const Plane& plane, double distance) {
    const double area = enclosed(border, plane);
    for (const GeomAbs_JoinType join : {GeomAbs_Intersection, GeomAbs_Arc})
        for (const double sign : {1.0, -1.0}) {
            const auto made = besideBy(border, plane, sign * distance, join);
            if (!made) continue;
            const double now = enclosed(made->wire, plane);
            if (distance == 0 || (now > area) == (distance > 0)) return made;
        }
    return std::nullopt;
}

NamePtr wallBeside(const Body& body, const TopoDS_Face& rim, const TopoDS_Edge& edge) {
    for (const TopoDS_Shape& f : facesBeside(body.shape(), edge))
        if (!f.IsSame(rim) && !body.shape().namesOf(f).empty()) return body.shape().namesOf(f).front();
    return body.shape().namesOf(rim).front();
}

/// What lies between the two lines.
struct Ring {
    TopoDS_Face face;
    BesideWire near, far;
};
Result<Ring> ringBeside(const Rim& rim, const TopoDS_Wire& border, const RingWish& wish) {
    const double sign = wish.outward ? 1 : -1;
    const auto near = besideOf(border, rim.plane, sign * wish.from),
               far = besideOf(border, rim.plane, sign * wish.to);
    if (!near || !far)
        return errorOf("ring.fold",
                       "Beside the rim's border no such line can be drawn: it would run into itself. "
                       "Make it narrower.");
    const double nearArea = enclosed(near->wire, rim.plane), farArea = enclosed(far->wire, rim.plane);
    const BRepBuilderAPI_MakeFace outside(toPln(rim.plane), nearArea > farArea ? near->wire : far->wire,
                                          true);
    TopoDS_Wire hole = nearArea > farArea ? far->wire : near->wire;
    // The wires may run either way round: a face wants them against each other.
    for (int k = 0; k < 2; ++k, hole.Reverse()) {
        BRepBuilderAPI_MakeFace both(outside.Face(), hole);
        if (!both.IsDone() || !BRepCheck_Analyzer(both.Face()).IsValid()) continue;
        GProp_GProps props;
        BRepGProp::SurfaceProperties(both.Face(), props);
        const double least = 1e-6 * (1 + std::max(nearArea, farArea));
        if (std::fabs(props.Mass() - std::fabs(nearArea - farArea)) < least)
            return Ring{both.Face(), *near, *far};
    }
    return errorOf("ring.fold",
                   "Beside the rim's border no such line can be drawn: it would run into the rim's "
                   "other border. Make it narrower.");
}

/// A solid and what its faces are called.
struct NamedRing {
    TopoDS_Shape solid;
    std::vector<std::pair<TopoDS_Shape, NamePtr>> names;
    std::vector<TopoDS_Face> sides; ///< over the far line
};

/// The same with its sides leaning; nothing where they cannot.
std::optional<NamedRing> leant(const NamedRing& ring, const TopoDS_Face& foot, const RingWish& wish) {
    try {
        BRepOffsetAPI_DraftAngle draft(ring.solid);
        const gp_Pln neutral = BRepAdaptor_Surface(foot).Plane();
        for (const TopoDS_Face& f : ring.sides) {
            draft.Add(f, gp_Dir(wish.way.x, wish.way.y, wish.way.z), wish.lean, neutral);
            if (!draft.AddDone()) return std::nullopt;
        }
        draft.Build();
        if (!draft.IsDone() || !BRepCheck_Analyzer(draft.Shape()).IsValid()) return std::nullopt;
        NamedRing out{draft.Shape(), {}, {}};
        for (const auto& [f, n] : ring.names) {
            auto images = toVector(draft.Modified(f));
            if (images.empty()) images = toVector(draft.Generated(f));
            if (images.empty()) images.push_back(f);
            for (const TopoDS_Shape& image : images) out.names.emplace_back(image, n);
        }
        return out;
    } catch (const Standard_Failure&) { // a side of free form
        return std::nullopt;
    }
}

} // namespace

Result<Rim> rimOf(const FoundItems& picked) {
    if (picked.items.size() != 1)
        return errorOf("rim.one", "The rim that was picked is several faces. Pick one of them.");
    const auto plane = planeOfFace(picked.body, picked.items.front());
    if (!plane) return errorOf("rim.flat", "The rim that was picked is not flat. Pick a flat one.");
    Rim out;
    out.face = TopoDS::Face(picked.body.shape().faces(picked.items.front() + 1));
    out.plane = *plane;
    out.outer = BRepTools::OuterWire(out.face);
    for (TopExp_Explorer x(out.face, TopAbs_WIRE); x.More(); x.Next())
        if (!x.Current().IsSame(out.outer)) out.inner.push_back(TopoDS::Wire(x.Current()));
    return out;
}

RingTool::RingTool(const FoundItems& picked, const Rim& rim, int step, std::string kind)
    : m_picked(picked), m_rim(rim), m_kind(std::move(kind)), m_made(step, rim.plane) {}

Result<Done> RingTool::add(const TopoDS_Wire& border, const RingWish& wish) {
    const auto ring = ringBeside(m_rim, border, wish);
    if (!ring) return ring.error();
    BRepPrimAPI_MakePrism prism(ring->face, gp_Vec(wish.way.x, wish.way.y, wish.way.z) * wish.height);
    const NamePtr rim = m_picked.body.shape().namesOf(m_rim.face).front();
    const auto called = [&](const char* role, NamePtr by) {
        return internName(m_made.tool.step, m_kind + role, {by});
    };
    NamedRing made{prism.Shape(), {}, {}};
    TopTools_IndexedMapOfShape named;
    const auto name = [&](const TopoDS_Shape& face, NamePtr n) {
        made.names.emplace_back(face, n);
        named.Add(face);
    };
    name(prism.FirstShape(), called(" foot", rim));
    name(prism.LastShape(), called(" top", rim));
    for (const bool far : {false, true})
        for (const auto& [edge, own] : (far ? ring->far : ring->near).edges)
            for (const TopoDS_Shape& f : toVector(prism.Generated(edge))) {
                name(f, called(far ? " side" : " wall", wallBeside(m_picked.body, m_rim.face, own)));
                if (far) made.sides.push_back(TopoDS::Face(f));
            }
    // Where its sides join by arcs there are faces over no edge of the border.
    TopTools_IndexedMapOfShape all;
    TopExp::MapShapes(prism.Shape(), TopAbs_FACE, all);
    for (int i = 1; i <= all.Extent(); ++i)
        if (!named.Contains(all(i))) made.names.emplace_back(all(i), called(" corner", rim));
    if (wish.lean > 0) {
        auto leaning = leant(made, ring->face, wish);
        m_leans &= leaning.has_value();
        if (leaning) made = std::move(*leaning);
    }
    BRep_Builder().Add(m_made.solids, made.solid);
    m_made.tool.names.insert(m_made.tool.names.end(), made.names.begin(), made.names.end());
    return Done{};
}

} // namespace gc
