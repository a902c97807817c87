// Boss: cones that begin at the points of a drawing and end on the wall behind it, then their holes.

#include "core/sketch/plain_loops.hpp"
#include "core/steps/shared/moved_along.hpp"
#include "core/steps/shared/size_remedy.hpp"
#include "core/steps/shared/standing.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Ax2.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

struct Sizes {
    double radius = 0, lean = 0, bore = 0, depth = 0; ///< mm, rad; no bore: solid
    bool through = false;
};

Result<NamedTool> posts(const StandingPlaces& at, const Sizes& sizes, int step) {
    const Plane& plane = at.top.plane;
    const Footing& footing = at.footing;
    Outline outline = at.top;
    Movement by;
    by.slant = plane.normal();
    by.to = footing.sense * footing.far;
    by.mayEndBefore = true;
    if (sizes.lean > 0) by.lean = -sizes.lean;
    ToolOfSolids made(step, plane);
    const NamePtr start = internName(step, "start");
    for (std::size_t i = 0; i < at.places.size(); ++i) {
        const DrawnPlace& p = at.places[i];
        const std::string which = std::to_string(p.stroke);
        outline.madeRoles[p.stroke] = "wall " + which;
        const auto& foot = footing.feet[i];
        if (!foot) {
            Error e = errorOf("boss.within",
                              phrase("%1 lies within the part, so no boss begins there. Draw it before "
                                     "the wall.",
                                     p.called));
            e.place = plane.at(p.at);
            return e;
        }
        auto swept = movedAlong(outline, discArea(p.at, sizes.radius, p.stroke), by);
        if (!swept) return swept.error();
        const Vec3 within = plane.at(p.at) + by.slant * (footing.sense * foot->justPast());
        const std::size_t before = made.tool.names.size();
        if (const auto done = addStanding(std::move(*swept), footing, {placeIn(within)}, made); !done) {
            Error e = done.error();
            if (e.code == "standing.open")
                e.sentence = phrase("The boss at %1 reaches past the wall. Move it inward, or make it "
                                    "narrower.",
                                    p.called);
            return e;
        }
        for (std::size_t k = before, end = made.tool.names.size(); k < end; ++k)
            if (made.tool.names[k].second == start)
                made.tool.names.emplace_back(made.tool.names[k].first, internName(step, "top " + which));
    }
    return joinedSolids(made);
}

NamedTool bores(const StandingPlaces& at, const Sizes& sizes, int step) {
    constexpr double kPast = 1; // mm: so that no skin is left
    const Plane& plane = at.top.plane;
    const Vec3 n = plane.normal() * at.footing.sense;
    ToolOfSolids made(step, plane);
    for (std::size_t i = 0; i < at.places.size(); ++i) {
        const std::string which = std::to_string(at.places[i].stroke);
        const auto& foot = *at.footing.feet[i];
        const double to = sizes.through ? foot.distance + (foot.wall > 0 ? foot.wall + kPast : at.footing.far)
                                        : sizes.depth;
        const gp_Ax2 axis(placeIn(plane.at(at.places[i].at) - n * kPast), gp_Dir(n.x, n.y, n.z));
        const TopoDS_Shape pin = BRepPrimAPI_MakeCylinder(axis, sizes.bore / 2, to + kPast).Solid();
        BRep_Builder().Add(made.solids, pin);
        for (TopExp_Explorer x(pin, TopAbs_FACE); x.More(); x.Next()) {
            const bool wall = BRepAdaptor_Surface(TopoDS::Face(x.Current())).GetType() == GeomAbs_Cylinder;
            made.tool.names.emplace_back(x.Current(), internName(step, (wall ? "bore " : "floor ") + which));
        }
    }
    return made.whole();
}

/// Takes the holes from every body that the posts were added to.
std::optional<Error> bore(StepChange& change, const NamedTool& pins) {
    bool met = false;
    for (Change& c : change.list) {
        auto* changed = std::get_if<ChangedBody>(&c);
        if (!changed) continue;
        auto bored = combine(changed->body, pins, Combine::Take);
        if (!bored && bored.error().code == "combine.apart") continue;
        if (!bored) return bored.error();
        changed->body = std::move(*bored);
        met = true;
    }
    if (met) return std::nullopt;
    return errorOf("boss.hole", "Its holes cannot be bored.");
}

/// A hole that is meant to end within the post or the wall, and would come out behind it or nearly so.
std::optional<Error> thinBehind(const Footing& footing, const Sizes& sizes, int step) {
    constexpr double kLeast = 0.3; // of the wall that stays behind the hole
    constexpr double kGrain = 0.1; // mm: as people write depths
    if (sizes.bore == 0 || sizes.through) return std::nullopt;
    double most = 1e300;
    for (const auto& f : footing.feet)
        if (f && f->wall > 0) most = std::min(most, f->distance + (1 - kLeast) * f->wall);
    if (sizes.depth <= most) return std::nullopt;
    Error e = errorOf("boss.behind", phrase("A hole %1 deep leaves less than a third of the wall behind it.",
                                            formatAmount(sizes.depth, "mm")));
    e.remedies.push_back(makeIt(step, "depth", std::floor(most / kGrain) * kGrain));
    return e;
}

/// What would show on the wall's far side.
std::optional<Error> doubtOf(const Footing& footing, const Sizes& sizes, int step) {
    const double foot = sizes.radius + footing.farthestFoot() * std::tan(sizes.lean);
    const bool bored = sizes.bore > 0;
    // Of a bored one the wall around its hole counts, and that grows by half of what the boss does.
    auto e = sinkDoubt(footing, bored ? foot - sizes.bore / 2 : 2 * foot, step, "diameter", 2 * sizes.radius,
                       bored ? 0.5 : 1);
    return e ? e : thinBehind(footing, sizes, step);
}

Result<StepChange> boss(const Arguments& args, ModelReader& model) {
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
    const auto at = standingPlaces(args, model, "boss");
    if (!at) return at.error();
    const auto tool = posts(*at, sizes, args.id());
    if (!tool) return tool.error();
    auto change = become(at->footing.becoming, *tool, at->places.size(), args, model);
    if (!change) return change.error();
    roundFeet(args, *change);
    if (sizes.bore > 0)
        if (auto e = bore(*change, bores(*at, sizes, args.id()))) return *e;
    if (!change->doubt) change->doubt = doubtOf(at->footing, sizes, args.id());
    return change;
}

} // namespace

Result<StepChange> runBoss(const Arguments& args, ModelReader& model, const Progress&) {
    return guarded("boss.failed", "No boss can be made here.", [&] { return boss(args, model); });
}

} // namespace gc
