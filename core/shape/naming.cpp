#include "core/names/derived_role.hpp"
#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepGProp.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <set>

namespace gc {

const NameList& NamedShape::namesOf(const TopoDS_Shape& face) const {
    static const NameList none;
    const NameList* found = names.Seek(face);
    return found ? *found : none;
}

std::string NamedShape::wordsFor(const TopoDS_Shape& face) const {
    const NameList& list = namesOf(face);
    const auto ref = list.empty() ? nullptr : referenceTo(*list.front());
    return ref ? toText(*ref) : std::string();
}

namespace {

bool saysNeighbour(const FaceRefPtr& ref) {
    return ref && (ref->kind == FaceRef::Kind::NextTo || ref->kind == FaceRef::Kind::Ordered ||
                   saysNeighbour(ref->a) || saysNeighbour(ref->b) || saysNeighbour(ref->c));
}

FaceRef ofSame(const FaceRef& like, FaceRefPtr from) {
    FaceRef ref = like;
    ref.a = std::move(from);
    return ref;
}

/// Wherever the reference says "next to", is that neighbour there? A face that was derived from one beside
/// another (its inside, its rim, a copy) stands beside what was derived from that other, or beside that other
/// itself.
bool hasNeighbours(const NamedShape& s, const FaceRef& ref, const TopoDS_Shape& face) {
    switch (ref.kind) {
    case FaceRef::Kind::Role:
        return true;
    case FaceRef::Kind::NextTo:
        return hasNeighbours(s, *ref.a, face) && s.touchesFace(face, *ref.b);
    case FaceRef::Kind::Ordered:
        return hasNeighbours(s, *ref.a, face) && s.isInPlace(ref, face);
    case FaceRef::Kind::Derived:
        if (ref.b) {
            // The parents still stand beside a blend: it is the one whose parent has that neighbour.
            for (const FaceRefPtr& side : {ref.a, ref.b, ref.c})
                if (saysNeighbour(side) && !s.touchesFace(face, *side)) return false;
            return true;
        }
        [[fallthrough]];
    case FaceRef::Kind::Copy:
        if (ref.a->kind == FaceRef::Kind::NextTo)
            return hasNeighbours(s, ofSame(ref, ref.a->a), face) &&
                   (s.touchesFace(face, ofSame(ref, ref.a->b)) || s.touchesFace(face, *ref.a->b));
        return hasNeighbours(s, *ref.a, face);
    }
    return true;
}

} // namespace

bool NamedShape::fitsFace(const FaceRef& ref, const TopoDS_Shape& face) const {
    const NameList& list = namesOf(face);
    return std::any_of(list.begin(), list.end(), [&](NamePtr n) { return fits(ref, *n); }) &&
           hasNeighbours(*this, ref, face);
}

namespace {

/// A blend stands for the faces between which it lies: what was beside one of them still is.
bool blendsInto(const NamedShape& s, const TopoDS_Shape& blend, const FaceRef& other) {
    const NameList& list = s.namesOf(blend);
    return std::any_of(list.begin(), list.end(), [&](NamePtr n) {
        const DerivedRole* derived = findDerivedRole(n->role);
        return derived && derived->blend &&
               std::any_of(n->parents.begin(), n->parents.end(), [&](NamePtr p) { return fits(other, *p); });
    });
}

} // namespace

bool NamedShape::touchesFace(const TopoDS_Shape& face, const FaceRef& other) const {
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
        for (const TopoDS_Shape& near : facesOfEdge.FindFromKey(x.Current()))
            if (!near.IsSame(face) && (fitsFace(other, near) || blendsInto(*this, near, other))) return true;
    return false;
}

const std::vector<int>& NamedShape::edgesBetween(NamePtr a, NamePtr b) const {
    std::call_once(indexed, [this] {
        for (int i = 1; i <= edges.Extent(); ++i) {
            const TopoDS_Edge edge = TopoDS::Edge(edges(i));
            if (!isRealEdge(edge)) continue;
            const auto& around = facesOfEdge.FindFromKey(edge);
            if (around.Extent() != 2) continue;
            for (const NamePtr f : namesOf(around.First()))
                for (const NamePtr g : namesOf(around.Last())) {
                    auto& list = edgeIndex[std::minmax(f, g)];
                    if (list.empty() || list.back() != i - 1) list.push_back(i - 1);
                }
        }
    });
    static const std::vector<int> none;
    const auto it = edgeIndex.find(std::minmax(a, b));
    return it == edgeIndex.end() ? none : it->second;
}

bool NamedShape::isRealEdge(const TopoDS_Edge& edge) const {
    if (BRep_Tool::Degenerated(edge)) return false;
    const auto* around = facesOfEdge.Seek(edge);
    if (!around || around->IsEmpty()) return false;
    return !(around->Extent() == 1 && BRep_Tool::IsClosed(edge, TopoDS::Face(around->First()))) &&
           !(around->Extent() == 2 && around->First().IsSame(around->Last()));
}

std::vector<TopoDS_Shape> toVector(const TopTools_ListOfShape& list) {
    return {list.begin(), list.end()};
}

TopoDS_Shape onlySolid(const TopoDS_Shape& shape) {
    TopoDS_Shape found;
    int count = 0;
    for (TopExp_Explorer x(shape, TopAbs_SOLID); x.More(); x.Next(), ++count) found = x.Current();
    return count == 1 ? found : shape;
}

namespace {

/// What a face with its edges costs, and what each pole of its surface adds, in bytes: a rough estimate, for
/// the cache needs no more.
constexpr std::size_t kPerFace = 6000, kPerEdge = 2500, kPerPole = 40;

std::size_t estimatedBytes(const NamedShape& s) {
    std::size_t bytes = static_cast<std::size_t>(s.faces.Extent()) * kPerFace +
                        static_cast<std::size_t>(s.edges.Extent()) * kPerEdge;
    for (int i = 1; i <= s.faces.Extent(); ++i) {
        const Handle(Geom_BSplineSurface) spline =
            Handle(Geom_BSplineSurface)::DownCast(BRep_Tool::Surface(TopoDS::Face(s.faces(i))));
        if (!spline.IsNull())
            bytes += static_cast<std::size_t>(spline->NbUPoles()) *
                     static_cast<std::size_t>(spline->NbVPoles()) * kPerPole;
    }
    return bytes;
}

/// The middle of a flat face, weighted by area. With straight edges it is the sum over them of the triangles
/// that they span with one place of the plane (their signed areas undo what lies outside), which takes a
/// fraction of the kernel's integral.
Vec3 middleOfFlat(const TopoDS_Face& face, const gp_Pln& plane) {
    const gp_Pnt base = plane.Location();
    const gp_Vec out(plane.Axis().Direction());
    double twice = 0;
    gp_Vec sum;
    bool straight = true;
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More() && straight; x.Next()) {
        const TopoDS_Edge& edge = TopoDS::Edge(x.Current());
        const TopoDS_Vertex from = TopExp::FirstVertex(edge, true), to = TopExp::LastVertex(edge, true);
        straight = !BRep_Tool::Degenerated(edge) && BRepAdaptor_Curve(edge).GetType() == GeomAbs_Line &&
                   !from.IsNull() && !to.IsNull();
        if (!straight) break;
        const gp_Vec p(base, BRep_Tool::Pnt(from)), q(base, BRep_Tool::Pnt(to));
        const double area = p.Crossed(q).Dot(out);
        twice += area;
        sum += (p + q) * (area / 3);
    }
    if (straight && twice != 0) return toVec(base.Translated(sum / twice));
    GProp_GProps props;
    BRepGProp::SurfaceProperties(face, props);
    return toVec(props.CentreOfMass());
}

} // namespace

