// Flange: a ring outside a rim, as thick as is said below its level, and a second one along its edge.

#include "core/steps/shared/below_rim.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/rim_ring.hpp"
#include "core/steps/shared/without_seam.hpp"

#include <BRepExtrema_DistShapeShape.hxx>

#include <algorithm>

namespace gc {

namespace {

/// How wide the rim is where it is narrowest, mm; nothing where it has only one border.
std::optional<double> widthOf(const Rim& rim) {
    std::optional<double> least;
    for (const TopoDS_Wire& inner : rim.inner) {
        const BRepExtrema_DistShapeShape d(rim.outer, inner);
        if (d.IsDone()) least = std::min(least.value_or(1e300), d.Value());
    }
    return least;
}

/// A ring outside a border or within an opening, so far below the rim's level.
Result<Body> withRing(const Body& body, const FoundItems& found, const Rim& rim, int step,
                      const RingWish& wish, const char* kind, ModelReader& model) {
    RingTool ring(found, rim, step, kind);
    if (const auto added = ring.add(wish.outward ? rim.outer : rim.inner.front(), wish); !added)
        return added.error();
    const NamedTool tool = ring.whole();
    if (const auto shown = bodyOf(tool)) model.show(*shown, false);
    auto made = combine(body, tool, Combine::Add);
    // Where the wall leans away below the rim the ring only touches it: then it begins within the wall.
    constexpr double kRooted = 0.9; // of what the rim is wide
    if (made || made.error().code != "combine.touches" || wish.from != 0) return made;
    RingWish rooted = wish;
    rooted.from = -kRooted * widthOf(rim).value_or(wish.height);
    return withRing(body, found, rim, step, rooted, kind, model);
}

/// As if it had always been one, where that can be.
Body atOne(const Body& body, const Plane& plane, int step) {
    const auto whole = withoutSeam(body, plane, step);
    return whole ? *whole : body;
}

Result<StepChange> flange(const Arguments& args, ModelReader& model, const FoundItems& picked) {
    const auto own = onOwnEdges(picked);
    if (!own) return own.error();
    const FoundItems& found = *own;
    const auto rim = rimOf(found);
    if (!rim) return rim.error();
    const bool out = args.text("way") == "out", turned = args.text("edge") == "turned";
    if (!out && rim->inner.size() != 1)
        return errorOf("flange.open",
                       "Into an opening a flange reaches from a rim with just one of them. Pick such a "
                       "rim, or let it reach outward.");
    const double reach = args.number("reach"), thickness = args.number("thickness");
    const double drop = turned ? args.number("drop") : 0;
    if (turned && reach <= thickness)
        return errorOf("flange.turned",
                       phrase("Its edge is %1 thick itself, so a flange that reaches %2 has none to "
                              "turn down. Make it wider, or leave it flat.",
                              formatAmount(thickness, "mm", 2), formatAmount(reach, "mm", 2)));
    if (turned && drop <= thickness)
        return errorOf("flange.turned",
                       phrase("Turned down by %1 its edge does not come out below a flange of %2. Turn "
                              "it down further, or leave it flat.",
                              formatAmount(drop, "mm", 2), formatAmount(thickness, "mm", 2)));
    BelowRim below{Combine::Add, reach, out, thickness, 0, {}};
    if (turned) below.drop = drop;
    if (auto set =
            setBelowRim(found, *rim, args.id(), "flange", {out ? rim->outer : rim->inner.front()}, below)) {
        StepChange change(ChangedBody{found.id, *set});
        change.notes = found.notes;
        return change;
    }
    RingWish wish{0, reach, out, -rim->plane.normal(), thickness, 0};
    auto body = withRing(found.body, found, *rim, args.id(), wish, "flange", model);
    if (!body) return body.error();
    if (turned) {
        wish.from = reach - thickness;
        wish.height = drop;
        body = withRing(*body, found, *rim, args.id(), wish, "skirt", model);
        if (!body) return body.error();
        body = atOne(*body, moved(rim->plane, -thickness), args.id());
    }
    StepChange change(ChangedBody{found.id, atOne(*body, rim->plane, args.id())});
    change.notes = found.notes;
    return change;
}

} // namespace

Result<StepChange> runFlange(const Arguments& args, ModelReader& model, const Progress&) {
    const auto found = findFaces(args.references("rim"), model);
    if (!found) return found.error();
    return guarded("flange.failed", "No flange can be made around this rim.",
                   [&] { return flange(args, model, *found); });
}

} // namespace gc
