// Boss: cones that begin at the points of a drawing and end on the wall behind it, then their holes.

#include "core/sketch/drawing_words.hpp"
#include "core/steps/shared/moved_along.hpp"
#include "core/steps/shared/standing.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Ax2.hxx>

#include <algorithm>
#include <numbers>

namespace gc {

namespace {

struct Sizes {
    double radius = 0, lean = 0, bore = 0, depth = 0; ///< mm, rad; no bore: solid
    bool through = false;
};

/// A circle about a point of the drawing.
Region disc(const DrawnPlace& place, double radius) {
    Curve2 circle;
    circle.kind = Curve2::Kind::Ellipse;
    circle.p = {place.at, Vec2{radius, 0}, Vec2{0, radius}, Vec2{}};
    circle.turn = 2 * std::numbers::pi;
    Region out;
    out.outer.sides.push_back({place.stroke, circle, false});
    out.outer.area = std::numbers::pi * radius * radius;
    return out;
}

/// \param drawn in the plane of their tops
Result<NamedTool> posts(const Outline& drawn, const std::vector<DrawnPlace>& places, const Footing& standing,
                        const Sizes& sizes, int step) {
    Outline outline = drawn;
    Movement by;
    by.slant = drawn.plane.normal();
    by.to = standing.sense * standing.far;
    by.mayEndBefore = true;
    if (sizes.lean > 0) by.lean = -sizes.lean;
    TopoDS_Compound solids;
    BRep_Builder().MakeCompound(solids);
    NamedTool tool;
    tool.step = step;
    tool.frame = drawn.plane;
    const NamePtr start = internName(step, "start");
    for (std::size_t i = 0; i < places.size(); ++i) {
        const DrawnPlace& p = places[i];
        outline.madeRoles[p.stroke] = "wall " + std::to_string(p.stroke);
        const auto& foot = standing.feet[i];
        if (!foot) {
            Error e = errorOf("boss.within",
                              phrase("%1 lies within the part, so no boss begins there. Draw it before the "
                                     "wall.",
                                     nameOf(*drawn.drawing, p.stroke)));
            e.place = drawn.plane.at(p.at);
            return e;
        }
        auto moved = movedAlong(outline, disc(p, sizes.radius), by);
        if (!moved) return moved.error();
        const Vec3 within =
            drawn.plane.at(p.at) + by.slant * (standing.sense * std::min(0.02, foot->distance / 2));
        const std::size_t before = tool.names.size();
        if (auto done = addStanding(std::move(*moved), standing, {toPnt(within)}, step, solids, tool);
            !done) {
            Error e = done.error();
            if (e.code == "standing.open")
                e.sentence = phrase("The boss at %1 reaches past the wall. Move it inward, or make it "
                                    "narrower.",
                                    nameOf(*drawn.drawing, p.stroke));
            return e;
        }
        for (std::size_t k = before, end = tool.names.size(); k < end; ++k)
            if (tool.names[k].second == start)
                tool.names.emplace_back(tool.names[k].first,
                                        internName(step, "top " + std::to_string(p.stroke)));
    }
    tool.shape = onlySolid(solids);
    return joinedSolids(tool);
}

NamedTool bores(const Outline& drawn, const std::vector<DrawnPlace>& places, const Footing& standing,
                const Sizes& sizes, int step) {
    constexpr double kPast = 1; // mm: so that no skin is left
    const Vec3 n = drawn.plane.normal() * standing.sense;
    TopoDS_Compound solids;
    BRep_Builder().MakeCompound(solids);
    NamedTool tool;
    tool.step = step;
    tool.frame = drawn.plane;
    for (std::size_t i = 0; i < places.size(); ++i) {
        const std::string which = std::to_string(places[i].stroke);
        const auto& foot = *standing.feet[i];
        const double to =
            sizes.through ? foot.distance + (foot.wall > 0 ? foot.wall + kPast : standing.far) : sizes.depth;
        const gp_Ax2 axis(toPnt(drawn.plane.at(places[i].at) - n * kPast), gp_Dir(n.x, n.y, n.z));
        const TopoDS_Shape pin = BRepPrimAPI_MakeCylinder(axis, sizes.bore / 2, to + kPast).Solid();
        BRep_Builder().Add(solids, pin);
        for (TopExp_Explorer x(pin, TopAbs_FACE); x.More(); x.Next()) {
            const BRepAdaptor_Surface surface(TopoDS::Face(x.Current()));
            const bool wall = surface.GetType() == GeomAbs_Cylinder;
            tool.names.emplace_back(x.Current(), internName(step, (wall ? "bore " : "floor ") + which));
        }
    }
    tool.shape = onlySolid(solids);
    return tool;
}

/// A hole that is meant to end within the post or the wall, and would come out behind it or nearly so.
std::optional<Error> thinBehind(const Footing& standing, const Sizes& sizes, int step) {
    constexpr double kLeast = 0.3; // of the wall that stays behind the hole
    constexpr double kGrain = 0.1; // mm: as people write depths
    if (sizes.bore == 0 || sizes.through) return std::nullopt;
    double most = 1e300;
    for (const auto& f : standing.feet)
        if (f && f->wall > 0) most = std::min(most, f->distance + (1 - kLeast) * f->wall);
    if (sizes.depth <= most) return std::nullopt;
    Error e = errorOf("boss.behind", phrase("A hole %1 deep leaves less than a third of the wall behind it.",
                                            formatAmount(sizes.depth, "mm")));
    Remedy r;
    r.step = step;
    r.slot = "depth";
    r.value = formatAmount(std::floor(most / kGrain) * kGrain, "mm", 2);
    r.sentence = phrase("Make it %1", r.value);
    r.tried = false;
    e.remedies.push_back(r);
    return e;
}

Result<StepChange> boss(const Arguments& args, ModelReader& model) {
    const Outline* drawn = nullptr;
    const auto places = drawnPlaces(args, model, "boss", drawn);
    if (!places) return places.error();
    Sizes sizes;
    sizes.radius = args.number("diameter") / 2;
    sizes.lean = args.number("lean");
    const std::string& hole = args.text("hole");
    sizes.through = hole == "through";
    if (hole != "none") sizes.bore = args.number("bore");
    if (hole == "blind") sizes.depth = args.number("depth");
    if (sizes.bore >= 2 * sizes.radius)
        return errorOf("boss.bore", phrase("Its hole of %1 is as wide as the boss itself, or wider. Make the "
                                           "boss wider than that, or the hole narrower.",
                                           formatAmount(sizes.bore, "mm")));
    std::vector<Vec3> at;
    for (const DrawnPlace& p : *places) at.push_back(drawn->plane.at(p.at));
    const auto standing = standingOn(args, model, at, drawn->plane.normal(), true);
    if (!standing) return standing.error();
    Outline top = *drawn;
    top.plane = moved(drawn->plane, standing->lift);
    auto tool = posts(top, *places, *standing, sizes, args.id());
    if (!tool) return tool.error();
    auto change = become(standing->becoming, *tool, places->size(), args, model);
    if (!change) return change.error();
    roundFeet(args, *change);
    const double foot = sizes.radius + standing->farthestFoot() * std::tan(sizes.lean);
    if (sizes.bore > 0) {
        const NamedTool pins = bores(top, *places, *standing, sizes, args.id());
        bool met = false;
        for (Change& c : change->list) {
            auto* changed = std::get_if<ChangedBody>(&c);
            if (!changed) continue;
            auto bored = combine(changed->body, pins, Combine::Take);
            if (!bored && bored.error().code == "combine.apart") continue;
            if (!bored) return bored.error();
            changed->body = std::move(*bored);
            met = true;
        }
        if (!met) return errorOf("boss.hole", "Its holes cannot be bored.");
        if (!change->doubt)
            change->doubt =
                sinkDoubt(*standing, foot - sizes.bore / 2, args.id(), "diameter", 2 * sizes.radius, 0.5);
        if (!change->doubt) change->doubt = thinBehind(*standing, sizes, args.id());
    } else if (!change->doubt) {
        change->doubt = sinkDoubt(*standing, 2 * foot, args.id(), "diameter", 2 * sizes.radius);
    }
    return change;
}

} // namespace

Result<StepChange> runBoss(const Arguments& args, ModelReader& model, const Progress&) {
    return guarded("boss.failed", "No boss can be made here.", [&] { return boss(args, model); });
}

} // namespace gc