NameBuilder::NameBuilder(const TopoDS_Shape& result) : m_shape(std::make_shared<NamedShape>()) {
    m_shape->shape = result;
    TopExp::MapShapes(result, TopAbs_FACE, m_shape->faces);
    TopExp::MapShapes(result, TopAbs_EDGE, m_shape->edges);
    TopExp::MapShapes(result, TopAbs_VERTEX, m_shape->vertices);
    TopExp::MapShapesAndUniqueAncestors(result, TopAbs_EDGE, TopAbs_FACE, m_shape->facesOfEdge);
    TopExp::MapShapesAndUniqueAncestors(result, TopAbs_VERTEX, TopAbs_FACE, m_shape->facesOfVertex);
}

void NameBuilder::add(const TopoDS_Shape& face, NamePtr name) {
    if (!has(face)) return;
    if (!m_shape->names.IsBound(face)) m_shape->names.Bind(face, {});
    NameList& list = m_shape->names.ChangeFind(face);
    if (std::find(list.begin(), list.end(), name) == list.end()) list.push_back(name);
}

void NameBuilder::add(const TopoDS_Shape& face, const NameList& names) {
    for (const NamePtr n : names) add(face, n);
}

void NameBuilder::inherit(const NamedShape& before) {
    m_shape->frames.insert(before.frames.begin(), before.frames.end());
    m_shape->middles.insert(before.middles.begin(), before.middles.end());
}

void NameBuilder::carry(const NamedShape& before, BRepBuilderAPI_MakeShape& operation) {
    inherit(before);
    for (int i = 1; i <= before.faces.Extent(); ++i) {
        const TopoDS_Shape& face = before.faces(i);
        bool changed = false;
        for (const TopoDS_Shape& now : toVector(operation.Modified(face)))
            if (has(now)) {
                add(now, before.namesOf(face));
                changed = true;
            }
        if (!changed && has(face)) add(face, before.namesOf(face));
    }
}

Result<Body> NameBuilder::finish() {
    std::set<int> steps;
    for (int i = 1; i <= m_shape->faces.Extent(); ++i) {
        const TopoDS_Shape& face = m_shape->faces(i);
        if (!named(face)) {
            Error e;
            e.code = "names.missing";
            e.sentence =
                "A face of the result has no name. This is a mistake in Good Curve; please report it.";
            return e;
        }
        NameList& list = m_shape->names.ChangeFind(face);
        std::stable_sort(list.begin(), list.end(), [](NamePtr a, NamePtr b) { return a->step < b->step; });
        for (const NamePtr n : list) steps.insert(n->steps.begin(), n->steps.end());
        if (m_shape->middles.contains(list.front())) continue;
        const BRepAdaptor_Surface surface(TopoDS::Face(face), false);
        if (surface.GetType() != GeomAbs_Plane) continue;
        const Vec3 middle = middleOfFlat(TopoDS::Face(face), surface.Plane());
        for (const NamePtr n : list) m_shape->middles.emplace(n, middle);
    }
    m_shape->steps.assign(steps.begin(), steps.end());
    m_shape->bytes = estimatedBytes(*m_shape);
    return Body(m_shape, 0);
}

} // namespace gc
