// References onto a body: which faces and edges a sentence means, and which sentence means a picked item.

#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepClass_FaceExplorer.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <GeomLProp_SLProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Dir.hxx>

#include <algorithm>
#include <functional>
#include <numeric>
#include <set>

namespace gc {

namespace {

/// Counts groups of items that touch, by union of the numbers that share a key.
class Groups {
  public:
    explicit Groups(std::size_t count) : m_parent(count) { std::iota(m_parent.begin(), m_parent.end(), 0); }
    void join(std::size_t a, std::size_t b) { m_parent[root(a)] = root(b); }
    int count() {
        std::set<std::size_t> roots;
        for (std::size_t i = 0; i < m_parent.size(); ++i) roots.insert(root(i));
        return static_cast<int>(roots.size());
    }

  private:
    std::size_t root(std::size_t i) {
        while (m_parent[i] != i) i = m_parent[i] = m_parent[m_parent[i]];
        return i;
    }
    std::vector<std::size_t> m_parent;
};

/// Faces touch along edges; edges touch in vertices.
int countPieces(const std::vector<TopoDS_Shape>& items, TopAbs_ShapeEnum joint) {
    Groups groups(items.size());
    NCollection_DataMap<TopoDS_Shape, int, TopTools_ShapeMapHasher> seen;
    for (std::size_t i = 0; i < items.size(); ++i)
        for (TopExp_Explorer x(items[i], joint); x.More(); x.Next()) {
            if (const int* other = seen.Seek(x.Current()))
                groups.join(i, static_cast<std::size_t>(*other));
            else
                seen.Bind(x.Current(), static_cast<int>(i));
        }
    return groups.count();
}

std::vector<int> facesFitting(const NamedShape& s, const FaceRef& ref) {
    std::vector<int> out;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        if (s.fitsFace(ref, s.faces(i))) out.push_back(i - 1);
    }
    return out;
}

Error lost(const std::string& what, const std::string& cause) {
    Error e;
    e.code = "reference.lost";
    e.sentence = "There is no " + what + " any more" + (cause.empty() ? "" : ": " + cause) + ".";
    e.culprits = {what};
    return e;
}

/// The outward normal of a face at a point of one of its edges.
gp_Vec normalAt(const TopoDS_Face& face, const TopoDS_Edge& edge, double t) {
    double a = 0, b = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face, a, b);
    if (curve.IsNull()) return {};
    const gp_Pnt2d uv = curve->Value(t);
    GeomLProp_SLProps props(BRep_Tool::Surface(face), uv.X(), uv.Y(), 1, 1e-9);
    if (!props.IsNormalDefined()) return {};
    gp_Vec n(props.Normal());
    return face.Orientation() == TopAbs_REVERSED ? -n : n;
}

enum class Corner { Smooth, Outside, Inside };

/// Is the body convex or hollow across this edge? By the side on which the second face's normal lies.
Corner cornerOf(const NamedShape& s, const TopoDS_Edge& edge) {
    const auto around = toVector(s.facesOfEdge.FindFromKey(edge));
    if (around.size() != 2) return Corner::Smooth;
    const TopoDS_Face f = TopoDS::Face(around[0]), g = TopoDS::Face(around[1]);
    const BRepAdaptor_Curve curve(edge);
    const double t = 0.5 * (curve.FirstParameter() + curve.LastParameter());
    gp_Pnt p;
    gp_Vec tangent;
    curve.D1(t, p, tangent);
    const gp_Vec n1 = normalAt(f, edge, t), n2 = normalAt(g, edge, t);
    if (n1.Crossed(n2).Magnitude() < 0.02) return Corner::Smooth;
    // Along the edge as f runs it, f's material side is n1 x tangent; the edge is convex when g's normal
    // points away from it.
    for (TopExp_Explorer x(f.Oriented(TopAbs_FORWARD), TopAbs_EDGE); x.More(); x.Next())
        if (x.Current().IsSame(edge)) {
            const bool against =
                (x.Current().Orientation() == TopAbs_REVERSED) != (f.Orientation() == TopAbs_REVERSED);
            if (against) tangent.Reverse();
            break;
        }
    return n1.Crossed(tangent).Dot(n2) < 0 ? Corner::Outside : Corner::Inside;
}

