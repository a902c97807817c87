#include "core/shape/places.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomLProp_SLProps.hxx>
#include <GeomLib_IsPlanarSurface.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>
#include <gp_Pln.hxx>

#include <algorithm>

namespace gc {

namespace {

gp_Pnt toPoint(Vec3 v) {
    return {v.x, v.y, v.z};
}
Vec3 directionOf(const gp_Dir& d) {
    return {d.X(), d.Y(), d.Z()};
}

Vec3 middleOf(const TopoDS_Edge& edge) {
    const BRepAdaptor_Curve curve(edge);
    const double from = curve.FirstParameter(), half = 0.5 * GCPnts_AbscissaPoint::Length(curve);
    const GCPnts_AbscissaPoint middle(curve, half, from);
    return toVec(curve.Value(middle.IsDone() ? middle.Parameter() : 0.5 * (from + curve.LastParameter())));
}

std::optional<Vec3> centreOf(const TopoDS_Edge& edge) {
    const BRepAdaptor_Curve curve(edge);
    if (curve.GetType() == GeomAbs_Circle) return toVec(curve.Circle().Location());
    if (curve.GetType() == GeomAbs_Ellipse) return toVec(curve.Ellipse().Location());
    return std::nullopt;
}

Error lostPoint(const PointRef& ref, const std::string& cause) {
    Error e = errorOf("reference.lost", phrase("There is no %1 any more: %2.", marked(toText(ref)), cause));
    e.culprits = {toText(ref)};
    return e;
}

Error severalPoints(const PointRef& ref, std::size_t count) {
    Error e =
        errorOf("reference.several", phrase("%1 points fit %2. Pick the one that is meant in the stand.",
                                            std::to_string(count), marked(toText(ref))));
    e.culprits = {toText(ref)};
    return e;
}

bool anyFits(const NamedShape& s, const std::vector<TopoDS_Shape>& faces, const FaceRef& ref) {
    return std::any_of(faces.begin(), faces.end(), [&](const TopoDS_Shape& f) { return s.fitsFace(ref, f); });
}

/// The faces about a corner, each once.
std::vector<TopoDS_Shape> facesAbout(const NamedShape& s, const TopoDS_Shape& vertex) {
    std::vector<TopoDS_Shape> out;
    for (const TopoDS_Shape& f : s.facesOfVertex.FindFromKey(vertex))
        if (std::none_of(out.begin(), out.end(), [&](const TopoDS_Shape& o) { return o.IsSame(f); }))
            out.push_back(f);
    return out;
}

Result<Vec3> resolveCorner(const NamedShape& s, const PointRef& ref) {
    std::vector<Vec3> found;
    for (int i = 1; i <= s.vertices.Extent(); ++i) {
        const auto about = facesAbout(s, s.vertices(i));
        if (about.size() < 3 || !anyFits(s, about, *ref.a) || !anyFits(s, about, *ref.b) ||
            !anyFits(s, about, *ref.c))
            continue;
        found.push_back(toVec(BRep_Tool::Pnt(TopoDS::Vertex(s.vertices(i)))));
    }
    if (found.empty()) return lostPoint(ref, "its three faces meet nowhere");
    if (found.size() > 1) return severalPoints(ref, found.size());
    return found.front();
}

Result<Vec3> resolveOnEdge(const Body& body, const PointRef& ref) {
    const auto edges = resolveEdges(body, *ref.edge);
    if (!edges) return edges.error();
    if (edges->items.size() > 1) return severalPoints(ref, edges->items.size());
    const TopoDS_Edge edge = TopoDS::Edge(body.shape().edges(edges->items.front() + 1));
    if (ref.kind == PointRef::Kind::Middle) return middleOf(edge);
    if (const auto c = centreOf(edge)) return *c;
    return lostPoint(ref, "the edge is not round here");
}

Result<Vec3> resolveSpot(const Body& body, const PointRef& ref) {
    const auto faces = resolveFaces(body, *ref.a);
    if (!faces) return faces.error();
    std::optional<SurfacePoint> best;
    for (const int f : faces->items)
        if (const auto p = nearestOnFace(body, f, ref.at);
            p && (!best || length(p->at - ref.at) < length(best->at - ref.at)))
            best = p;
    if (!best) return lostPoint(ref, "the face has no normal there");
    return best->at;
}

PointRef onEdge(PointRef::Kind kind, const std::string& edge) {
    PointRef ref;
    ref.kind = kind;
    if (const auto parsed = parseEdgeRef(edge)) ref.edge = std::make_shared<EdgeRef>(*parsed);
    return ref;
}

} // namespace

std::optional<Plane> planeOfFace(const Body& body, int face) {
    const NamedShape& s = body.shape();
    if (face < 0 || face >= s.faces.Extent()) return std::nullopt;
    const TopoDS_Face f = TopoDS::Face(s.faces(face + 1));
    const GeomLib_IsPlanarSurface flat(BRep_Tool::Surface(f), kFlat);
    if (!flat.IsPlanar()) return std::nullopt;
    // The plane may have been fitted either way round: the surface itself says which side is out.
    const BRepAdaptor_Surface surface(f);
    const double u = 0.5 * (surface.FirstUParameter() + surface.LastUParameter());
    const double v = 0.5 * (surface.FirstVParameter() + surface.LastVParameter());
    gp_Pnt p;
    gp_Vec du, dv;
    surface.D1(u, v, p, du, dv);
    gp_Vec n = du.Crossed(dv);
    if (f.Orientation() == TopAbs_REVERSED) n.Reverse();
    Vec3 normal = directionOf(flat.Plan().Axis().Direction());
    if (n.Dot(gp_Vec(normal.x, normal.y, normal.z)) < 0) normal = -normal;
    return planeFromSpace(toVec(flat.Plan().Location()), normal);
}

std::optional<SurfacePoint> nearestOnFace(const Body& body, int face, Vec3 place) {
    const NamedShape& s = body.shape();
    if (face < 0 || face >= s.faces.Extent()) return std::nullopt;
    const TopoDS_Face f = TopoDS::Face(s.faces(face + 1));
    // Within the face, not on its surface beyond it.
    const BRepExtrema_DistShapeShape nearest(BRepBuilderAPI_MakeVertex(toPoint(place)), f);
    if (!nearest.IsDone() || nearest.NbSolution() < 1) return std::nullopt;
    const gp_Pnt at = nearest.PointOnShape2(1);
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(f);
    GeomAPI_ProjectPointOnSurf foot(at, surface);
    if (foot.NbPoints() < 1) return std::nullopt;
    double u = 0, v = 0;
    foot.LowerDistanceParameters(u, v);
    GeomLProp_SLProps props(surface, u, v, 1, 1e-9);
    if (!props.IsNormalDefined()) return std::nullopt;
    const Vec3 n = directionOf(props.Normal());
    return SurfacePoint{toVec(at), f.Orientation() == TopAbs_REVERSED ? -n : n};
}

Result<Vec3> resolvePoint(const Body& body, const PointRef& ref) {
    switch (ref.kind) {
    case PointRef::Kind::Corner:
        return resolveCorner(body.shape(), ref);
    case PointRef::Kind::Middle:
    case PointRef::Kind::Centre:
        return resolveOnEdge(body, ref);
    case PointRef::Kind::Spot:
        return resolveSpot(body, ref);
    case PointRef::Kind::Drawn:
        break;
    }
    return errorOf("reference.drawn",
                   phrase("%1 is a point of a drawing, not of a body.", marked(toText(ref))));
}

std::vector<PlaceOnBody> placesOn(const Body& body) {
    const NamedShape& s = body.shape();
    std::vector<PlaceOnBody> out;
    for (int i = 1; i <= s.vertices.Extent(); ++i) {
        const auto about = facesAbout(s, s.vertices(i));
        if (about.size() < 3) continue;
        PointRef ref;
        FaceRefPtr* const slots[] = {&ref.a, &ref.b, &ref.c};
        for (std::size_t k = 0; k < 3; ++k) {
            if (s.namesOf(about[k]).empty()) break;
            *slots[k] = referenceTo(*s.namesOf(about[k]).front());
        }
        if (ref.a && ref.b && ref.c && resolveCorner(s, ref).ok())
            out.push_back({toVec(BRep_Tool::Pnt(TopoDS::Vertex(s.vertices(i)))), {toText(ref)}});
    }
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i));
        if (!s.isRealEdge(edge)) continue;
        const std::string own = ownReferenceOfEdge(body, i - 1);
        if (own.empty()) continue;
        out.push_back({middleOf(edge), {toText(onEdge(PointRef::Kind::Middle, own))}});
        if (const auto c = centreOf(edge)) out.push_back({*c, {toText(onEdge(PointRef::Kind::Centre, own))}});
    }
    return out;
}

std::optional<SurfacePoint> nearestOnFaces(const Body& body, const std::vector<int>& faces, Vec3 place) {
    std::optional<SurfacePoint> best;
    for (const int face : faces)
        if (const auto p = nearestOnFace(body, face, place);
            p && (!best || length(p->at - place) < length(best->at - place)))
            best = p;
    return best;
}

} // namespace gc
