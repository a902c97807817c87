#include "core/steps/shared/without_seam.hpp"

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/edge_work.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopoDS.hxx>

#include <cmath>
#include <utility>

namespace gc {

namespace {

/// Does an edge or a vertex lie in a plane?
bool liesIn(const TopoDS_Shape& shape, const Plane& plane) {
    constexpr double kIn = 1e-5; // mm: joined faces meet within the tolerance of their edges
    if (shape.ShapeType() == TopAbs_VERTEX)
        return std::fabs(plane.before(toVec(BRep_Tool::Pnt(TopoDS::Vertex(shape))))) < kIn;
    const BRepAdaptor_Curve curve(TopoDS::Edge(shape));
    for (const double t : {0.0, 0.27, 0.5, 0.81, 1.0}) {
        const double at = curve.FirstParameter() + t * (curve.LastParameter() - curve.FirstParameter());
        if (std::fabs(plane.before(toVec(curve.Value(at)))) > kIn) return false;
    }
    return true;
}

Result<Body> unified(const Body& joined, ShapeUpgrade_UnifySameDomain& unify, int step) {
    unify.Build();
    NamedTool out = toolOf(joined, step);
    out.shape = unify.Shape();
    const auto before = std::exchange(out.names, {});
    for (const auto& [face, name] : before) {
        auto now = toVector(unify.History()->Modified(face));
        if (now.empty()) now.push_back(face);
        for (const TopoDS_Shape& f : now) out.names.emplace_back(f, name);
    }
    return bodyOf(out);
}

} // namespace

Result<Body> withoutSeam(const Body& joined, const Plane& plane, int step) {
    const NamedShape& shape = joined.shape();
    ShapeUpgrade_UnifySameDomain unify(shape.shape, true, true, false);
    for (const auto* kept : {&shape.edges, &shape.vertices})
        for (int i = 1; i <= kept->Extent(); ++i)
            if (!liesIn((*kept)(i), plane)) unify.KeepShape((*kept)(i));
    return unified(joined, unify, step);
}

Result<Body> withoutNewEdges(const Body& joined, const Body& before, int step) {
    const NamedShape &shape = joined.shape(), &was = before.shape();
    ShapeUpgrade_UnifySameDomain unify(shape.shape, true, true, false);
    for (int i = 1; i <= shape.edges.Extent(); ++i) {
        const auto faces = facesBeside(shape, TopoDS::Edge(shape.edges(i)));
        const bool within = faces.size() == 2 && firstName(shape, faces[0]) == firstName(shape, faces[1]);
        if (!within || was.edges.Contains(shape.edges(i))) unify.KeepShape(shape.edges(i));
    }
    for (int i = 1; i <= shape.vertices.Extent(); ++i)
        if (was.vertices.Contains(shape.vertices(i))) unify.KeepShape(shape.vertices(i));
    return unified(joined, unify, step);
}

Result<Body> withoutCorners(const Body& body, const TopTools_IndexedMapOfShape& corners, int step) {
    const NamedShape& shape = body.shape();
    ShapeUpgrade_UnifySameDomain unify(shape.shape, true, false, false);
    for (int i = 1; i <= shape.vertices.Extent(); ++i)
        if (!corners.Contains(shape.vertices(i))) unify.KeepShape(shape.vertices(i));
    return unified(body, unify, step);
}

} // namespace gc
