#include "core/steps/shared/find_axis.hpp"

#include "core/base/tolerance.hpp"
#include "core/document/axes.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/find_items.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <Geom_SurfaceOfRevolution.hxx>
#include <TopoDS.hxx>
#include <gp_Ax1.hxx>
#include <gp_Circ.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Elips.hxx>
#include <gp_Lin.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

namespace gc {

namespace {

Axis toAxis(const gp_Ax1& a) {
    const gp_Dir d = a.Direction();
    return {toVec(a.Location()), {d.X(), d.Y(), d.Z()}};
}

/// Of a straight edge its line, of a round one the line through its centre, square to it.
std::optional<Axis> axisOfCurve(const BRepAdaptor_Curve& curve) {
    switch (curve.GetType()) {
    case GeomAbs_Line:
        return toAxis(curve.Line().Position());
    case GeomAbs_Circle:
        return toAxis(curve.Circle().Axis());
    case GeomAbs_Ellipse:
        return toAxis(curve.Ellipse().Axis());
    default:
        break;
    }
    const auto along = straightAlong(curve);
    return along ? std::optional(Axis{toVec(curve.Value(curve.FirstParameter())), *along}) : std::nullopt;
}

std::optional<Axis> axisOfFace(const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face);
    switch (surface.GetType()) {
    case GeomAbs_Cylinder:
        return toAxis(surface.Cylinder().Axis());
    case GeomAbs_Cone:
        return toAxis(surface.Cone().Axis());
    case GeomAbs_Torus:
        return toAxis(surface.Torus().Axis());
    case GeomAbs_Sphere:
        return toAxis(surface.Sphere().Position().Axis());
    case GeomAbs_SurfaceOfRevolution:
        return toAxis(surface.AxeOfRevolution());
    default:
        return std::nullopt;
    }
}

Error noAxis(const std::string& reference, bool face) {
    Error e = errorOf(
        "axis.straight",
        face ? phrase("%1 is not round, so it has no axis. Pick a round face, or an edge.", marked(reference))
             : phrase("%1 is neither straight nor round, so it has no axis. Pick another edge or line.",
                      marked(reference)));
    e.culprits = {reference};
    return e;
}

bool isSame(const Axis& a, const Axis& b) {
    const Vec3 away = b.origin - a.origin;
    return length(cross(a.direction, b.direction)) < kParallel * 1e3 &&
           length(away - a.direction * dot(away, a.direction)) < 10 * kFlat;
}

} // namespace

Axis turnedUp(Axis a) {
    const Vec3 d = unit(a.direction);
    const bool back = std::fabs(d.z) > kFlat ? d.z < 0 : std::fabs(d.y) > kFlat ? d.y > 0 : d.x < 0;
    return {a.origin, back ? -d : d};
}

Result<Axis> axisOf(const std::string& reference, ModelReader& model) {
    if (parseEdgeRef(reference)) { // asked first: "stroke 3" could be read as the role of a face, too
        const auto edge = findCurve(reference, model);
        if (!edge) return edge.error();
        const auto axis = axisOfCurve(BRepAdaptor_Curve(*edge));
        return axis ? Result<Axis>(turnedUp(*axis)) : noAxis(reference, false);
    }
    const auto found = findFaces({reference}, model);
    if (!found) return found.error();
    std::optional<Axis> axis;
    for (const int item : found->items) {
        const auto one = axisOfFace(TopoDS::Face(found->body.shape().faces(item + 1)));
        if (!one) return noAxis(reference, true);
        if (axis && !isSame(*axis, *one))
            return errorOf("axis.several",
                           phrase("%1 is several round faces about different axes. Pick one of "
                                  "them in the stand.",
                                  marked(reference)));
        axis = one;
    }
    return turnedUp(*axis);
}

Result<Axis> findAxis(const Arguments& args, const std::string& slot, ModelReader& model, const Plane* own) {
    if (const auto made = model.axisIn(slot))
        if (const auto axis = model.axis(*made)) return *axis;
    const std::string& text = args.label(slot);
    if (text.empty())
        return errorOf("axis.none",
                       "Pick a straight edge, a drawn line or a round face in the stand, or choose "
                       "an axis from the list.");
    if (own && text == kOwnAxis) return Axis{own->origin, own->up};
    if (const auto fixed = fixedAxis(text)) return Axis{{}, *fixed};
    if (!parseFaceRef(text) && !parseEdgeRef(text))
        return errorOf("axis.lost", phrase("There is no axis called \"%1\" before this step.", text));
    return axisOf(text, model);
}

} // namespace gc
