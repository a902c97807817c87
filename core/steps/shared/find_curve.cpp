#include "core/steps/shared/find_curve.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/space_pieces.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/profile.hpp"

#include <TopoDS.hxx>
#include <gp_Ax3.hxx>

#include <algorithm>

namespace gc {

gp_Trsf placementOf(const Plane& plane) {
    const auto frame = [](const Plane& p) {
        const Vec3 n = p.normal();
        return gp_Ax3(gp_Pnt(p.origin.x, p.origin.y, p.origin.z), gp_Dir(n.x, n.y, n.z),
                      gp_Dir(p.across.x, p.across.y, p.across.z));
    };
    gp_Trsf t;
    t.SetDisplacement(frame(Plane()), frame(plane));
    return t;
}

std::optional<Vec3> straightAlong(const Adaptor3d_Curve& curve) {
    constexpr int kLooks = 16;
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    const Vec3 start = toVec(curve.Value(from)), end = toVec(curve.Value(to));
    if (length(end - start) < 10 * kFlat) return std::nullopt;
    const Vec3 u = unit(end - start);
    for (int i = 1; i < kLooks; ++i) {
        const Vec3 p = toVec(curve.Value(from + (to - from) * i / kLooks)) - start;
        if (length(p - u * dot(p, u)) > 10 * kFlat) return std::nullopt;
    }
    return u;
}

Result<std::vector<TopoDS_Edge>> findCurvePieces(const std::string& reference, ModelReader& model) {
    const auto ref = parseEdgeRef(reference);
    if (!ref) return ref.error();
    if (ref->kind != EdgeRef::Kind::Curve) {
        const auto edge = findCurve(reference, model);
        if (!edge) return edge.error();
        return std::vector{*edge};
    }
    const SpaceCurve* curve = model.curve({ref->step, 0});
    if (!curve) {
        Error e =
            errorOf("reference.lost", phrase("There is no curve of %1 any more.", markedStep(ref->step)));
        e.culprits = {reference};
        return e;
    }
    return edgesOf(curve->pieces());
}

Result<TopoDS_Edge> findCurve(const std::string& reference, ModelReader& model) {
    const auto ref = parseEdgeRef(reference);
    if (!ref) return ref.error();
    if (ref->kind == EdgeRef::Kind::Stroke) {
        const Outline* drawn = model.outline({ref->step, 0});
        const auto stroke = drawn ? drawn->strokes.find(ref->item) : StrokeCurves::const_iterator();
        if (!drawn || stroke == drawn->strokes.end() || stroke->second.empty())
            return notDrawn(reference, ref->step);
        for (const auto& [piece, from] : drawn->cutFrom)
            if (const auto line = drawn->lineage(piece);
                drawn->strokes.count(piece) &&
                std::find(line.begin() + 1, line.end(), ref->item) != line.end()) {
                Error e = errorOf("curve.several",
                                  phrase("%1 was cut into pieces; one is needed here. Pick it in the stand.",
                                         marked(reference)));
                e.culprits = {reference};
                return e;
            }
        TopLoc_Location place(placementOf(drawn->plane));
        return TopoDS::Edge(edgeOfStroke(stroke->second).Moved(place));
    }
    if (ref->kind == EdgeRef::Kind::Curve) {
        const auto pieces = findCurvePieces(reference, model);
        if (!pieces) return pieces.error();
        if (pieces->size() == 1) return pieces->front();
    }
    if (ref->kind == EdgeRef::Kind::Curve || ref->kind == EdgeRef::Kind::Chain)
        return errorOf("curve.one",
                       phrase("%1 may be several pieces; one edge or stroke is needed here. Pick it in the "
                              "stand.",
                              marked(reference)));
    const auto found = findEdges({reference}, model);
    if (!found) return found.error();
    if (found->items.size() > 1) {
        Error e = errorOf("curve.several", phrase("%1 is %2 edges; one is needed here. Pick it in the stand.",
                                                  marked(reference), std::to_string(found->items.size())));
        e.culprits = {reference};
        return e;
    }
    return TopoDS::Edge(found->body.shape().edges(found->items.front() + 1));
}

} // namespace gc
