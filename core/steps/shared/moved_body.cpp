#include "core/steps/shared/moved_body.hpp"

#include <BRepBuilderAPI_Transform.hxx>

namespace gc {

namespace {

Vec3 moved(Vec3 p, const gp_Trsf& by) {
    return toVec(gp_Pnt(p.x, p.y, p.z).Transformed(by));
}

/// A mirrored frame stays right-handed: its across is turned round. One in another size stays of length 1.
Plane moved(const Plane& plane, const gp_Trsf& by) {
    const Vec3 o = moved(plane.origin, by);
    const Vec3 across = unit(moved(plane.origin + plane.across, by) - o),
               up = unit(moved(plane.origin + plane.up, by) - o);
    return {o, by.IsNegative() ? -across : across, up};
}

} // namespace

Result<Body> movedBody(const Body& body, const gp_Trsf& by, const CopyName& name) {
    const NamedShape& before = body.shape();
    BRepBuilderAPI_Transform operation(before.shape, by, true);
    NameBuilder names(operation.Shape());
    for (int i = 1; i <= before.faces.Extent(); ++i) {
        NameList list = before.namesOf(before.faces(i));
        if (!name.role.empty())
            for (NamePtr& n : list) n = internName(name.step, name.role, {n});
        names.add(operation.ModifiedShape(before.faces(i)), list);
    }
    for (const auto& [step, frame] : before.frames) names.frame(step, moved(frame, by));
    // A copy's own faces are new: where they were when they were made is here.
    if (name.role.empty())
        for (const auto& [face, middle] : before.middles) names.middle(face, moved(middle, by));
    return names.finish();
}

} // namespace gc
