#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/places.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <GCPnts_AbscissaPoint.hxx>

namespace gc {

namespace {

/// A vector turned about a unit axis by an angle (Rodrigues' formula).
Vec3 turnedAbout(Vec3 v, Vec3 axis, double angle) {
    return v * std::cos(angle) + cross(axis, v) * std::sin(angle) +
           axis * (dot(axis, v) * (1 - std::cos(angle)));
}

/// The plane's directions, turned by the least angle that brings its normal to n.
Plane swungOnto(const Plane& plane, Vec3 n) {
    const Vec3 from = plane.normal(), about = cross(from, n);
    if (length(about) < 1e-12) return plane;
    const double angle = std::atan2(length(about), dot(from, n));
    const Vec3 axis = unit(about);
    return {plane.origin, turnedAbout(plane.across, axis, angle), turnedAbout(plane.up, axis, angle)};
}

Result<Plane> awayFrom(const Arguments& args, ModelReader& model) {
    const auto base = findPlane(args, "from", model);
    if (!base) return base;
    Handle h = sizeHandle("distance", base->origin, base->normal(), args.number("distance"));
    h.loose = true;
    model.show(h);
    return moved(*base, h.value);
}

Result<Plane> throughPoints(const Arguments& args, ModelReader& model) {
    const References& refs = args.references("points");
    if (refs.size() != 3)
        return errorOf(
            "plane.points",
            phrase("A plane needs three points; %1%2 picked. Click corners, middles or centres in the stand.",
                   std::to_string(refs.size()), (refs.size() == 1 ? " is" : " are")));
    Vec3 p[3];
    for (std::size_t i = 0; i < 3; ++i) {
        const auto at = findPoint(refs[i], model);
        if (!at) return at.error();
        p[i] = *at;
    }
    const Vec3 n = cross(p[1] - p[0], p[2] - p[0]);
    const double size = std::max({length(p[1] - p[0]), length(p[2] - p[0]), length(p[2] - p[1])});
    if (length(n) < 1e-6 * size * size || size < 1e-6)
        return errorOf("plane.row", "The three points lie on one line, so many planes go through them. Pick "
                                    "one that lies beside that line.");
    // Seen from above, or from the front where it stands upright: not from where the order of clicks says.
    const Vec3 u = unit(n);
    const bool away = std::fabs(u.z) > 1e-6 ? u.z < 0 : std::fabs(u.y) > 1e-6 ? u.y > 0 : u.x < 0;
    return planeFacing(p[0], away ? -u : u);
}

Result<Plane> throughEdge(const Arguments& args, ModelReader& model) {
    const References& refs = args.references("edge");
    if (refs.empty()) return errorOf("plane.edge", "Pick a straight edge in the stand.");
    const auto edge = findCurve(refs.front(), model);
    if (!edge) return edge.error();
    const BRepAdaptor_Curve curve(*edge);
    const auto axis = straightAlong(curve);
    if (!axis) {
        Error e = errorOf("plane.bent",
                          phrase("%1 is not straight. Pick a straight edge, or use \"across an edge\".",
                                 marked(refs.front())));
        e.culprits = {refs.front()};
        return e;
    }
    const auto base = findPlane(args, "from", model);
    if (!base) return base;
    const Vec3 n = base->normal() - *axis * dot(base->normal(), *axis);
    if (length(n) < kParallel)
        return errorOf("plane.square", "The edge stands square on that plane, so an angle to it says "
                                       "nothing. Take the angle from another plane.");
    // The frame of the other plane, swung about the edge: a drawing turns with the angle and never jumps, as
    // it would if "up" were asked of the space at each angle anew.
    const Plane start = swungOnto(*base, unit(n));
    const double angle = args.number("angle");
    return Plane{toVec(curve.Value(curve.FirstParameter())), turnedAbout(start.across, *axis, angle),
                 turnedAbout(start.up, *axis, angle)};
}

Result<Plane> acrossEdge(const Arguments& args, ModelReader& model) {
    const References& refs = args.references("edge");
    if (refs.empty()) return errorOf("plane.edge", "Pick an edge or a drawn curve in the stand.");
    const auto edge = findCurve(refs.front(), model);
    if (!edge) return edge.error();
    const BRepAdaptor_Curve curve(*edge);
    const double way = GCPnts_AbscissaPoint::Length(curve) * args.number("along");
    const GCPnts_AbscissaPoint place(curve, way, curve.FirstParameter());
    gp_Pnt at;
    gp_Vec tangent;
    curve.D1(place.IsDone() ? place.Parameter() : curve.FirstParameter(), at, tangent);
    if (tangent.Magnitude() < 1e-12)
        return errorOf("plane.still", "The curve has no direction there. Choose another place along it.");
    return planeFacing(toVec(at), {tangent.X(), tangent.Y(), tangent.Z()});
}

Result<Plane> touching(const Arguments& args, ModelReader& model) {
    const References& points = args.references("point");
    if (points.empty())
        return errorOf("plane.spot", "Pick the face in the stand, where the plane shall touch it.");
    const References& refs = args.references("face");
    if (refs.empty()) return errorOf("plane.face", "Pick a face in the stand.");
    const auto found = findFaces(refs, model);
    if (!found) return found.error();
    const auto at = findPoint(points.front(), model);
    if (!at) return at.error();
    const auto best = nearestOnFaces(found->body, found->items, *at);
    if (!best) return errorOf("plane.tip", "The face has no direction there. Pick another spot of it.");
    return planeFacing(best->at, best->normal);
}

/// Points of it are as far before the first plane as before the second.
Result<Plane> midway(const Arguments& args, ModelReader& model) {
    const auto a = findPlane(args, "from", model);
    if (!a) return a;
    const auto b = findPlane(args, "to", model);
    if (!b) return b;
    const Vec3 n = a->normal() - b->normal();
    if (length(n) < kParallel) return moved(*a, 0.5 * a->before(b->origin));
    // n . p = a . pa - b . pb, and of all its points the nearest to halfway between the two origins.
    const Vec3 u = unit(n), halfway = (a->origin + b->origin) * 0.5;
    const double level = (dot(a->normal(), a->origin) - dot(b->normal(), b->origin)) / length(n);
    return planeFacing(halfway + u * (level - dot(u, halfway)), u);
}

using Way = Result<Plane> (*)(const Arguments&, ModelReader&);
constexpr std::pair<const char*, Way> kWays[] = {
    {"away from", awayFrom},          {"through points", throughPoints},
    {"through an edge", throughEdge}, {"across an edge", acrossEdge},
    {"touching", touching},           {"midway between", midway},
};

} // namespace

Result<StepChange> runPlane(const Arguments& args, ModelReader& model, const Progress&) {
    for (const auto& [words, way] : kWays) {
        if (args.text("way") != words) continue;
        return guarded("plane.failed", "The plane cannot be made. Pick something else for it to lean on.",
                       [&, run = way]() -> Result<StepChange> {
                           const auto plane = run(args, model);
                           if (!plane) return plane.error();
                           return StepChange(MadePlane{*plane});
                       });
    }
    return errorOf("plane.way", phrase("This version cannot make a plane \"%1\".", args.text("way")));
}

} // namespace gc