std::vector<TopoDS_Shape> shapesOf(const TopTools_IndexedMapOfShape& map, const std::vector<int>& items) {
    std::vector<TopoDS_Shape> out;
    for (const int i : items) out.push_back(map(i + 1));
    return out;
}

Resolution resolved(std::vector<int> items, const TopTools_IndexedMapOfShape& map, TopAbs_ShapeEnum joint) {
    Resolution r;
    r.items = std::move(items);
    r.pieces = countPieces(shapesOf(map, r.items), joint);
    return r;
}

std::vector<int> edgesWhere(const NamedShape& s, const std::function<bool(const TopoDS_Edge&)>& wanted) {
    std::vector<int> out;
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge e = TopoDS::Edge(s.edges(i));
        if (s.isRealEdge(e) && wanted(e)) out.push_back(i - 1);
    }
    return out;
}

bool meets(const NamedShape& s, const TopoDS_Edge& e, const EdgeRef& ref) {
    const auto around = toVector(s.facesOfEdge.FindFromKey(e));
    if (around.size() != 2) return false;
    const bool pair = (s.fitsFace(*ref.a, around[0]) && s.fitsFace(*ref.b, around[1])) ||
                      (s.fitsFace(*ref.b, around[0]) && s.fitsFace(*ref.a, around[1]));
    if (!pair || !ref.at) return pair;
    TopoDS_Vertex ends[2];
    TopExp::Vertices(e, ends[0], ends[1]);
    for (const TopoDS_Vertex& v : ends)
        for (const TopoDS_Shape& f : s.facesOfVertex.FindFromKey(v))
            if (!f.IsSame(around[0]) && !f.IsSame(around[1]) && s.fitsFace(*ref.at, f)) return true;
    return false;
}

/// Edges around the faces: of each face's outer loop, or of all its loops.
std::vector<int> edgesAround(const NamedShape& s, const std::vector<int>& faces, bool outerOnly) {
    TopTools_IndexedMapOfShape wanted;
    for (const int f : faces) {
        const TopoDS_Face face = TopoDS::Face(s.faces(f + 1));
        const TopoDS_Shape from = outerOnly ? TopoDS_Shape(BRepTools::OuterWire(face)) : TopoDS_Shape(face);
        TopExp::MapShapes(from, TopAbs_EDGE, wanted);
    }
    return edgesWhere(s, [&](const TopoDS_Edge& e) { return wanted.Contains(e); });
}

/// The edges of a rim that a shell left: on both sides of the wall, but not of what was cut into it later.
std::vector<int> edgesOfRim(const NamedShape& s, const FaceRef& rim) {
    const auto faces = facesFitting(s, rim);
    auto edges = edgesAround(s, faces, false);
    int left = 0; // the step that left it
    for (const int f : faces)
        for (const NamePtr n : s.namesOf(s.faces(f + 1)))
            if (fits(rim, *n)) left = std::max(left, n->step);
    std::erase_if(edges, [&](int e) {
        const auto around = toVector(s.facesOfEdge.FindFromKey(s.edges(e + 1)));
        return std::any_of(around.begin(), around.end(), [&](const TopoDS_Shape& f) {
            const NameList& names = s.namesOf(f);
            return std::all_of(names.begin(), names.end(),
                               [&](NamePtr n) { return n->steps.front() > left; });
        });
    });
    return edges;
}

std::vector<int> edgesAroundRef(const NamedShape& s, const FaceRef& ref, bool outerOnly) {
    if (const auto faces = facesFitting(s, ref); !faces.empty()) return edgesAround(s, faces, outerOnly);
    FaceRef rim; // the face was opened by a shell: what is left of it is its rim
    rim.kind = FaceRef::Kind::Rim;
    rim.a = std::make_shared<FaceRef>(ref);
    return outerOnly ? edgesOfRim(s, rim) : edgesAround(s, facesFitting(s, rim), false);
}

int originOf(const NamedShape& s, const TopoDS_Shape& face) {
    const NameList& names = s.namesOf(face);
    return names.empty() ? 0 : names.front()->step;
}

