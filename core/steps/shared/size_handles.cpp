#include "core/steps/shared/size_handles.hpp"

#include "core/shape/foot_point.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/face_normal.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRep_Tool.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// In the middle, or of a closed edge at the front right, where it is likely to be seen.
double shareShown(const BRepAdaptor_Curve& curve) {
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    if (curve.Value(from).Distance(curve.Value(to)) > 1e-6) return 0.5;
    const gp_Vec seen(0.4, -1, 0);
    constexpr int kLooks = 16;
    double best = 0.5, most = -1e300;
    for (int i = 0; i < kLooks; ++i) {
        const double share = (i + 0.5) / kLooks,
                     front = gp_Vec(curve.Value(from + share * (to - from)).XYZ()).Dot(seen);
        if (front > most) most = front, best = share;
    }
    return best;
}

} // namespace

void asAid(const std::function<void()>& work) {
    (void)guarded("handle.unknown", "The handle is not known.", [&]() -> Result<Done> {
        work();
        return Done{};
    });
}

std::optional<AtEdge> atEdge(const NamedShape& shape, const TopoDS_Edge& edge) {
    const auto faces = facesBeside(shape, edge);
    if (faces.size() != 2 || BRep_Tool::Degenerated(edge)) return std::nullopt;
    const BRepAdaptor_Curve curve(edge);
    AtEdge out;
    gp_Pnt p;
    gp_Vec along;
    const double share = shareShown(curve);
    curve.D1(curve.FirstParameter() + share * (curve.LastParameter() - curve.FirstParameter()), p, along);
    if (along.Magnitude() < 1e-12) return std::nullopt;
    out.at = toVec(p);
    for (std::size_t k = 0; k < 2; ++k) {
        const TopoDS_Face face = TopoDS::Face(faces[k]);
        const auto n = normalBeside(edge, face, share);
        if (!n) return std::nullopt;
        // The face lies to the left of its borders.
        const bool back = asIn(face, edge).Orientation() == TopAbs_REVERSED;
        gp_Vec into = n->Crossed(back ? -along : along);
        if (into.Magnitude() < 1e-12) return std::nullopt;
        into.Normalize();
        out.into[k] = toWay(into);
    }
    out.turn = std::acos(std::clamp(dot(out.into[0], out.into[1]), -1.0, 1.0));
    return out;
}

Handle sizeHandle(std::string slot, Vec3 from, Vec3 direction, double value, double way) {
    Handle h;
    h.slot = std::move(slot);
    h.from = from;
    h.direction = direction;
    h.value = value;
    h.way = way;
    return h;
}

std::optional<Handle> radiusHandle(std::string slot, const NamedShape& shape, const TopoDS_Edge& edge,
                                   double radius) {
    constexpr double kSharpest = 0.02; // rad: beyond that an arrow would run off
    const auto there = atEdge(shape, edge);
    if (!there || there->turn < kSharpest || std::tan(there->turn / 2) > 1 / kSharpest) return std::nullopt;
    return sizeHandle(std::move(slot), there->at, there->into[0], radius, 1 / std::tan(there->turn / 2));
}

Handle turnHandle(std::string slot, Vec3 from, Vec3 about, Vec3 arm, double value) {
    Handle h = sizeHandle(std::move(slot), from, about, value);
    h.turns = true;
    h.arm = arm;
    return h;
}

} // namespace gc
