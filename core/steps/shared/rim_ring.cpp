#include "core/steps/shared/rim_ring.hpp"

#include "core/shape/places.hpp"
#include "core/steps/shared/edge_work.hpp"

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
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Pln.hxx>

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

std::optional<BesideWire> besideBy(const TopoDS_Wire& border, const Plane& plane, double distance,
                                   GeomAbs_JoinType join) {
    const BesideWire own = ofItsOwn(border);
    if (distance == 0) return own;
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

} // namespace

Result<Rim> rimOf(const Body& body, int face) {
    const auto plane = planeOfFace(body, face);
    if (!plane) return errorOf("rim.flat", "The rim that was picked is not flat. Pick a flat one.");
    Rim out;
    out.face = TopoDS::Face(body.shape().faces(face + 1));
    out.plane = *plane;
    out.outer = BRepTools::OuterWire(out.face);
    for (TopExp_Explorer x(out.face, TopAbs_WIRE); x.More(); x.Next())
        if (!x.Current().IsSame(out.outer)) out.inner.push_back(TopoDS::Wire(x.Current()));
    return out;
}

Result<Ring> ringBeside(const Body& body, const Rim& rim, const TopoDS_Wire& border, double from, double to,
                        bool outward) {
    const double sign = outward ? 1 : -1;
    const auto near = besideOf(border, rim.plane, sign * from), far = besideOf(border, rim.plane, sign * to);
    if (!near || !far)
        return errorOf("ring.fold",
                       "Beside the rim's border no such line can be drawn: it would run into itself. "
                       "Make it narrower.");
    const bool nearIsOuter = enclosed(near->wire, rim.plane) > enclosed(far->wire, rim.plane);
    const TopoDS_Wire& outer = nearIsOuter ? near->wire : far->wire;
    TopoDS_Wire hole = nearIsOuter ? far->wire : near->wire;
    // The wires may run either way round: a face wants them against each other.
    BRepBuilderAPI_MakeFace face(toPln(rim.plane), outer, true);
    const auto holds = [&](const TopoDS_Shape& f) {
        GProp_GProps props;
        BRepGProp::SurfaceProperties(f, props);
        return std::fabs(props.Mass() - (enclosed(outer, rim.plane) - enclosed(hole, rim.plane))) <
               1e-6 * (1 + enclosed(outer, rim.plane));
    };
    for (int k = 0; k < 2; ++k, hole.Reverse()) {
        BRepBuilderAPI_MakeFace both(face.Face(), hole);
        if (!both.IsDone() || !holds(both.Face()) || !BRepCheck_Analyzer(both.Face()).IsValid()) continue;
        Ring ring;
        ring.face = both.Face();
        for (const auto& [edge, own] : near->edges)
            ring.along.emplace_back(edge, wallBeside(body, rim.face, own));
        for (const auto& [edge, own] : far->edges)
            ring.beside.emplace_back(edge, wallBeside(body, rim.face, own));
        return ring;
    }
    return errorOf("ring.fold",
                   "Beside the rim's border no such line can be drawn: it would run into the rim's "
                   "other border. Make it narrower.");
}

bool addRaised(const Ring& ring, const Vec3& way, double height, double lean, int step,
               const std::string& kind, NamePtr rim, TopoDS_Compound& solids, NamedTool& tool) {
    BRepPrimAPI_MakePrism prism(ring.face, gp_Vec(way.x, way.y, way.z) * height);
    std::vector<std::pair<TopoDS_Shape, NamePtr>> names;
    names.emplace_back(prism.FirstShape(), internName(step, kind + " foot", {rim}));
    names.emplace_back(prism.LastShape(), internName(step, kind + " top", {rim}));
    std::vector<TopoDS_Face> leaning;
    for (const auto& [edge, wall] : ring.along)
        for (const TopoDS_Shape& f : toVector(prism.Generated(edge)))
            names.emplace_back(f, internName(step, kind + " wall", {wall}));
    for (const auto& [edge, wall] : ring.beside)
        for (const TopoDS_Shape& f : toVector(prism.Generated(edge))) {
            names.emplace_back(f, internName(step, kind + " side", {wall}));
            leaning.push_back(TopoDS::Face(f));
        }
    // Where its sides join by arcs there are faces over no edge of the border.
    TopTools_IndexedMapOfShape named, all;
    for (const auto& [f, n] : names) named.Add(f);
    TopExp::MapShapes(prism.Shape(), TopAbs_FACE, all);
    for (int i = 1; i <= all.Extent(); ++i)
        if (!named.Contains(all(i))) names.emplace_back(all(i), internName(step, kind + " corner", {rim}));
    TopoDS_Shape solid = prism.Shape();
    bool leans = lean == 0;
    if (lean > 0) {
        try {
            BRepOffsetAPI_DraftAngle draft(solid);
            const BRepAdaptor_Surface flat(ring.face);
            for (const TopoDS_Face& f : leaning) {
                draft.Add(f, gp_Dir(way.x, way.y, way.z), lean, flat.Plane());
                if (!draft.AddDone()) break;
            }
            if (draft.AddDone()) draft.Build();
            if (draft.AddDone() && draft.IsDone() && BRepCheck_Analyzer(draft.Shape()).IsValid()) {
                std::vector<std::pair<TopoDS_Shape, NamePtr>> now;
                for (const auto& [f, n] : names) {
                    auto images = toVector(draft.Modified(f));
                    if (images.empty()) images = toVector(draft.Generated(f));
                    if (images.empty()) images.push_back(f);
                    for (const TopoDS_Shape& image : images) now.emplace_back(image, n);
                }
                names = std::move(now);
                solid = draft.Shape();
                leans = true;
            }
        } catch (const Standard_Failure&) { // a side of free form: it stays straight
        }
    }
    BRep_Builder().Add(solids, solid);
    tool.names.insert(tool.names.end(), names.begin(), names.end());
    return leans;
}

} // namespace gc