std::vector<int> edgesOfSteps(const NamedShape& s, const EdgeRef& ref) {
    return edgesWhere(s, [&](const TopoDS_Edge& e) {
        const auto around = toVector(s.facesOfEdge.FindFromKey(e));
        if (around.size() != 2) return false;
        const int a = originOf(s, around[0]), b = originOf(s, around[1]);
        if (ref.kind == EdgeRef::Kind::Between)
            return (a == ref.step && b == ref.otherStep) || (b == ref.step && a == ref.otherStep);
        if (a != ref.step || b != ref.step) return false;
        const Corner corner = cornerOf(s, e);
        return ref.kind == EdgeRef::Kind::Corners          ? corner != Corner::Smooth
               : ref.kind == EdgeRef::Kind::OutsideCorners ? corner == Corner::Outside
                                                           : corner == Corner::Inside;
    });
}

std::string missingFace(const NamedShape& s, const FaceRefPtr& ref) {
    return ref && facesFitting(s, *ref).empty() ? toText(*ref) : std::string();
}

void offer(std::vector<std::string>& list, const std::string& text) {
    if (std::find(list.begin(), list.end(), text) == list.end()) list.push_back(text);
}

/// References for the primary name first, then for aliases.
std::vector<FaceRefPtr> referencesTo(const NamedShape& s, const TopoDS_Shape& face) {
    std::vector<FaceRefPtr> out;
    for (const NamePtr n : s.namesOf(face))
        if (auto ref = referenceTo(*n)) out.push_back(std::move(ref));
    return out;
}

} // namespace

Result<Resolution> resolveFaces(const Body& body, const FaceRef& ref) {
    const NamedShape& s = body.shape();
    auto items = facesFitting(s, ref);
    if (items.empty()) return lost(toText(ref), "");
    Resolution r = resolved(std::move(items), s.faces, TopAbs_EDGE);
    if (r.pieces > 1 && ref.kind != FaceRef::Kind::Copy)
        r.note = toText(ref) + " is " + std::to_string(r.pieces) + " pieces; all are used.";
    return r;
}

Result<Resolution> resolveEdges(const Body& body, const EdgeRef& ref) {
    const NamedShape& s = body.shape();
    std::vector<int> items;
    switch (ref.kind) {
    case EdgeRef::Kind::Meets:
        items = edgesWhere(s, [&](const TopoDS_Edge& e) { return meets(s, e, ref); });
        break;
    case EdgeRef::Kind::RimOf:
        items = edgesAroundRef(s, *ref.a, true);
        break;
    case EdgeRef::Kind::AllEdgesOf:
        items = edgesAroundRef(s, *ref.a, false);
        break;
    default:
        items = edgesOfSteps(s, ref);
        break;
    }
    if (items.empty()) {
        std::string missing = missingFace(s, ref.a);
        if (missing.empty()) missing = missingFace(s, ref.b);
        const bool pair = ref.kind == EdgeRef::Kind::Meets;
        std::string cause;
        if (!missing.empty())
            cause = "no face is \"" + missing + "\" here";
        else if (pair)
            cause = "the two faces no longer meet";
        return lost(pair ? "edge " + toText(ref) : toText(ref), cause);
    }
    return resolved(std::move(items), s.edges, TopAbs_VERTEX);
}

bool restsOnStep(const Body& body, int step) {
    const std::vector<int>& steps = body.shape().steps;
    return std::binary_search(steps.begin(), steps.end(), step);
}

int faceCount(const Body& body) {
    return body.empty() ? 0 : body.shape().faces.Extent();
}

std::size_t bytesOf(const Body& body) {
    return body.empty() ? 0 : body.shape().bytes;
}

std::vector<std::string> referencesForFace(const Body& body, int face) {
    const NamedShape& s = body.shape();
    std::vector<std::string> out;
    if (face < 0 || face >= s.faces.Extent()) return out;
    for (const FaceRefPtr& ref : referencesTo(s, s.faces(face + 1))) offer(out, toText(*ref));
    return out;
}

namespace {

/// The two faces beside an edge; nothing where there are not two.
std::optional<std::pair<TopoDS_Shape, TopoDS_Shape>> sidesOf(const NamedShape& s, const TopoDS_Edge& e) {
    const auto around = toVector(s.facesOfEdge.FindFromKey(e));
    if (around.size() != 2) return std::nullopt;
    return std::pair{around[0], around[1]};
}

EdgeRef meeting(const FaceRefPtr& a, const FaceRefPtr& b) {
    EdgeRef ref;
    ref.a = a;
    ref.b = b;
    return ref;
}

/// The names of the two faces that mean this edge and no other. Faces may have several names: of many like
/// holes "bore" means all, "copy 3 of bore" one.
std::optional<EdgeRef> pairOfItsOwn(const NamedShape& s, const TopoDS_Shape& f, const TopoDS_Shape& g) {
    for (const NamePtr a : s.namesOf(f))
        for (const NamePtr b : s.namesOf(g)) {
            if (s.edgesBetween(a, b).size() != 1) continue;
            const auto first = referenceTo(*a), second = referenceTo(*b);
            if (first && second) return meeting(first, second);
        }
    return std::nullopt;
}

/// Edges of one pair are told apart by a third face at one of their ends.
std::vector<EdgeRef> withThirdFace(const Body& body, const TopoDS_Edge& e, const EdgeRef& meet,
                                   const std::pair<TopoDS_Shape, TopoDS_Shape>& sides) {
    const NamedShape& s = body.shape();
    std::vector<EdgeRef> out;
    for (const TopoDS_Vertex& end : {TopExp::FirstVertex(e), TopExp::LastVertex(e)})
        for (const TopoDS_Shape& f : s.facesOfVertex.FindFromKey(end)) {
            if (f.IsSame(sides.first) || f.IsSame(sides.second)) continue;
            for (const FaceRefPtr& third : referencesTo(s, f)) {
                EdgeRef at = meet;
                at.at = third;
                const auto one = resolveEdges(body, at);
                if (one && one->pieces == 1) {
                    out.push_back(at);
                    break;
                }
            }
        }
    return out;
}

} // namespace

std::vector<std::string> referencesForEdge(const Body& body, int edge) {
    const NamedShape& s = body.shape();
    std::vector<std::string> out;
    if (edge < 0 || edge >= s.edges.Extent()) return out;
    const TopoDS_Edge e = TopoDS::Edge(s.edges(edge + 1));
    const auto sides = sidesOf(s, e);
    if (!sides) return out;
    const auto a = referencesTo(s, sides->first), b = referencesTo(s, sides->second);
    EdgeRef ref;
    // Rules first: the rim of the face that a shell opened takes in this edge and its partner.
    ref.kind = EdgeRef::Kind::RimOf;
    for (const auto* side : {&a, &b})
        for (const FaceRefPtr& f : *side)
            if (f->kind == FaceRef::Kind::Rim) {
                ref.a = f->a;
                offer(out, toText(ref));
            }
    if (!a.empty() && !b.empty()) {
        const EdgeRef meet = meeting(a.front(), b.front());
        const bool several =
            s.edgesBetween(s.namesOf(sides->first).front(), s.namesOf(sides->second).front()).size() > 1;
        if (several)
            for (const EdgeRef& at : withThirdFace(body, e, meet, *sides)) offer(out, toText(at));
        offer(out, toText(meet));
        if (several)
            if (const auto own = pairOfItsOwn(s, sides->first, sides->second)) offer(out, toText(*own));
    }
    for (const auto* side : {&a, &b})
        if (!side->empty() && side->front()->kind == FaceRef::Kind::Role) {
            ref.kind = EdgeRef::Kind::AllEdgesOf;
            ref.a = side->front();
            offer(out, toText(ref));
        }
    return out;
}

std::string ownReferenceOfEdge(const Body& body, int edge) {
    const NamedShape& s = body.shape();
    const TopoDS_Edge e = TopoDS::Edge(s.edges(edge + 1));
    const auto sides = sidesOf(s, e);
    if (!sides) return {};
    if (const auto own = pairOfItsOwn(s, sides->first, sides->second)) return toText(*own);
    const auto a = referencesTo(s, sides->first), b = referencesTo(s, sides->second);
    if (a.empty() || b.empty()) return {};
    for (const EdgeRef& at : withThirdFace(body, e, meeting(a.front(), b.front()), *sides)) {
        const auto all = resolveEdges(body, at);
        if (all && all->items.size() == 1) return toText(at);
    }
    return {};
}

} // namespace gc
